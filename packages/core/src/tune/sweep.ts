import { proving } from '../findings/index.js';
import type { Machine } from '../machine/index.js';
import { finished, type Steps } from '../steps.js';
import { present } from '../present.js';
import { type Outcome, outcomeIn } from './outcomes.js';
import type { Setting } from './turnables.js';
import { playedOn } from './played.js';
import type { Trials } from './trials.js';

/** A dial, and where it is tried: from one value to another, both among them, in so many places. */
export interface Axis {
  dial: string;
  from: number;
  to: number;
  places: number;
}

/** More runs than this are no sweep that anybody waits for. */
export const MOST_RUNS = 20_000;

/** What came of a place of a sweep. */
export interface Swept {
  setting: Setting;
  /** Of each outcome that was asked for; NaN where it did not happen. */
  values: number[];
  /** The expectations that are not met there, as `tape: text`, of all tapes. */
  missed: string[];
  /** The findings that are proved there and not with the dials as they are, in words; undefined when nobody asked. */
  begun: string[] | undefined;
  /** Why nothing was played there; undefined where it was. */
  wrong: string | undefined;
}

/** What a sweep asks for: outcomes of one tape, by its place, and whether all tapes are as expected. */
export interface SweepAsked {
  axes: readonly Axis[];
  tape: number;
  outcomes: readonly Outcome[];
  /** All tapes whose expectations count, by place. */
  expecting: readonly number[];
  /** Whether each place is checked, too: that takes much longer than a run. */
  findings: boolean;
}

/** What is wrong with the axes of a sweep, in a sentence; undefined when it can be done. */
export function faultOfSweep({ axes, expecting }: SweepAsked): string | undefined {
  for (const { dial, from, to, places } of axes) {
    if (!Number.isFinite(from) || !Number.isFinite(to))
      return `Say from where to where ${dial} is to be tried: the moveset gives it no range`;
    if (from >= to) return `${dial} goes from ${from} to ${to}, expected the smaller value first`;
    if (!Number.isInteger(places) || places < 2)
      return `${dial} is tried in ${places} places, expected at least 2`;
  }
  if (new Set(axes.map(({ dial }) => dial)).size < axes.length) return 'Choose two different dials';
  const runs = axes.reduce((product, { places }) => product * places, Math.max(1, expecting.length));
  return runs > MOST_RUNS
    ? `This takes ${runs.toLocaleString('en')} runs, expected at most ${MOST_RUNS.toLocaleString('en')}: try fewer places`
    : undefined;
}

/** The settings of a sweep, the last axis changing fastest. */
export function settingsOf(axes: readonly Axis[]): Setting[] {
  return axes.reduce<Setting[]>(
    (settings, { dial, from, to, places }) =>
      settings.flatMap((setting) =>
        Array.from({ length: places }, (_, i) => ({
          ...setting,
          [dial]: i === places - 1 ? to : from + ((to - from) * i) / (places - 1),
        })),
      ),
    [{}],
  );
}

/** Tries all settings in their order, in steps of one each: a sweep, or a slice of it for another thread. */
export function* sweeping(
  trials: Trials,
  asked: Omit<SweepAsked, 'axes'>,
  settings: readonly Setting[],
): Steps<Swept[]> {
  const swept: Swept[] = [];
  const known = asked.findings ? fingerprintsOf(trials.turned({}).machine) : undefined;
  for (const setting of settings) {
    swept.push(tried(trials, asked, setting, known));
    yield;
  }
  return swept;
}

function tried(
  trials: Trials,
  { tape, outcomes, expecting }: Omit<SweepAsked, 'axes'>,
  setting: Setting,
  known: ReadonlyMap<string, string> | undefined,
): Swept {
  const { machine, wrong } = trials.turned(setting);
  if (machine === undefined)
    return { setting, values: outcomes.map(() => NaN), missed: [], begun: undefined, wrong };
  const { measures, missed } = playedOn(trials, machine, [tape], expecting);
  const own = present(measures.get(tape));
  const values = outcomes.map((outcome) => outcomeIn(own, outcome));
  const begun =
    known &&
    [...fingerprintsOf(machine)].flatMap(([fingerprint, words]) => (known.has(fingerprint) ? [] : [words]));
  return { setting, values, missed, begun, wrong: undefined };
}

/** The sentences of what is proved of a machine, by fingerprint. */
const fingerprintsOf = (machine: Machine | undefined): Map<string, string> =>
  new Map(
    machine === undefined
      ? []
      : finished(proving(machine)).findings.map(({ fingerprint, sentence }) => [fingerprint, sentence]),
  );
