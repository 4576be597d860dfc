import { HttpClient, type HttpErrorResponse, HttpHeaders } from '@angular/common/http';
import { inject, Injectable } from '@angular/core';
import {
  COLLECTIONS,
  type Draft,
  etagOf,
  type ImportedBackup,
  type Problem,
  type RestoredSamples,
  type Revision,
  type Session,
  type SignOut,
  type Workers,
  type StoredDocument,
  type Summary,
} from '@glenmark/contract';
import type { Kind } from '@glenmark/core/model';

import { catchError, EMPTY, expand, type Observable, reduce, retry, throwError, timer } from 'rxjs';
import { randomId } from './random-id';

/** What the server said when a request failed; `status` 0 when it could not be reached at all. */
export class ApiError extends Error {
  constructor(readonly problem: Problem) {
    super(problem.detail);
  }
}

/** How often a request without an answer is repeated, and after how long (ms). */
const REPEATS = 2;
const REPEAT_AFTER = 500;

const addressOf = ({ kind, id }: { kind: Kind; id: string }): string =>
  `/api/${COLLECTIONS[kind]}/${encodeURIComponent(id)}`;

/** The server's documents. Every stream gives one value and completes, or fails with an ApiError. */
@Injectable({ providedIn: 'root' })
export class Api {
  private readonly http = inject(HttpClient);

  /** All documents of a kind, newest change first, however many parts the server gives them in. */
  list(kind: Kind): Observable<Summary[]> {
    const part = (address: string) => this.http.get<Summary[]>(address, { observe: 'response' });
    return part(`/api/${COLLECTIONS[kind]}`).pipe(
      expand(({ headers }) => {
        const next = /<([^>]+)>; rel="next"/.exec(headers.get('Link') ?? '')?.[1];
        return next === undefined ? EMPTY : part(next);
      }),
      reduce((list: Summary[], { body }) => [...list, ...(body ?? [])], []),
      catchError(toApiError),
    );
  }

  read(kind: Kind, id: string): Observable<StoredDocument> {
    return this.http.get<StoredDocument>(addressOf({ kind, id })).pipe(catchError(toApiError));
  }

  /** What a document has been, newest first. */
  revisions(kind: Kind, id: string): Observable<Revision[]> {
    return this.http.get<Revision[]>(`${addressOf({ kind, id })}/revisions`).pipe(catchError(toApiError));
  }

  label(kind: Kind, id: string, number: number, label: string): Observable<Revision> {
    return this.http
      .put<Revision>(`${addressOf({ kind, id })}/revisions/${number}/label`, { label })
      .pipe(catchError(toApiError));
  }

  readRevision(kind: Kind, id: string, number: number): Observable<StoredDocument> {
    return this.http
      .get<StoredDocument>(`${addressOf({ kind, id })}/revisions/${number}`)
      .pipe(catchError(toApiError));
  }

  create(kind: Kind, draft: Draft): Observable<StoredDocument> {
    return this.post<StoredDocument>(`/api/${COLLECTIONS[kind]}`, draft);
  }

  /**
   * Adds a revision on top of `base`; fails with status 412 when another came first. With `keepalive` the browser ends the
   * request even when the page goes.
   */
  save(
    base: { kind: Kind; id: string; revision: number; hash: string },
    draft: Draft,
    { keepalive = false } = {},
  ): Observable<StoredDocument> {
    const headers = new HttpHeaders({ 'If-Match': etagOf(base) });
    return this.http
      .put<StoredDocument>(addressOf(base), draft, { headers, keepalive })
      .pipe(catchError(toApiError));
  }

  import(text: string): Observable<StoredDocument> {
    return this.post<StoredDocument>('/api/import', { text });
  }

  /** Brings back the samples that are gone. */
  restoreSamples(): Observable<RestoredSamples> {
    return this.http.post<RestoredSamples>('/api/samples/restore', {}).pipe(catchError(toApiError));
  }

  /** Makes something, once, however often the request has to be repeated until its answer comes. */
  private post<T>(address: string, body: object): Observable<T> {
    const headers = new HttpHeaders({ 'Idempotency-Key': randomId() });
    return this.http.post<T>(address, body, { headers }).pipe(
      retry({
        count: REPEATS,
        delay: (error: HttpErrorResponse) =>
          error.status === 0 ? timer(REPEAT_AFTER) : throwError(() => error),
      }),
      catchError(toApiError),
    );
  }

  remove(document: { kind: Kind; id: string; revision: number; hash: string }): Observable<unknown> {
    const headers = new HttpHeaders({ 'If-Match': etagOf(document) });
    return this.http.delete(addressOf(document), { headers }).pipe(catchError(toApiError));
  }

  /** Where a backup of everything is: all documents with all their revisions, and what scoutings found. */
  readonly backupUrl = '/api/backup';

  importBackup(zip: Blob): Observable<ImportedBackup> {
    const headers = new HttpHeaders({ 'Content-Type': 'application/zip' });
    return this.http.post<ImportedBackup>(this.backupUrl, zip, { headers }).pipe(catchError(toApiError));
  }

  session(): Observable<Session> {
    return this.http.get<Session>('/api/session').pipe(catchError(toApiError));
  }

  workers(): Observable<Workers> {
    return this.http.get<Workers>('/api/workers').pipe(catchError(toApiError));
  }

  signOut(whose: SignOut): Observable<unknown> {
    return this.http.post('/api/sign-out', whose).pipe(catchError(toApiError));
  }

  fileUrl(kind: Kind, id: string): string {
    return `${addressOf({ kind, id })}/file`;
  }
}

/** What the server said of a failed request, as an ApiError. */
export function toApiError(error: unknown): Observable<never> {
  const response = error as HttpErrorResponse;
  const body = response.error as Partial<Problem> | null | undefined;
  const problem: Problem =
    typeof body?.detail === 'string'
      ? (body as Problem)
      : {
          type: 'about:blank',
          title: $localize`No answer`,
          status: response.status,
          detail: $localize`The server does not answer. What you see is kept here and saved when it is back.`,
        };
  return throwError(() => new ApiError(problem));
}
