import type { Taken } from '../../machine/index.js';
import type { TickRecord } from '../../run/index.js';

/** A crossing as it was taken, with its tick. */
export interface Step extends Taken {
  tick: number;
}

/** The crossings that a lane took, in their order. */
export const stepsOf = (records: readonly TickRecord[], lane: number): Step[] =>
  records.flatMap(({ tick, taken }) => taken.filter((t) => t.lane === lane).map((t) => ({ ...t, tick })));
