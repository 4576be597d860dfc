import { Injectable } from '@angular/core';
import type { Finding, Session } from '@glenmark/core';
import { type Remote, wrap } from 'comlink';
import { from, type Observable } from 'rxjs';
import type {
  Agreement,
  Analysis as AnalysisWorker,
  Beside,
  Compared,
  Expected,
  ScoutedFindings,
} from './analysis.worker';

/** The analysis worker as streams. */
@Injectable({ providedIn: 'root' })
export class Analysis {
  private readonly worker: Remote<AnalysisWorker> = wrap<AnalysisWorker>(
    new Worker(new URL('./analysis.worker', import.meta.url), { type: 'module' }),
  );

  findings(
    moveset: string,
    tapes: readonly { tape: string; course: string }[],
    scouted?: ScoutedFindings,
  ): Observable<Finding[]> {
    return from(this.worker.findings(moveset, tapes, scouted));
  }

  /** How many expectations of some tapes are met. */
  expected(moveset: string, tapes: readonly { tape: string; course: string }[]): Observable<Expected> {
    return from(this.worker.expected(moveset, tapes));
  }

  /** A tape at several tick rates. */
  atRates(moveset: string, course: string, tape: string, rates: readonly number[]): Observable<Compared[]> {
    return from(this.worker.atRates(moveset, course, tape, rates));
  }

  /** Two runs beside each other. */
  beside(moveset: string, runs: [Beside, Beside]): Observable<Compared[]> {
    return from(this.worker.beside(moveset, runs));
  }

  run(
    moveset: string,
    course: string,
    tape: string,
  ): Observable<{ session?: Session; agreed: Agreement; wrong: string[] }> {
    return from(this.worker.run(moveset, course, tape));
  }
}
