import { inject, Injectable, signal } from '@angular/core';
import type { StoredDocument } from '@glenmark/contract';
import { catchError, concatMap, EMPTY, from, map, type Observable, tap } from 'rxjs';
import { Analysis } from '../../data/analysis';
import { entriesOf, playableOf } from '../../data/library';
import { type Asked, askedOf } from '../../shared/document/asked';

interface Counted {
  revision: number;
  /** What was looked at: the moveset, its tapes and their courses, each at its revision. */
  stamp: string;
  counts: Asked[];
}

/** What is counted of each moveset on the shelf: found in a worker, one after the other, and once for each revision. */
@Injectable({ providedIn: 'root' })
export class Counts {
  private readonly analysis = inject(Analysis);
  private readonly known = signal<ReadonlyMap<string, Counted>>(new Map());

  /** The three questions of a moveset, or undefined until they were looked for at its revision. */
  of(moveset: StoredDocument): Asked[] | undefined {
    const known = this.known().get(moveset.id);
    return known?.revision === moveset.revision
      ? known.counts.filter((asked) => asked.question !== 'risky')
      : undefined;
  }

  /** Looks for what is not known yet, with all documents of the shelf. */
  count(documents: readonly StoredDocument[]): Observable<unknown> {
    const of = (kind: StoredDocument['kind']) => documents.filter((d) => d.kind === kind);
    const entries = entriesOf(of('tape'), of('course'));
    return from(of('moveset')).pipe(
      concatMap((moveset) => {
        const own = entries.filter((e) => e.moveset === moveset.id);
        const stamp = [moveset, ...own.flatMap((e) => [e.tape, e.course])]
          .map((d) => `${d?.id}@${d?.revision}`)
          .join(' ');
        if (this.known().get(moveset.id)?.stamp === stamp) return EMPTY;
        return this.analysis.findingsThen(moveset.text, playableOf(own)).pipe(
          map(askedOf),
          tap((counts) => {
            const counted = { revision: moveset.revision, stamp, counts };
            this.known.update((known) => new Map(known).set(moveset.id, counted));
          }),
          // The shelf goes on without: the moveset's own view tells what is wrong.
          catchError(() => EMPTY),
        );
      }),
    );
  }
}
