import { signal, type WritableSignal } from '@angular/core';
import { type Remote, wrap } from 'comlink';
import { Observable } from 'rxjs';

/** A worker and what it does. */
export interface Hired<T> {
  worker: Worker;
  remote: Remote<T>;
  /** Fails when the worker itself fails: what it was asked is never answered then. */
  died: Promise<never>;
}

/** Starts a worker. */
export function hire<T>(start: () => Worker): Hired<T> {
  const worker = start();
  const died = new Promise<never>((_, fail) => {
    worker.addEventListener('error', (event) =>
      fail(new Error(event.message || $localize`The worker ended`)),
    );
    worker.addEventListener('messageerror', () =>
      fail(new Error($localize`The worker sent something unreadable`)),
    );
  });
  died.catch(() => undefined);
  return { worker, remote: wrap<T>(worker), died };
}

/**
 * A worker that is replaced when it fails: what it was asked is asked once more of the new one, and fails only when that
 * one fails too. `replaced` says how often that happened, for whoever tells the user.
 */
export class WorkerSlot<T> {
  private hired: Hired<T>;
  readonly replaced: WritableSignal<number> = signal(0);

  constructor(private readonly start: () => Worker) {
    this.hired = hire(start);
  }

  /** Asks the worker, once for each subscriber. With `patience` (ms), one that is left while it is asked for longer is replaced. */
  ask<R>(question: (remote: Remote<T>) => Promise<R>, patience = Infinity): Observable<R> {
    return new Observable((subscriber) => {
      const began = performance.now();
      let isOver = false;
      let asked = this.hired;
      const attempt = (isLast: boolean): void => {
        asked = this.hired;
        Promise.race([question(asked.remote), asked.died]).then(
          (answer) => {
            isOver = true;
            subscriber.next(answer);
            subscriber.complete();
          },
          (error: unknown) => {
            if (asked === this.hired) {
              this.replace();
              this.replaced.update((n) => n + 1);
            }
            if (isOver || subscriber.closed) return;
            if (isLast) subscriber.error(error);
            else attempt(true);
          },
        );
      };
      attempt(false);
      return () => {
        if (!isOver && asked === this.hired && performance.now() - began >= patience) this.replace();
        isOver = true;
      };
    });
  }

  private replace(): void {
    this.hired.worker.terminate();
    this.hired = hire(this.start);
  }
}
