import { computed, inject, Injectable, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import type { Workers as WorkersState } from '@glenmark/contract';
import { catchError, exhaustMap, of, takeWhile, timer } from 'rxjs';
import { Api } from './api';

/** How often is looked who is there (ms). */
const EVERY = 3000;

/**
 * The workers that search for this server, as long as somebody looks. A server that searches by itself is asked once; while
 * the server is away, those that were there last stay.
 */
@Injectable()
export class Workers {
  private readonly told = signal<WorkersState | undefined>(undefined);

  /** Whether workers search, and not the server itself. */
  readonly areShared = computed(() => this.told()?.shared ?? false);
  readonly list = computed(() => this.told()?.workers ?? []);

  constructor() {
    const api = inject(Api);
    timer(0, EVERY)
      .pipe(
        exhaustMap(() => api.workers().pipe(catchError(() => of(undefined)))),
        takeWhile((state) => state?.shared !== false, true),
        takeUntilDestroyed(),
      )
      .subscribe((state) => {
        if (state !== undefined) this.told.set(state);
      });
  }
}
