import type { Machine } from '../machine/index.js';
import { present } from '../present.js';
import type { Measures } from '../run/index.js';
import type { Trials } from './trials.js';

/** What some tapes came to on a machine. */
export interface Played {
  /** By the place of the tape. */
  measures: ReadonlyMap<number, Measures>;
  /** The expectations that are not met, as `tape: text`. */
  missed: string[];
}

/** Plays tapes, by their places, on a turned moveset; those in `expecting` count with what they expect. */
export function playedOn(
  trials: Trials,
  machine: Machine,
  tapes: readonly number[],
  expecting: readonly number[],
): Played {
  const measures = new Map<number, Measures>();
  const missed: string[] = [];
  for (const tape of new Set([...tapes, ...expecting])) {
    const trial = trials.play(machine, tape);
    measures.set(tape, trial.measures);
    if (!expecting.includes(tape)) continue;
    const { name } = present(trials.tapes[tape]).tape;
    for (const { passed, text } of trial.expectations) if (!passed) missed.push(`${name}: ${text}`);
  }
  return { measures, missed };
}
