import { accepting } from '@glenmark/core/findings';
import type { Steps } from '@glenmark/core/steps';
import { sessionOf } from './compared';
import { foundIn } from './found-in';
import { loadedTapes } from './loaded-tapes';
import { movesetReadings, tapeReadings } from './readings';

/** A moveset and the tapes that are played on it. */
export interface CountsAsked {
  moveset: string;
  tapes: readonly { tape: string; course: string }[];
}

/** How many findings a moveset has that nobody accepts, and how many of all expectations it meets. */
export interface Counts {
  findings: number;
  met: number;
  of: number;
}

/** Counts in steps; undefined for a moveset that does not load. */
export function* counting({ moveset, tapes }: CountsAsked): Steps<Counts | undefined> {
  const { machine } = movesetReadings.of(moveset);
  if (machine === undefined) return undefined;
  const findings = accepting(machine, yield* foundIn(machine, loadedTapes(tapes)));
  const counts = { findings: findings.filter((f) => f.accepted === undefined).length, met: 0, of: 0 };
  for (const { tape, course } of tapes) {
    counts.of += tapeReadings.of(tape).tape?.expect.length ?? 0;
    const { session } = sessionOf({ moveset, tape, course });
    counts.met += session?.expectations.filter((e) => e.passed).length ?? 0;
    yield;
  }
  return counts;
}
