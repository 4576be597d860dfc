import { inject, Injectable } from '@angular/core';
import { catchError, defer, from, map, mergeMap, type Observable, of, toArray } from 'rxjs';
import { Api, type ApiError } from '../../data/api';
import { faultsOf } from './import-faults';

/** What became of a file that somebody imported. */
export interface ImportedFile {
  file: string;
  /** Why it was not imported; empty when it was. */
  refused: string[];
  /** What of a chart did not come over, with its line. */
  lost: string[];
}

const MAX_BYTES = 4_000_000;

/** Imports files on the shelf: documents of Glenmark, and charts in SCXML, which become movesets. */
@Injectable({ providedIn: 'root' })
export class Importing {
  private readonly api = inject(Api);

  /** Imports two files at a time, and tells what became of each. */
  all(files: readonly File[]): Observable<ImportedFile[]> {
    return from(files).pipe(
      mergeMap((file) => this.one(file), 2),
      toArray(),
    );
  }

  private one(file: File): Observable<ImportedFile> {
    const told = (refused: string[], lost: string[] = []): ImportedFile => ({
      file: file.name,
      refused,
      lost,
    });
    if (file.size > MAX_BYTES)
      return of(told([$localize`found ${file.size} bytes, expected at most ${MAX_BYTES}`]));
    return defer(() => documentIn(file)).pipe(
      mergeMap(({ text, lost, faults }) => {
        const refused = text === undefined ? faults : faultsOf(text);
        if (text === undefined || refused.length > 0) return of(told(refused));
        return this.api.import(text).pipe(
          map(() => told([], lost)),
          catchError((error: ApiError) => of(told([error.problem.detail]))),
        );
      }),
    );
  }
}

/** The document that a file holds; of a chart the moveset that it is, with what did not come over. */
async function documentIn(
  file: File,
): Promise<{ text: string | undefined; lost: string[]; faults: string[] }> {
  const text = await file.text();
  if (!/\.(scxml|xml)$/i.test(file.name)) return { text, lost: [], faults: [] };
  const { readScxml } = await import('@glenmark/core/charts');
  const chart = readScxml(text);
  return {
    text: chart.text,
    lost: chart.notCarried.map(({ line, message }) => `${line}: ${message}`),
    faults: chart.diagnostics.map((d) => `${d.line}:${d.column}: ${d.message}`),
  };
}
