import type { Steps } from '../steps.js';
import { type Outcome, outcomeIn } from './outcomes.js';
import type { Trials } from './trials.js';
import type { Setting } from './turnables.js';

/** How far an outcome moves when a dial is turned up by 1 %: in the outcome's unit; NaN where it cannot be told. */
export interface Sensitivity {
  dial: string;
  /** Of each outcome that was asked for. */
  moves: number[];
}

/** Dials are turned by so much, up and down. */
const TURN = 0.01;

/**
 * How far each dial moves some outcomes of a tape: half of what they differ by between 1 % more and 1 % less. A dial at 0
 * has no percent, and moves nothing. The dials stand where `at` says, or the moveset. In steps of a run each.
 */
export function* sensitivities(
  trials: Trials,
  tape: number,
  outcomes: readonly Outcome[],
  dials: readonly string[],
  at: Setting = {},
): Steps<Sensitivity[]> {
  const found: Sensitivity[] = [];
  for (const dial of dials) {
    const value = at[dial] ?? trials.turnables.find(({ name }) => name === dial)?.value ?? 0;
    const ends: number[][] = [];
    for (const share of [1 - TURN, 1 + TURN]) {
      const { machine } = trials.turned({ ...at, [dial]: value * share });
      const measures = machine && trials.play(machine, tape).measures;
      ends.push(outcomes.map((outcome) => (measures === undefined ? NaN : outcomeIn(measures, outcome))));
      yield;
    }
    const [less, more] = ends;
    found.push({ dial, moves: outcomes.map((_, i) => ((more?.[i] ?? NaN) - (less?.[i] ?? NaN)) / 2) });
  }
  return found;
}
