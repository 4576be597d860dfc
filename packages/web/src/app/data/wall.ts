import { readMoveset } from '@glenmark/core/machine';
import { errorsOf } from '@glenmark/core/model';
import { runTape } from '@glenmark/core/run';
import type { Steps } from '@glenmark/core/steps';
import { loadedTapes } from './loaded-tapes';
import { movesetReadings } from './readings';

/** What came of an expectation at one tick rate; `tick` is one of the moveset's own rate. */
export interface Met {
  passed: boolean;
  tick: number;
  seen: string | undefined;
}

/** What came of a tape's expectations, at each of some tick rates. */
export interface WallTape {
  expectations: { text: string; at: (Met | undefined)[] }[];
  /** Why it cannot be played at a rate; undefined where it can. */
  wrong: (string | undefined)[];
}

/** The question: a moveset, its tapes, and the tick rates at which they are played. */
export interface WallAsked {
  moveset: string;
  tapes: readonly { tape: string; course: string }[];
  rates: readonly number[];
}

/** All expectations of all tapes at all rates, in steps of a run each. Empty for a moveset that does not load. */
export function* wall({ moveset, tapes, rates }: WallAsked): Steps<WallTape[]> {
  const own = movesetReadings.of(moveset).machine;
  if (own === undefined) return [];
  const all = tapes.map((texts): WallTape => {
    const [loaded] = loadedTapes([texts]);
    const expectations = (loaded?.tape.expect ?? []).map((text) => ({
      text,
      at: rates.map(() => undefined),
    }));
    return { expectations, wrong: rates.map(() => undefined) };
  });
  for (const [place, rate] of rates.entries()) {
    const machine = rate === own.rate ? own : readMoveset(moveset, { rate }).machine;
    yield;
    for (const [i, texts] of tapes.entries()) {
      const [loaded] = loadedTapes([texts]);
      if (machine === undefined || loaded === undefined) continue;
      const { session, diagnostics } = runTape(machine, loaded.course, loaded.tape);
      const { expectations, wrong } = all[i]!;
      if (session === undefined) wrong[place] = errorsOf(diagnostics)[0]?.message;
      session?.expectations.forEach(({ passed, tick, seen }, e) => {
        if (expectations[e] !== undefined)
          expectations[e].at[place] = { passed, tick: Math.round((tick * own.rate) / rate), seen };
      });
      yield;
    }
  }
  return all;
}
