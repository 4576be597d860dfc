import { computed, inject, Injectable } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import type { Revision } from '@glenmark/contract';
import { catchError, of, switchMap } from 'rxjs';
import { Api } from './api';
import { Workspace } from './workspace';

/** What the open moveset has been, as the server keeps it; read again after each save. */
@Injectable({ providedIn: 'root' })
export class Revisions {
  private readonly api = inject(Api);
  private readonly workspace = inject(Workspace);

  private readonly all = toSignal(
    toObservable(computed(() => ({ id: this.workspace.id(), revision: this.workspace.revision() }))).pipe(
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
}
