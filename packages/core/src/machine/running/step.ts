import { placeMovers } from '../../world/index.js';
import * as at from '../lowered/layout.js';
import type { Fast } from './fast.js';
import { move, placeDropped } from './move.js';
import { beginTick } from './senses.js';

/** One tick, as `tick` of the reference, changing the buffer of a situation. `input` is one number a control. */
export function step(fast: Fast, s: Float64Array, input: ArrayLike<number>): void {
  fast.takenCount = 0;
  fast.tiedCount = 0;
  if (fast.log !== undefined) fast.log.count = 0;
  placeMovers(fast.world, s[at.TICK]! * fast.machine.dt);
  placeDropped(fast, s);
  beginTick(fast.senses, s);
  fast.run(s, fast.facts, input);
  move(fast, s);
}

/** Finds facts as they are after a tick, by a program of `lowerSensesAfter`; they are then in `fast.facts`. */
export function lookAfter(fast: Fast, s: Float64Array, input: ArrayLike<number>): void {
  beginTick(fast.senses, s);
  fast.run(s, fast.facts, input);
}
