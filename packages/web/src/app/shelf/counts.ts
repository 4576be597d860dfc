import { inject, Injectable, signal } from '@angular/core';
import type { StoredDocument } from '@glenmark/contract';
import { concatMap, EMPTY, from, map, type Observable, tap } from 'rxjs';
import { Analysis } from '../data/analysis';
import { entriesOf, playableOf } from '../data/library';
import { type Asked, askedOf } from '../findings/asked';

/** What is counted of each moveset on the shelf: found in a worker, one after the other, and once for each revision. */
@Injectable({ providedIn: 'root' })
export class Counts {
  private readonly analysis = inject(Analysis);
  private readonly known = signal<ReadonlyMap<string, { stamp: string; counts: Asked[] }>>(new Map());

  /** The three questions of a moveset, or undefined until they were looked for. */
  of(moveset: StoredDocument): Asked[] | undefined {
    return this.known()
      .get(moveset.id)
      ?.counts.filter((asked) => asked.question !== 'risky');
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
          tap((counts) => this.known.update((known) => new Map(known).set(moveset.id, { stamp, counts }))),
        );
      }),
    );
  }
}
