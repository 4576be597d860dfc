/// <reference lib="webworker" />
// Tapes that are made here have names.
import '@angular/localize/init';
import { expose } from 'comlink';
import { createNewest } from './newest';
import { createReachWork, type ReachAsked, type ReachStanding, type ReachWork } from './reach-work';

/** How often a search tells how far it is (ms). */
const EVERY = 250;

const newest = createNewest();
let work: ReachWork | undefined;

const reach = {
  /** Prepares a search in place of the last one; false when a text does not load. */
  begin(asked: ReachAsked): boolean {
    work = createReachWork(asked);
    return work !== undefined;
  },

  /** Goes on to so many situations, or until `stop`; `tell` hears how far it is. */
  async advance(situations: number, tell: (standing: ReachStanding) => void): Promise<void> {
    const own = work;
    if (own === undefined) return;
    let told = performance.now();
    const steps = own.advance(situations);
    await newest(
      (function* () {
        for (;;) {
          if (steps.next().done === true) break;
          if (performance.now() - told > EVERY) {
            told = performance.now();
            tell(own.standing());
          }
          yield;
        }
      })(),
    );
    tell(own.standing());
  },

  /** Leaves the search where it is. */
  async stop(): Promise<void> {
    await newest((function* () {})());
  },

  tapeTo: (x: number, y: number): string | undefined => work?.tapeTo(x, y),
  tapeToPit: (pit: number): string | undefined => work?.tapeToPit(pit),
  tapeToNearest: (): string | undefined => work?.tapeToNearest(),
};

export type ReachWorker = typeof reach;

expose(reach);
