import { inject, Injectable } from '@angular/core';
import { MatDialog } from '@angular/material/dialog';
import { tapeText } from '@glenmark/core/run';
import { filter, map, type Observable, switchMap, tap } from 'rxjs';
import { Api } from '../../data/api';
import { Library } from '../../data/library';
import { Workspace } from '../../data/workspace';
import { type NewTape, NewTapeDialog } from './new-tape-dialog';

/** Makes tapes for the open moveset: a second of rest on a course, to be driven or drawn on. */
@Injectable({ providedIn: 'root' })
export class NewTapes {
  private readonly workspace = inject(Workspace);
  private readonly library = inject(Library);
  private readonly api = inject(Api);
  private readonly dialog = inject(MatDialog);

  /** Asks for name and place, and gives the identifier of the tape once it is on the shelf; nothing when given up. */
  ask(): Observable<string> {
    const courses = this.library.courses();
    const taken = this.workspace.tapes().map((t) => t.tape.id);
    return this.dialog
      .open<NewTapeDialog, NewTapeDialog['data'], NewTape>(NewTapeDialog, { data: { courses, taken } })
      .afterClosed()
      .pipe(
        filter((made) => made !== undefined),
        switchMap((made) => this.api.create('tape', { text: this.textOf(made), message: $localize`New` })),
        switchMap(({ id }) =>
          this.library.tapesFor(this.workspace.id()!).pipe(
            tap((tapes) => this.workspace.tapes.set(tapes)),
            map(() => id),
          ),
        ),
      );
  }

  private textOf(made: NewTape): string {
    const machine = this.workspace.machine()!;
    const inputs = Array.from({ length: machine.rate }, () => machine.controls.map(() => 0));
    return tapeText(machine, {
      name: made.name,
      course: made.course,
      start: { spawn: made.spawn },
      moveset: this.workspace.id()!,
      inputs,
      expect: [],
    });
  }
}
