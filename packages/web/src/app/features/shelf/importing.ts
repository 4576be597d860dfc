import { inject, Injectable } from '@angular/core';
import type { ImportedBackup } from '@glenmark/contract';
import { catchError, defer, from, map, mergeMap, type Observable, of, toArray } from 'rxjs';
import { Analysis } from '../../data/analysis';
import { Api, type ApiError } from '../../data/api';
import { faultsOf } from './import-faults';

/** What became of a file that somebody imported. */
export interface ImportedFile {
  file: string;
  /** Why it was not imported; empty when it was. */
  refused: string[];
  /** What of a chart did not come over, with its line. */
  lost: string[];
  /** What became of the documents in a backup. */
  backup: string[];
}

const MAX_BYTES = 4_000_000;

/** Imports files on the shelf: documents of Glenmark, charts in SCXML, which become movesets, and backups. */
@Injectable({ providedIn: 'root' })
export class Importing {
  private readonly api = inject(Api);
  private readonly analysis = inject(Analysis);

  /** Imports two files at a time, and tells what became of each. */
  all(files: readonly File[]): Observable<ImportedFile[]> {
    return from(files).pipe(
      mergeMap((file) => this.one(file), 2),
      toArray(),
    );
  }

  private one(file: File): Observable<ImportedFile> {
    const told = (refused: string[], lost: string[] = [], backup: string[] = []): ImportedFile => ({
      file: file.name,
      refused,
      lost,
      backup,
    });
    if (/\.zip$/i.test(file.name))
      return this.api.importBackup(file).pipe(
        map((imported) => told([], [], linesOf(imported))),
        catchError((error: ApiError) => of(told([error.problem.detail]))),
      );
    if (file.size > MAX_BYTES)
      return of(told([$localize`found ${file.size} bytes, expected at most ${MAX_BYTES}`]));
    return defer(() => file.text()).pipe(
      mergeMap((text) => this.documentIn(file.name, text)),
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

  /** The document that a text holds; of a chart the moveset that it is, with what did not come over. */
  private documentIn(name: string, text: string): Observable<Held> {
    if (!/\.(scxml|xml)$/i.test(name)) return of({ text, lost: [], faults: [] });
    return this.analysis.chart(text).pipe(
      map((chart): Held => ({
        text: chart.text,
        lost: chart.notCarried.map(({ line, message }) => `${line}: ${message}`),
        faults: chart.diagnostics.map((d) => `${d.line}:${d.column}: ${d.message}`),
      })),
    );
  }
}

/** What became of the documents in a backup, a line for each way that it may go. */
function linesOf({ added, continued, known, beside }: ImportedBackup): string[] {
  const line = (words: string, names: readonly string[]): string[] =>
    names.length === 0 ? [] : [`${words}: ${names.join(', ')}`];
  return [
    ...line($localize`added`, added),
    ...line($localize`got the revisions that came after those here`, continued),
    ...line($localize`here already`, known),
    ...line($localize`went another way here, so put beside`, beside),
  ];
}

interface Held {
  /** Undefined for what is no chart, which the faults tell. */
  text: string | undefined;
  lost: string[];
  faults: string[];
}
