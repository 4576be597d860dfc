import { computed, inject, Injectable } from '@angular/core';
import { toObservable } from '@angular/core/rxjs-interop';
import type { Diagnostic } from '@glenmark/core/model';
import { readTape, type Tape } from '@glenmark/core/run';
import { Desk } from './desk';
import { Workspace } from './workspace';

/** The tape that is played in Run. What is changed of it counts at once: for the run, and for the findings. */
@Injectable({ providedIn: 'root' })
export class TapeDesk extends Desk {
  private readonly workspace = inject(Workspace);
  protected readonly kind = 'tape';

  readonly tape = computed((): Tape | undefined =>
    this.text() === '' ? undefined : readTape(this.text()).tape,
  );

  constructor() {
    super();
    toObservable(computed(() => ({ id: this.id(), text: this.text() }))).subscribe(({ id, text }) => {
      if (id === undefined || text === '') return;
      this.workspace.tapes.update((tapes) =>
        tapes.some((t) => t.tape.id === id && t.tape.text !== text)
          ? tapes.map((t) => (t.tape.id === id ? { ...t, tape: { ...t.tape, text } } : t))
          : tapes,
      );
    });
  }

  protected override faultsOf(text: string): Diagnostic[] {
    return readTape(text).diagnostics;
  }
}
