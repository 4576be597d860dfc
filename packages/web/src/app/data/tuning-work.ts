import { errorsOf } from '@glenmark/core/model';
import { checkRun, type ExpectationResult, type Measures } from '@glenmark/core/run';
import { buildWorld } from '@glenmark/core/world';
import {
  createTrials,
  dialsThatMatter,
  hasHappened,
  outcomeId,
  outcomesOf,
  type Setting,
  type Trials,
} from '@glenmark/core/tune';
import { loadedTapes } from './loaded-tapes';
import { movesetReadings } from './readings';

/** What is tuned: a moveset, and the tapes that are looked at. */
export interface TuningAsked {
  moveset: string;
  tapes: readonly { tape: string; course: string }[];
}

/** What a tape comes to at a setting, or why it cannot be played. */
export type TunedTape =
  | { measures: Measures; expectations: ExpectationResult[]; trail: Float32Array; wrong?: undefined }
  | { wrong: string };

/** What all tapes come to at a setting, or why the moveset does not load with it. */
export type Tuned = { tapes: TunedTape[]; wrong?: undefined } | { wrong: string };

/** A moveset that is ready to be tried, with the place of each tape among those that can be played, or what is wrong. */
export interface Ready {
  trials: Trials;
  places: (number | string)[];
}

/** Makes what is tuned ready, once for as many questions about it as follow. Undefined for what does not load. */
export function createReady(): (asked: TuningAsked) => Ready | undefined {
  let last: { asked: TuningAsked; ready: Ready } | undefined;
  return (asked) => {
    if (last !== undefined && isSame(last.asked, asked)) return last.ready;
    const compiled = movesetReadings.of(asked.moveset);
    const { machine } = compiled;
    if (machine === undefined) return undefined;
    const playable: Parameters<typeof createTrials>[1][number][] = [];
    const places = asked.tapes.map((texts): number | string => {
      const [loaded] = loadedTapes([texts]);
      if (loaded === undefined) return $localize`It does not load.`;
      const world = buildWorld(loaded.course, machine.stances, machine.casts);
      const [wrong] = errorsOf(checkRun(machine, world, loaded.tape));
      return wrong === undefined ? playable.push(loaded) - 1 : wrong.message;
    });
    const ready = { trials: createTrials(compiled, playable), places };
    last = { asked, ready };
    return ready;
  };
}

const isSame = (a: TuningAsked, b: TuningAsked): boolean =>
  a.moveset === b.moveset &&
  a.tapes.length === b.tapes.length &&
  a.tapes.every(({ tape, course }, i) => tape === b.tapes[i]!.tape && course === b.tapes[i]!.course);

/** Plays all tapes at a setting. */
export function tunedTo({ trials, places }: Ready, setting: Setting): Tuned {
  const { machine, wrong } = trials.turned(setting);
  if (machine === undefined) return { wrong };
  return {
    tapes: places.map((place) =>
      typeof place === 'string' ? { wrong: place } : trials.play(machine, place),
    ),
  };
}

/** The dials that can matter to each outcome that a tape has, by the outcome's id. */
export function mattersIn({ trials, places }: Ready, tape: number): Record<string, string[]> {
  const place = places[tape];
  const { machine } = trials.turned({});
  if (machine === undefined || typeof place !== 'number') return {};
  const { measures } = trials.play(machine, place);
  const states = machine.states.filter(({ name }) => (measures.timeIn[name] ?? 0) > 0).map((s) => s.index);
  return Object.fromEntries(
    outcomesOf(machine)
      .filter((outcome) => hasHappened(measures, outcome))
      .map((outcome) => [
        outcomeId(outcome),
        dialsThatMatter(machine, trials.turnables, states, outcome).map(({ name }) => name),
      ]),
  );
}
