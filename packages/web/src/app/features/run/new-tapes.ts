import { inject, Injectable } from '@angular/core';
import { MatDialog } from '@angular/material/dialog';
import { tapeText } from '@glenmark/core/run';
import { filter, type Observable, switchMap } from 'rxjs';
import { Library } from '../../data/library';
import { TapeShelf } from '../../data/tape-shelf';
import { Workspace } from '../../data/workspace';
import { type NewTape, NewTapeDialog } from './new-tape-dialog';

/** Makes tapes for the open moveset: a second of rest on a course, to be driven or drawn on. */
@Injectable({ providedIn: 'root' })
export class NewTapes {
  private readonly workspace = inject(Workspace);
  private readonly library = inject(Library);
  private readonly shelf = inject(TapeShelf);
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
        switchMap((made) => this.shelf.add(this.textOf(made), $localize`New`)),
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
