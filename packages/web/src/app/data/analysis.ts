import { Injectable } from '@angular/core';
import type { Finding, Session } from '@glenmark/core';
import { type Remote, wrap } from 'comlink';
import { from, type Observable } from 'rxjs';
import type { Agreement, Analysis as AnalysisWorker } from './analysis.worker';

/** The analysis worker as streams. */
@Injectable({ providedIn: 'root' })
export class Analysis {
  private readonly worker: Remote<AnalysisWorker> = wrap<AnalysisWorker>(
    new Worker(new URL('./analysis.worker', import.meta.url), { type: 'module' }),
  );

  findings(moveset: string, tapes: readonly { tape: string; course: string }[]): Observable<Finding[]> {
    return from(this.worker.findings(moveset, tapes));
  }

  run(
    moveset: string,
    course: string,
    tape: string,
  ): Observable<{ session?: Session; agreed: Agreement; wrong: string[] }> {
    return from(this.worker.run(moveset, course, tape));
  }
}
