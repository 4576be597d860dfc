import type { Finding } from '@glenmark/core/findings';
import {
  type Difference,
  differencesBetween,
  findingsApart,
  type Replay,
  replayOn,
} from '@glenmark/core/history';
import { errorsOf } from '@glenmark/core/model';
import type { Steps } from '@glenmark/core/steps';
import { foundIn } from './found-in';
import { loadedTapes } from './loaded-tapes';
import { movesetReadings } from './readings';

/** What became other between two revisions. */
export interface Between {
  differences: Difference[];
  /** What each tape does on both, in the order in which they were given; undefined for one that does not load. */
  replays: (Replay | undefined)[];
  findings: ReturnType<typeof findingsApart>;
}

/** The question: two texts of a moveset, and the tapes to play on both. */
export interface BetweenAsked {
  before: string;
  after: string;
  tapes: readonly { tape: string; course: string }[];
}

/** What is wrong with the earlier or the later text instead. */
export interface NotLoaded {
  which: 'before' | 'after';
  wrong: string;
}

/** What became other between two texts, in steps. */
export function* between({ before, after, tapes }: BetweenAsked): Steps<Between | NotLoaded> {
  const [one, other] = [movesetReadings.of(before), movesetReadings.of(after)];
  if (one.machine === undefined || one.file === undefined) return notLoaded('before', one);
  if (other.machine === undefined || other.file === undefined) return notLoaded('after', other);
  yield;
  const { list, renames } = differencesBetween(one.file, other.file);
  const replays: (Replay | undefined)[] = [];
  for (const texts of tapes) {
    const [tape] = loadedTapes([texts]);
    replays.push(tape && replayOn(one.machine, other.machine, tape, renames));
    yield;
  }
  const loaded = loadedTapes(tapes);
  const found: Finding[][] = [];
  for (const { machine } of [one, other]) found.push(yield* foundIn(machine!, loaded));
  return { differences: list, replays, findings: findingsApart(found[0]!, found[1]!, renames) };
}

const notLoaded = (
  which: NotLoaded['which'],
  { diagnostics }: ReturnType<typeof movesetReadings.of>,
): NotLoaded => ({
  which,
  wrong: errorsOf(diagnostics)
    .slice(0, 1)
    .map(({ line, column, message }) => `${line}:${column}: ${message}`)
    .join(''),
});
