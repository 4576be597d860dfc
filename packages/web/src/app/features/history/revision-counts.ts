import { inject, type Signal, signal } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { catchError, concatMap, debounceTime, EMPTY, from, map, switchMap, tap } from 'rxjs';
import { Analysis } from '../../data/analysis';
import { Api } from '../../data/api';
import type { Counts, CountsAsked } from '../../data/counts';

/** What is counted: revisions of a moveset, newest first, and the tapes that are played on each. */
export interface CountedRevisions {
  moveset: string;
  revisions: readonly { number: number; hash: string }[];
  tapes: CountsAsked['tapes'];
}

/** Revisions that are counted at most: the newest. */
const MOST = 40;

/** Counts of revisions by their numbers, as they come; null for one that does not load. What is known is not counted again. */
export function revisionCounts(
  asked: Signal<CountedRevisions | undefined>,
): Signal<ReadonlyMap<number, Counts | null>> {
  const [api, analysis] = [inject(Api), inject(Analysis)];
  const known = new Map<string, Counts | null>();
  const counts = signal<ReadonlyMap<number, Counts | null>>(new Map());
  const put = (number: number, count: Counts | null): void =>
    counts.update((before) => new Map(before).set(number, count));
  toObservable(asked)
    .pipe(
      tap(() => counts.set(new Map())),
      debounceTime(200),
      switchMap((question) => {
        if (question === undefined) return EMPTY;
        const { moveset, tapes, revisions } = question;
        const about = JSON.stringify(tapes);
        return from(revisions.slice(0, MOST)).pipe(
          concatMap(({ number, hash }) => {
            const key = `${hash} ${about}`;
            const before = known.get(key);
            if (before !== undefined) {
              put(number, before);
              return EMPTY;
            }
            return api.readRevision('moveset', moveset, number).pipe(
              switchMap(({ text }) => analysis.counts({ moveset: text, tapes })),
              map((count) => ({ number, key, count: count ?? null })),
              // One that cannot be read is left without counts.
              catchError(() => EMPTY),
            );
          }),
        );
      }),
      takeUntilDestroyed(),
    )
    .subscribe(({ number, key, count }) => {
      known.set(key, count);
      put(number, count);
    });
  return counts;
}
