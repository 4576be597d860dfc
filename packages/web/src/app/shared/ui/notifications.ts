import { inject, Injectable } from '@angular/core';
import { MatSnackBar } from '@angular/material/snack-bar';
import type { Observable } from 'rxjs';

/** Long enough to read two lines (ms). */
const READING = 7000;

/** Says in passing, at the foot of the window, what was done or why it was not. */
@Injectable({ providedIn: 'root' })
export class Notifications {
  private readonly snack = inject(MatSnackBar);

  say(sentence: string): void {
    this.snack.open(sentence, undefined, { duration: READING });
  }

  /** Says what stood in the way of a change, if anything did. Gives whether it was done. */
  unlessDone(wrong: { message: string } | undefined): boolean {
    if (wrong !== undefined) this.say($localize`Not done: ${wrong.message}.`);
    return wrong === undefined;
  }

  /** Says what was done, and tells when it shall be undone. */
  offerUndo(sentence: string): Observable<void> {
    return this.snack.open(sentence, $localize`Undo`, { duration: READING + 1000 }).onAction();
  }
}
