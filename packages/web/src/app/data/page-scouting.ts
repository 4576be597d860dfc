import { inject, Injectable } from '@angular/core';
import type { Scouting, ScoutingRequest } from '@glenmark/contract';
import { NO_COVERAGE, type SearchTexts } from '@glenmark/core/findings';
import { proxy } from 'comlink';
import { Observable } from 'rxjs';
import { Analysis } from './analysis';
import type { Analysis as AnalysisWorker } from './analysis.worker';
import type { Hired } from './worker-slot';
import type { PageStanding } from './scouting-in-worker';

/** The name of the scouting that this page does by itself; the server's are called otherwise. */
export const IN_PAGE = 'in-page';

/**
 * A scouting in a worker of this page: short, at once, and gone with the page. It is told in the same words as those of
 * the server, and can be stopped and taken up again.
 */
@Injectable({ providedIn: 'root' })
export class PageScouting {
  private readonly analysis = inject(Analysis);
  private hired: Hired<AnalysisWorker> | undefined;
  private last: Scouting | undefined;

  /** Begins a search for a revision of the moveset, in place of one that may be under way. */
  begin(request: ScoutingRequest, revision: number, search: SearchTexts): Observable<Scouting> {
    this.drop();
    const { remote } = (this.hired = this.analysis.scouting());
    const first: Scouting = {
      ...request,
      id: IN_PAGE,
      revision,
      state: 'running',
      begun: 1,
      seconds: 0,
      done: 0,
      ticks: 0,
      course: '',
      coverage: NO_COVERAGE,
      findings: [],
      notes: [],
      problem: null,
      createdAt: new Date().toISOString(),
    };
    return this.followed(first, () => remote.beginScouting(search));
  }

  /** Goes on after a stop. */
  goOn(): Observable<Scouting> {
    return this.followed({ ...this.last!, state: 'running' }, () => Promise.resolve());
  }

  stop(): void {
    void this.hired?.remote.stopScouting();
  }

  /** Ends the worker, with all that it knows. */
  drop(): void {
    this.hired?.worker.terminate();
    this.hired = undefined;
  }

  private followed(from: Scouting, prepare: () => Promise<unknown>): Observable<Scouting> {
    return new Observable((observer) => {
      const hired = this.hired!;
      const began = performance.now();
      const tell = (more: Partial<Scouting>): void => {
        if (hired !== this.hired) return;
        const seconds = from.seconds + (performance.now() - began) / 1000;
        observer.next((this.last = { ...(this.last ?? from), ...more, seconds }));
      };
      const hear = ({ situations: done, findings, ...standing }: PageStanding): void =>
        tell({ ...standing, done, findings });
      this.last = from;
      tell({});
      const scouted = prepare().then(() => hired.remote.scout(from.situations, proxy(hear)));
      Promise.race([scouted, hired.died])
        .then(
          (isStopped) => tell({ state: isStopped ? 'stopped' : 'done' }),
          (error: unknown) =>
            tell({ state: 'failed', problem: error instanceof Error ? error.message : String(error) }),
        )
        .finally(() => observer.complete());
    });
  }
}
