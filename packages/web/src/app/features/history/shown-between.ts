import { inject, type Signal, signal } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { catchError, debounceTime, map, of, switchMap, tap } from 'rxjs';
import { Analysis } from '../../data/analysis';
import type { Between, BetweenAsked, NotLoaded } from '../../data/between';

/** What became other between two revisions; `waiting` while it is worked out, `failed` with why it could not be. */
export interface ShownBetween {
  between: Signal<Between | NotLoaded | undefined>;
  waiting: Signal<boolean>;
  failed: Signal<string>;
}

/** Keeps it up to date with what is asked for; nothing is while one of the texts is not there yet. */
export function shownBetween(asked: Signal<BetweenAsked | undefined>): ShownBetween {
  const analysis = inject(Analysis);
  const between = signal<Between | NotLoaded | undefined>(undefined);
  const waiting = signal(false);
  const failed = signal('');
  toObservable(asked)
    .pipe(
      tap((question) => waiting.set(question !== undefined)),
      debounceTime(50),
      switchMap((question) => {
        failed.set('');
        if (question === undefined) return of(undefined);
        return analysis.between(question).pipe(
          map((answer): Between | NotLoaded | undefined => answer),
          catchError((error: Error) => {
            failed.set(error.message);
            return of(undefined);
          }),
        );
      }),
      takeUntilDestroyed(),
    )
    .subscribe((answer) => {
      waiting.set(false);
      between.set(answer);
    });
  return { between, waiting, failed };
}
