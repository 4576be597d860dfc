import { computed, inject, Injectable, signal } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import type { Revision } from '@glenmark/contract';
import { catchError, type Observable, of, switchMap, tap } from 'rxjs';
import { Api } from './api';
import { Workspace } from './workspace';

/** What the open moveset has been, as the server keeps it; read again after each save. */
@Injectable({ providedIn: 'root' })
export class Revisions {
  private readonly api = inject(Api);
  private readonly workspace = inject(Workspace);

  private readonly labelled = signal(0);
  private readonly all = toSignal(
    toObservable(
      computed(() => ({
        id: this.workspace.id(),
        revision: this.workspace.revision(),
        labelled: this.labelled(),
      })),
    ).pipe(
      switchMap(({ id }) =>
        // Without an answer there is nothing to choose from; the bar says that the server is away.
        id === undefined ? of([]) : this.api.revisions('moveset', id).pipe(catchError(() => of([]))),
      ),
    ),
    { initialValue: [] as Revision[] },
  );
  /** All that are kept, newest first. */
  readonly kept = computed(() => this.all());
  /** Those before the one that is open, newest first. */
  readonly earlier = computed(() => this.all().filter((r) => r.number < this.workspace.revision()));

  /** Labels a revision of the open moveset; an empty label takes it away. */
  label(number: number, label: string): Observable<Revision> {
    return this.api
      .label('moveset', this.workspace.id()!, number, label)
      .pipe(tap(() => this.labelled.update((n) => n + 1)));
  }
}
