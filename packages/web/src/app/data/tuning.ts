import { Injectable } from '@angular/core';
import type { Outcome, Reached, SeekAsked, Sensitivity, Setting, Sought, Swept } from '@glenmark/core/tune';
import { proxy } from 'comlink';
import { filter, Observable } from 'rxjs';
import type { Tuned, TuningAsked } from './tuning-work';
import type { SweepOf, TuningWorker } from './tuning.worker';
import { type Hired, hire, WorkerSlot } from './worker-slot';

/** How far long work is, and in the end what came of it. */
export interface Progress<T, S = never> {
  done: number;
  of: number;
  /** What has come of it so far, where that is told. */
  soFar?: S;
  result?: T;
}

/** Sweeps are spread over so many workers: one for each core, but no more than help. */
const WORKERS = Math.max(1, Math.min(4, navigator.hardwareConcurrency || 1));

/**
 * Tuning in workers, as streams. One answers while a dial moves; what takes longer has workers of its own, which end
 * when nobody waits for them any more.
 */
@Injectable({ providedIn: 'root' })
export class Tuning {
  private readonly live = new WorkerSlot<TuningWorker>(start);
  private readonly beside = new WorkerSlot<TuningWorker>(start);
  /** Workers that have done what they were asked: the next long work goes on with what they know. */
  private readonly idle: Hired<TuningWorker>[] = [];

  /** What all tapes come to at a setting; nothing for a moveset that does not load. */
  tuned(asked: TuningAsked, setting: Setting): Observable<Tuned> {
    return this.live
      .ask<Tuned | undefined>((remote) => remote.tune(asked, setting))
      .pipe(filter((tuned) => tuned !== undefined));
  }

  /** The dials that can matter to each outcome of a tape. */
  matters(asked: TuningAsked, tape: number): Observable<Record<string, string[]>> {
    return this.beside.ask((remote) => remote.matters(asked, tape));
  }

  /** How far dials move some outcomes; nothing when it is asked for others before that. */
  moves(
    asked: TuningAsked,
    tape: number,
    outcomes: readonly Outcome[],
    dials: readonly string[],
    at: Setting,
  ): Observable<Sensitivity[]> {
    return this.beside
      .ask((remote) => remote.moves(asked, tape, outcomes, dials, at))
      .pipe(filter((moves) => moves !== undefined));
  }

  /** Tries settings, on as many workers as help. */
  swept(asked: TuningAsked, of: SweepOf, settings: readonly Setting[]): Observable<Progress<Swept[]>> {
    const size = Math.ceil(settings.length / WORKERS);
    const slices = Array.from({ length: WORKERS }, (_, i) => settings.slice(i * size, (i + 1) * size));
    const count = slices.filter((slice) => slice.length > 0).length;
    return this.worked(count, settings.length, (remotes, tell) =>
      Promise.all(
        remotes.map(({ remote, died }, i) =>
          Promise.race([
            remote.sweep(
              asked,
              of,
              slices[i]!,
              proxy((done: number) => tell(i, done)),
            ),
            died,
          ]),
        ),
      ).then((parts) => parts.flat()),
    );
  }

  /** Looks for values that meet goals; the best so far is told. */
  sought(asked: TuningAsked, question: SeekAsked): Observable<Progress<Sought | undefined, Reached>> {
    return this.worked<Sought | undefined, Reached>(1, 0, ([hired], tell) =>
      Promise.race([
        hired!.remote.seek(
          asked,
          question,
          proxy((done: number, best: Reached | undefined) => tell(0, done, best)),
        ),
        hired!.died,
      ]),
    );
  }

  /** Work on workers that do nothing else; those that are left before it is done end. */
  private worked<T, S = never>(
    count: number,
    of: number,
    work: (
      remotes: readonly Hired<TuningWorker>[],
      tell: (worker: number, done: number, soFar?: S) => void,
    ) => Promise<T>,
  ): Observable<Progress<T, S>> {
    return new Observable((observer) => {
      const hired = Array.from({ length: count }, () => this.idle.pop() ?? hire<TuningWorker>(start));
      const done = hired.map(() => 0);
      const sum = (): number => done.reduce((a, b) => a + b, 0);
      let isOver = false;
      observer.next({ done: 0, of });
      work(hired, (worker, n, soFar) => {
        done[worker] = n;
        observer.next({ done: sum(), of, ...(soFar === undefined ? {} : { soFar }) });
      }).then(
        (result) => {
          if (!observer.closed) this.idle.push(...hired);
          isOver = true;
          observer.next({ done: of === 0 ? sum() : of, of, result });
          observer.complete();
        },
        (error: unknown) => observer.error(error),
      );
      return () => {
        if (!isOver) for (const { worker } of hired) worker.terminate();
      };
    });
  }
}

const start = (): Worker => new Worker(new URL('./tuning.worker', import.meta.url), { type: 'module' });
