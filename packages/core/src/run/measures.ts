import { present } from '../present.js';
import type { Machine } from '../machine/index.js';
import { watchBraking } from './measured/braking.js';
import { watchHops } from './measured/hops.js';
import { type Moment, steeringAxis } from './measured/moment.js';
import { watchStays } from './measured/stays.js';
import { watchUses } from './measured/uses.js';
import type { Trace } from './trace.js';

export type { Moment } from './measured/moment.js';

/** What people compare of two runs. Metres, seconds, metres a second. NaN for what did not happen. */
export interface Measures {
  ticks: number;
  /** Highest and lowest that the feet came, from where the run began. */
  apex: number;
  lowest: number;
  /** From the last tick on the ground to the highest point of the run. */
  timeToApex: number;
  /** How high the first hop of a flight went, and a second one from where that began. */
  firstHop: number;
  secondHop: number;
  /** From the start to the end, and the farthest from the start, sideways. */
  distance: number;
  reach: number;
  topSpeed: number;
  longestAirtime: number;
  /** The longest way on the ground, sideways, from letting go of the axis to standing still, and its time. */
  stopping: number;
  stoppingTime: number;
  /** The longest way on the ground, sideways, from pushing the axis the other way to going there, and its time. */
  turning: number;
  turningTime: number;
  /** Per state, how long the run was in it, the longest time and the longest way of one stay in it. */
  timeIn: Record<string, number>;
  longestIn: Record<string, number>;
  along: Record<string, number>;
  /** Per state, where the feet were on the course, sideways, when it was left first. */
  leftAt: Record<string, number>;
  /** Per cooldown, the shortest time between two uses of it. */
  between: Record<string, number>;
}

/** Measures a run while it is played: `see` after each tick, then `result`. */
export interface Measuring {
  see(now: Moment): void;
  result(): Measures;
}

export function measuring(machine: Machine, start: { x: number; y: number }): Measuring {
  const { dt } = machine;
  const hopping = watchHops(start.y);
  const braking = watchBraking(steeringAxis(machine), dt);
  const { see: seeStay, stays } = watchStays(machine, start);
  const { see: seeUse, shortest } = watchUses(machine.cooldowns.length);
  let [ticks, air, airAtApex, mostAir] = [0, 0, NaN, 0];
  let [apex, lowest, reach, topSpeed, end] = [0, 0, 0, 0, start.x];
  let before: Moment | undefined;
  return {
    see(now) {
      ticks++;
      air = now.grounded ? 0 : air + 1;
      mostAir = Math.max(mostAir, air);
      if (now.y - start.y > apex) {
        apex = now.y - start.y;
        airAtApex = air;
      }
      lowest = Math.min(lowest, now.y - start.y);
      reach = Math.max(reach, Math.abs(now.x - start.x));
      topSpeed = Math.max(topSpeed, Math.sqrt(now.vx * now.vx + now.vy * now.vy));
      end = now.x;
      hopping.see(now, before);
      braking.see(now, before);
      seeStay(now, before);
      seeUse(now, before);
      before = now;
    },
    result() {
      const hops = hopping.result();
      const leaves = machine.states.filter((state) => state.members.length === 0);
      const byState = (of: (state: number) => number): Record<string, number> =>
        Object.fromEntries(leaves.map(({ name, index }) => [name, of(index)]));
      return {
        ticks,
        apex,
        lowest,
        timeToApex: airAtApex * dt,
        firstHop: hops.first,
        secondHop: hops.second,
        distance: end - start.x,
        reach,
        topSpeed,
        longestAirtime: mostAir * dt,
        stopping: braking.stop.distance,
        stoppingTime: braking.stop.time,
        turning: braking.turn.distance,
        turningTime: braking.turn.time,
        timeIn: byState((i) => present(stays.total[i]) * dt),
        longestIn: byState((i) => present(stays.longest[i]) * dt),
        along: byState((i) => present(stays.along[i])),
        leftAt: byState((i) => present(stays.leftAt[i])),
        between: Object.fromEntries(
          machine.cooldowns.map(({ name }, i) => [name, present(shortest[i]) * dt]),
        ),
      };
    },
  };
}

/** The measures of a run that was played. */
export function measure({ machine, start, records }: Trace): Measures {
  const run = measuring(machine, start);
  for (const { body, grounded, leaves, charges, input } of records)
    run.see({ x: body.x, y: body.y, vx: body.vx, vy: body.vy, grounded, leaves, charges, input });
  return run.result();
}
