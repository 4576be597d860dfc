import type { Integration, Machine } from '../machine/index.js';
import { present } from '../present.js';
import type { Goal } from './goals.js';
import { GRAVITY, type Setting } from './turnables.js';
import type { Trials } from './trials.js';

/** A hop: the gravity that acts while it rises (m/s²) and the speed it is given (m/s). */
export interface Hop {
  gravity: number;
  launch: number;
}

/**
 * The hop that is `height` metres high at its top, `ticks` ticks after its launch. The launch is given before gravity acts
 * in the same tick. After n ticks of length d the body has risen
 *   v·n·d − g·d²·n(n+1)/2 when it moves by the velocity after gravity (semi-implicit),
 *   v·n·d − g·d²·n(n−1)/2 by the one before (explicit),
 *   v·n·d − g·d²·n²/2     by the mean of both (trapezoid).
 * Of the launches for which tick n is the top, the one in the middle is taken: g·d·(n+½), g·d·(n−½) and g·d·n. With it all
 * three come to g·d²·n²/2.
 */
export function hopOf(height: number, ticks: number, dt: number, integration: Integration): Hop {
  const gravity = (2 * height) / (ticks * dt) ** 2;
  const late = integration === 'semi-implicit' ? 0.5 : integration === 'explicit' ? -0.5 : 0;
  return { gravity, launch: gravity * dt * (ticks + late) };
}

/** A launch of a machine: the speed that a crossing gives, and how much of gravity acts where it leads. */
interface Launch {
  speed: number;
  scale: number;
}

/** Halvings of a range in which a dial is looked for: as many as a double has bits. */
const HALVINGS = 52;

/** What a formula is asked for: goals, the dials that may move in their ranges, and where the others stand. */
interface Formula {
  goals: readonly Goal[];
  free: readonly { dial: string; from: number; to: number }[];
  at: Setting;
}

/**
 * Settings of free dials that meet a height and its time by the formula of a hop, one for each launch that the moveset
 * has: where gravity is free, and one more dial that the launch follows from. None where the goals are others.
 */
export function settingsByFormula(trials: Trials, { goals, free, at }: Formula): Setting[] {
  const height = goals.find(({ outcome }) => outcome.kind === 'apex' || outcome.kind === 'firstHop');
  const time = goals.find(({ outcome, tape }) => outcome.kind === 'timeToApex' && tape === height?.tape);
  const { machine } = trials.turned(at);
  const others = free.filter(({ dial }) => dial !== GRAVITY);
  if (machine === undefined || height === undefined || time === undefined || others.length === free.length)
    return [];
  const ticks = Math.max(1, Math.round(time.value * machine.rate));
  const hop = hopOf(height.value, ticks, machine.dt, machine.integration);
  return launchesOf(machine).flatMap(({ scale }, which) =>
    others.flatMap(({ dial, from, to }): Setting[] => {
      const setting = (value: number): Setting => ({ ...at, [GRAVITY]: hop.gravity / scale, [dial]: value });
      const speedAt = (value: number): number => {
        const { machine: turned } = trials.turned(setting(value));
        return turned === undefined ? NaN : (launchesOf(turned)[which]?.speed ?? NaN);
      };
      const value = solved((v) => speedAt(v) - hop.launch, from, to);
      return value === undefined ? [] : [setting(value)];
    }),
  );
}

/** The launches of a machine, in the order of its file: crossings that set the speed upward to a constant. */
const launchesOf = (machine: Machine): Launch[] =>
  machine.lanes.flatMap(({ crossings }) =>
    crossings.flatMap(({ do: effects, to }) =>
      effects.flatMap((effect): Launch[] => {
        if (effect.kind !== 'velocity' || effect.channel !== 'vy' || effect.op !== ':=') return [];
        const { value } = effect;
        const rising = risingIn(machine, to);
        return value.kind === 'constant' && value.value > 0 && rising > 0
          ? [{ speed: value.value, scale: rising }]
          : [];
      }),
    ),
  );

/** How much of gravity acts on a body that rises in a state; 0 where that is no constant. */
function risingIn(machine: Machine, state: number): number {
  const { members, initial, motion } = present(machine.states[state]);
  if (members.length > 0) return risingIn(machine, initial);
  const rising = motion.gravity?.rising;
  if (motion.gravity === undefined || rising === undefined) return 1;
  return rising.kind === 'constant' ? rising.value : 0;
}

/** Where a function that rises, or falls, all the way is 0; undefined when it is nowhere in the range. */
function solved(of: (value: number) => number, from: number, to: number): number | undefined {
  let [low, high] = [from, to];
  const way = of(high) - of(low);
  if (!(of(low) * of(high) <= 0) || way === 0) return undefined;
  for (let i = 0; i < HALVINGS && low < high; i++) {
    const middle = (low + high) / 2;
    if (of(middle) * way < 0) low = middle;
    else high = middle;
  }
  return high;
}
