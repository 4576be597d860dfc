/// <reference lib="webworker" />
// What is wrong with a tape is said in this thread too.
import '@angular/localize/init';
import {
  type Outcome,
  type Reached,
  seeking,
  type SeekAsked,
  type Sensitivity,
  sensitivities,
  type Setting,
  type Sought,
  type SweepAsked,
  type Swept,
  sweeping,
} from '@glenmark/core/tune';
import type { Steps } from '@glenmark/core/steps';
import { expose } from 'comlink';
import { createNewest } from './newest';
import { createReady, mattersIn, type Tuned, type TuningAsked, tunedTo } from './tuning-work';

const readyFor = createReady();
const newestMoves = createNewest();
const newestSought = createNewest();

/** Says after each of so many steps how far the work is. */
const EVERY = 10;

/** What a sweep asks for, of tapes by their place in what is tuned. */
export type SweepOf = Omit<SweepAsked, 'axes'>;

function* counting<T>(work: Steps<T>, tell: (done: number) => void): Steps<T> {
  for (let done = 1; ; done++) {
    const step = work.next();
    if (step.done === true) return step.value;
    if (done % EVERY === 0) tell(done);
    yield;
  }
}

/** Tapes are asked about by their place in what is tuned, and are played by their place among the playable ones. */
const placesIn = (places: readonly (number | string)[], tapes: readonly number[]): number[] =>
  tapes.flatMap((tape) => {
    const place = places[tape];
    return typeof place === 'number' ? [place] : [];
  });

const tuning = {
  /** What all tapes come to at a setting. Undefined for a moveset that does not load. */
  tune(asked: TuningAsked, setting: Setting): Tuned | undefined {
    const ready = readyFor(asked);
    return ready && tunedTo(ready, setting);
  },

  /** The dials that can matter to each outcome of a tape. */
  matters(asked: TuningAsked, tape: number): Record<string, string[]> {
    const ready = readyFor(asked);
    return ready === undefined ? {} : mattersIn(ready, tape);
  },

  /** How far dials move some outcomes of a tape; undefined when a newer question came. */
  async moves(
    asked: TuningAsked,
    tape: number,
    outcomes: readonly Outcome[],
    dials: readonly string[],
    at: Setting,
  ): Promise<Sensitivity[] | undefined> {
    const ready = readyFor(asked);
    const [place] = placesIn(ready?.places ?? [], [tape]);
    if (ready === undefined || place === undefined) return [];
    return newestMoves(sensitivities(ready.trials, place, outcomes, dials, at));
  },

  /** Tries settings; `tell` hears how many are done. The answer is empty for what cannot be played. */
  async sweep(
    asked: TuningAsked,
    { tape, outcomes, expecting, findings }: SweepOf,
    settings: readonly Setting[],
    tell: (done: number) => void,
  ): Promise<Swept[]> {
    const ready = readyFor(asked);
    const [place] = placesIn(ready?.places ?? [], [tape]);
    if (ready === undefined || place === undefined) return [];
    const of = { tape: place, outcomes, expecting: placesIn(ready.places, expecting), findings };
    const work = counting(sweeping(ready.trials, of, settings), tell);
    return (await createNewest()(work)) ?? [];
  },

  /** Looks for values that meet goals; `tell` hears how many settings were tried, and the best of them. */
  async seek(
    asked: TuningAsked,
    { goals, free, expecting, at }: SeekAsked,
    tell: (done: number, best: Reached | undefined) => void,
  ): Promise<Sought | undefined> {
    const ready = readyFor(asked);
    if (ready === undefined) return undefined;
    const placed = goals.map((goal) => ({ ...goal, tape: placesIn(ready.places, [goal.tape])[0] ?? -1 }));
    if (placed.some(({ tape }) => tape < 0)) return undefined;
    const question = { goals: placed, free, expecting: placesIn(ready.places, expecting), at };
    let best: Reached | undefined;
    const work = seeking(ready.trials, question, (better) => (best = better));
    return newestSought(counting(work, (done) => tell(done, best)));
  },
};

export type TuningWorker = typeof tuning;

expose(tuning);
