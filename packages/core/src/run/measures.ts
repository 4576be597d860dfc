import { present } from '../present.js';
import { STILL } from '../tolerances.js';
import type { TickRecord, Trace } from './trace.js';

/** What people compare of two runs. Metres, seconds, metres a second. NaN for what did not happen. */
export interface Measures {
  ticks: number;
  /** Highest and lowest that the feet came, from where the run began. */
  apex: number;
  lowest: number;
  /** From the last tick on the ground to the highest point of the run. */
  timeToApex: number;
  /** From the start to the end, and the farthest from the start, sideways. */
  distance: number;
  reach: number;
  topSpeed: number;
  longestAirtime: number;
  /** The longest way on the ground, sideways, from letting go of the first axis to standing still. */
  stopping: number;
  /** Per state, how long the run was in it, and the longest way of one stay in it. */
  timeIn: Record<string, number>;
  along: Record<string, number>;
  /** Per cooldown, the shortest time between two uses of it. */
  between: Record<string, number>;
}

export function measure(trace: Trace): Measures {
  const { machine, records, start } = trace;
  const leaves = machine.states.filter((state) => state.members.length === 0);
  const timeIn = machine.states.map(() => 0);
  const stay = machine.states.map(() => 0);
  const along = machine.states.map(() => 0);
  const result: Measures = {
    ticks: records.length,
    apex: 0,
    lowest: 0,
    timeToApex: NaN,
    distance: 0,
    reach: 0,
    topSpeed: 0,
    longestAirtime: 0,
    stopping: stoppingOf(trace),
    timeIn: {},
    along: {},
    between: Object.fromEntries(
      machine.cooldowns.map(({ name }, i) => [
        name,
        shortestBetween(records, (r) => present(r.charges[i])) * machine.dt,
      ]),
    ),
  };
  let air = 0;
  let before: { x: number; y: number } = start;
  for (const { body, grounded, leaves: active } of records) {
    air = grounded ? 0 : air + 1;
    if (body.y - start.y > result.apex) {
      result.apex = body.y - start.y;
      result.timeToApex = air * machine.dt;
    }
    result.lowest = Math.min(result.lowest, body.y - start.y);
    result.distance = body.x - start.x;
    result.reach = Math.max(result.reach, Math.abs(body.x - start.x));
    result.topSpeed = Math.max(result.topSpeed, Math.sqrt(body.vx * body.vx + body.vy * body.vy));
    result.longestAirtime = Math.max(result.longestAirtime, air * machine.dt);
    const way = Math.sqrt((body.x - before.x) ** 2 + (body.y - before.y) ** 2);
    for (const { index } of leaves) {
      stay[index] = active.includes(index) ? present(stay[index]) + way : 0;
      along[index] = Math.max(present(along[index]), present(stay[index]));
    }
    for (const leaf of active) timeIn[leaf] = present(timeIn[leaf]) + 1;
    before = body;
  }
  for (const { name, index } of leaves) {
    result.timeIn[name] = present(timeIn[index]) * machine.dt;
    result.along[name] = present(along[index]);
  }
  return result;
}

function stoppingOf({ machine, records }: Trace): number {
  const axis = machine.controls.findIndex((c) => c.kind === 'axis');
  let longest = NaN;
  let from: number | undefined;
  records.forEach(({ body, grounded, input }, i) => {
    const before = records[i - 1];
    const letGo = before !== undefined && before.input[axis] !== 0 && input[axis] === 0;
    if (!grounded || input[axis] !== 0) from = undefined;
    else if (letGo && Math.abs(before.body.vx) >= STILL) from = before.body.x;
    if (from === undefined || Math.abs(body.vx) >= STILL) return;
    const way = Math.abs(body.x - from);
    longest = Number.isNaN(longest) ? way : Math.max(longest, way);
    from = undefined;
  });
  return longest;
}

/** Ticks between two drops of a count, the fewest there are. */
function shortestBetween(records: readonly TickRecord[], of: (r: TickRecord) => number): number {
  let shortest = NaN;
  let last: number | undefined;
  records.forEach((record, i) => {
    const before = records[i - 1];
    if (before === undefined || of(record) >= of(before)) return;
    if (last !== undefined) shortest = Number.isNaN(shortest) ? i - last : Math.min(shortest, i - last);
    last = i;
  });
  return shortest;
}
