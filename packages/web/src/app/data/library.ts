import { inject, Injectable, signal } from '@angular/core';
import type { StoredDocument } from '@glenmark/contract';
import { type Kind, readFile, slugOf } from '@glenmark/core/model';
import { forkJoin, map, type Observable, of, shareReplay, switchMap, tap } from 'rxjs';
import { Api } from './api';

/** A tape with the course it runs on, as documents. */
export interface TapeEntry {
  tape: StoredDocument;
  course: StoredDocument | undefined;
  moveset: string | undefined;
}

/** Tapes with the courses they run on. */
export const entriesOf = (
  tapes: readonly StoredDocument[],
  courses: readonly StoredDocument[],
): TapeEntry[] =>
  tapes.map((tape) => {
    const { file } = readFile('tape', tape.text);
    // By the name itself first: documents of earlier releases have short names made by other rules.
    const course =
      courses.find((c) => c.name === file?.course) ??
      courses.find((c) => c.id === slugOf(file?.course ?? ''));
    return { tape, course, moveset: file?.moveset === undefined ? undefined : slugOf(file.moveset) };
  });

/** Those that can be played, as texts. */
export const playableOf = (entries: readonly TapeEntry[]): { tape: string; course: string }[] =>
  entries.flatMap(({ tape, course }) =>
    course === undefined ? [] : [{ tape: tape.text, course: course.text }],
  );

/** All courses and tapes of the shelf, read whole: what runs and findings need beside the moveset. */
@Injectable({ providedIn: 'root' })
export class Library {
  private readonly api = inject(Api);
  /** All courses, as they were read last. */
  readonly courses = signal<StoredDocument[]>([]);

  /** Tapes made for a moveset first, then all others; each with its course. */
  tapesFor(moveset: string): Observable<TapeEntry[]> {
    return forkJoin({ tapes: this.all('tape'), courses: this.all('course') }).pipe(
      tap(({ courses }) => this.courses.set(courses)),
      map(({ tapes, courses }) => {
        const entries = entriesOf(tapes, courses);
        return [
          ...entries.filter((e) => e.moveset === moveset),
          ...entries.filter((e) => e.moveset !== moveset),
        ];
      }),
      shareReplay({ bufferSize: 1, refCount: true }),
    );
  }

  private all(kind: Kind): Observable<StoredDocument[]> {
    return this.api
      .list(kind)
      .pipe(
        switchMap((list) =>
          list.length === 0 ? of([]) : forkJoin(list.map(({ id }) => this.api.read(kind, id))),
        ),
      );
  }
}
