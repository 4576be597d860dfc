import {
  createScouting,
  proveAll,
  readCourse,
  readMoveset,
  type Scouting,
  type ScoutingReport,
} from '@glenmark/core';

/** What is scouted in the page, in texts. */
export interface PageSearch {
  moveset: string;
  courses: string[];
  situations: number;
  seed: number;
  grid?: number;
}

/** How far such a search is. */
export interface PageStanding extends ScoutingReport {
  course: string;
}

/** How often it tells how far it is, and looks at the messages that came meanwhile (ms). */
const EVERY = 100;

/** A short scouting in this worker: it can be stopped, and goes on from there. */
export function createPageScouting() {
  let scouting: Scouting | undefined;
  let isStopped = false;

  /** Prepares a search, in place of the last one. Fails when a text does not load. */
  function begin({ moveset, courses, seed, grid }: PageSearch): void {
    const { machine } = readMoveset(moveset);
    const places = courses.flatMap((text) => readCourse(text).course ?? []);
    if (machine === undefined) throw new Error($localize`The moveset does not load.`);
    if (places.length < courses.length) throw new Error($localize`A course does not load.`);
    const { findings, traps } = proveAll(machine);
    const plan = grid === undefined ? { seed } : { seed, grid };
    scouting = createScouting(machine, places, findings, traps, plan);
  }

  /** Goes on until so many situations or a stop; `tell` hears how far it is. Gives whether it was stopped. */
  async function advance(situations: number, tell: (standing: PageStanding) => void): Promise<boolean> {
    const search = scouting!;
    isStopped = false;
    let told = 0;
    await search.advance({
      situations,
      goesOn: () => !isStopped,
      async progress({ course, situations: done, ticks, coverage, findings }) {
        if (Date.now() - told < EVERY) return;
        told = Date.now();
        tell({ course, situations: done, ticks, coverage: coverage(), findings: [...findings] });
        await new Promise((resume) => setTimeout(resume));
      },
    });
    tell({ course: '', ...search.report() });
    return isStopped;
  }

  return {
    begin,
    advance,
    stop: (): void => {
      isStopped = true;
    },
  };
}
