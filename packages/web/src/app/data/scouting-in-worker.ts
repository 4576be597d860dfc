import { type Scouting, scoutingOf, type ScoutingReport, type SearchTexts } from '@glenmark/core/findings';

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
  function begin(search: SearchTexts): void {
    scouting = scoutingOf(search);
  }

  /** Goes on until so many situations or a stop; `tell` hears how far it is. Gives whether it was stopped. */
  async function advance(situations: number, tell: (standing: PageStanding) => void): Promise<boolean> {
    const search = scouting!;
    isStopped = false;
    let reportedAt = 0;
    await search.advance({
      situations,
      goesOn: () => !isStopped,
      async progress({ course, situations: done, ticks, coverage, findings }) {
        if (Date.now() - reportedAt < EVERY) return;
        reportedAt = Date.now();
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
