import { inject, Injectable } from '@angular/core';
import { map, type Observable, of, switchMap, tap } from 'rxjs';
import { Api } from './api';
import { Library } from './library';
import { Workspace } from './workspace';

/** Puts tapes that were made here on the shelf, so that the open moveset has them. */
@Injectable({ providedIn: 'root' })
export class TapeShelf {
  private readonly api = inject(Api);
  private readonly library = inject(Library);
  private readonly workspace = inject(Workspace);

  /** Saves a tape and reads the moveset's tapes again; gives the tape's id. */
  add(text: string, message: string): Observable<string> {
    return this.api
      .create('tape', { text, message })
      .pipe(switchMap(({ id }) => this.readAgain().pipe(map(() => id))));
  }

  /** Reads the tapes of the open moveset again; nothing when none is open. */
  readAgain(): Observable<unknown> {
    const id = this.workspace.id();
    return id === undefined
      ? of(undefined)
      : this.library.tapesFor(id).pipe(
          tap((tapes) => {
            if (this.workspace.id() === id) this.workspace.tapes.set(tapes);
          }),
        );
  }
}
