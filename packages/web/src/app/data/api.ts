import { HttpClient, type HttpErrorResponse, HttpHeaders } from '@angular/common/http';
import { inject, Injectable } from '@angular/core';
import {
  COLLECTIONS,
  type Draft,
  etagOf,
  type Problem,
  type Revision,
  type RestoredSamples,
  type StoredDocument,
  type Summary,
} from '@glenmark/contract';
import type { Kind } from '@glenmark/core';
import { catchError, type Observable, throwError } from 'rxjs';

/** What the server said when a request failed; `status` 0 when it could not be reached at all. */
export class ApiError extends Error {
  constructor(readonly problem: Problem) {
    super(problem.detail);
  }
}

/** The server's documents. Every stream gives one value and completes, or fails with an ApiError. */
@Injectable({ providedIn: 'root' })
export class Api {
  private readonly http = inject(HttpClient);

  list(kind: Kind): Observable<Summary[]> {
    return this.http.get<Summary[]>(`/api/${COLLECTIONS[kind]}`).pipe(catchError(toApiError));
  }

  read(kind: Kind, id: string): Observable<StoredDocument> {
    return this.http.get<StoredDocument>(`/api/${COLLECTIONS[kind]}/${id}`).pipe(catchError(toApiError));
  }

  /** What a document has been, newest first. */
  revisions(kind: Kind, id: string): Observable<Revision[]> {
    return this.http
      .get<Revision[]>(`/api/${COLLECTIONS[kind]}/${id}/revisions`)
      .pipe(catchError(toApiError));
  }

  readRevision(kind: Kind, id: string, number: number): Observable<StoredDocument> {
    return this.http
      .get<StoredDocument>(`/api/${COLLECTIONS[kind]}/${id}/revisions/${number}`)
      .pipe(catchError(toApiError));
  }

  create(kind: Kind, draft: Draft): Observable<StoredDocument> {
    return this.http.post<StoredDocument>(`/api/${COLLECTIONS[kind]}`, draft).pipe(catchError(toApiError));
  }

  /** Adds a revision on top of `base`; fails with status 412 when another came first. */
  save(base: StoredDocument, draft: Draft): Observable<StoredDocument> {
    const headers = new HttpHeaders({ 'If-Match': etagOf(base) });
    return this.http
      .put<StoredDocument>(`/api/${COLLECTIONS[base.kind]}/${base.id}`, draft, { headers })
      .pipe(catchError(toApiError));
  }

  import(text: string): Observable<StoredDocument> {
    return this.http.post<StoredDocument>('/api/import', { text }).pipe(catchError(toApiError));
  }

  /** Brings back the samples that are gone. */
  restoreSamples(): Observable<RestoredSamples> {
    return this.http.post<RestoredSamples>('/api/samples/restore', {}).pipe(catchError(toApiError));
  }

  remove(document: { kind: Kind; id: string; revision: number; hash: string }): Observable<unknown> {
    const headers = new HttpHeaders({ 'If-Match': etagOf(document) });
    return this.http
      .delete(`/api/${COLLECTIONS[document.kind]}/${document.id}`, { headers })
      .pipe(catchError(toApiError));
  }

  fileUrl(kind: Kind, id: string): string {
    return `/api/${COLLECTIONS[kind]}/${id}/file`;
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
