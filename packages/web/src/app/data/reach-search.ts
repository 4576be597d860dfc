import { Injectable } from '@angular/core';
import { proxy } from 'comlink';
import { Observable } from 'rxjs';
import type { ReachAsked, ReachStanding } from './reach-work';
import type { ReachWorker } from './reach.worker';
import { type Hired, hire } from './worker-slot';

/** Searches for where the body gets to, in a worker that is there as long as the view that asks for it. */
@Injectable()
export class ReachSearch {
  private hired: Hired<ReachWorker> | undefined;

  /** Begins a search and goes on to so many situations; leaving it stops it. */
  begin(asked: ReachAsked, situations: number): Observable<ReachStanding> {
    this.drop();
    this.hired = hire<ReachWorker>(start);
    const { remote } = this.hired;
    return this.told((tell) =>
      remote.begin(asked).then((loads) => {
        if (!loads) throw new Error($localize`The moveset or the course does not load.`);
        return remote.advance(situations, tell);
      }),
    );
  }

  /** Goes on with the same search. */
  goOn(situations: number): Observable<ReachStanding> {
    return this.told((tell) => this.hired!.remote.advance(situations, tell));
  }

  tapeTo(x: number, y: number): Promise<string | undefined> {
    return this.hired?.remote.tapeTo(x, y) ?? Promise.resolve(undefined);
  }

  tapeToNearest(): Promise<string | undefined> {
    return this.hired?.remote.tapeToNearest() ?? Promise.resolve(undefined);
  }

  tapeToPit(pit: number): Promise<string | undefined> {
    return this.hired?.remote.tapeToPit(pit) ?? Promise.resolve(undefined);
  }

  /** Ends the worker, with all that it knows. */
  drop(): void {
    this.hired?.worker.terminate();
    this.hired = undefined;
  }

  private told(
    work: (tell: (standing: ReachStanding) => void) => Promise<unknown>,
  ): Observable<ReachStanding> {
    return new Observable((observer) => {
      const hired = this.hired!;
      const tell = proxy((standing: ReachStanding) => observer.next(standing));
      Promise.race([work(tell), hired.died]).then(
        () => observer.complete(),
        (error: unknown) => observer.error(error),
      );
      return () => void hired.remote.stop();
    });
  }
}

const start = (): Worker => new Worker(new URL('./reach.worker', import.meta.url), { type: 'module' });
