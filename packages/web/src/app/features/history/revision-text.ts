import { inject, type Signal, signal } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { catchError, map, of, switchMap } from 'rxjs';
import { Api } from '../../data/api';

/** The text of a revision of a moveset; undefined until it is read, or when it cannot be. */
export function revisionText(asked: Signal<{ id: string; number: number } | undefined>): {
  text: Signal<string | undefined>;
  failed: Signal<boolean>;
} {
  const api = inject(Api);
  const text = signal<string | undefined>(undefined);
  const failed = signal(false);
  toObservable(asked)
    .pipe(
      switchMap((revision) => {
        text.set(undefined);
        failed.set(false);
        if (revision === undefined) return of(undefined);
        return api.readRevision('moveset', revision.id, revision.number).pipe(
          map((document) => document.text),
          catchError(() => {
            failed.set(true);
            return of(undefined);
          }),
        );
      }),
      takeUntilDestroyed(),
    )
    .subscribe((read) => text.set(read));
  return { text, failed };
}
