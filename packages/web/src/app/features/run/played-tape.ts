import { computed, effect, inject, Injectable, signal, untracked } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { type Session, toMachineTick } from '@glenmark/core/run';
import { catchError, of, switchMap } from 'rxjs';
import { Analysis, type Played } from '../../data/analysis';
import type { Agreement } from '../../data/analysis.worker';
import { TapeDesk } from '../../data/tape-desk';
import { Workspace } from '../../data/workspace';

/** The tape that Run shows, played on its course by the moveset that is open, and played again after each edit. */
@Injectable()
export class PlayedTape {
  private readonly workspace = inject(Workspace);
  private readonly desk = inject(TapeDesk);
  private readonly analysis = inject(Analysis);

  /** The identifier of the tape that is asked for; the moveset's first one when undefined. */
  readonly asked = signal<string | undefined>(undefined);

  readonly session = signal<Session | undefined>(undefined);
  /** Why it cannot be played, one sentence each. */
  readonly wrong = signal<string[]>([]);
  /** Whether the fast machine came to the same bits as the run shown. */
  readonly agreed = signal<Agreement>('unasked');

  readonly entry = computed(() => {
    const tapes = this.workspace.tapes();
    return (
      tapes.find((t) => t.tape.id === this.asked()) ?? tapes.find((t) => t.moveset === this.workspace.id())
    );
  });
  /** The number of the last tick. */
  readonly last = computed(() => (this.session()?.trace.records.length ?? 1) - 1);
  /** Whether the tape that is shown is the one that is open for editing. */
  readonly isOpen = computed(() => this.desk.id() === this.entry()?.tape.id);
  /** The tape whose bars can be edited: one on another grid than the run's is only shown. */
  readonly editable = computed(() => {
    const tape = this.desk.tape();
    const rate = this.session()?.trace.machine.rate;
    return tape !== undefined && this.isOpen() && (tape.rate ?? rate) === rate ? tape : undefined;
  });
  /** The marks of the tape, in ticks of the run. */
  readonly marks = computed(() => {
    const machine = this.session()?.trace.machine;
    const tape = this.isOpen() ? this.desk.tape() : undefined;
    if (machine === undefined || tape === undefined) return [];
    return tape.marks.map(({ name, tick }) => ({ name, tick: toMachineTick(tape, machine, tick) }));
  });

  constructor() {
    const none = (...wrong: string[]): Played => ({ agreed: 'unasked', wrong });
    toObservable(computed(() => ({ text: this.workspace.text(), entry: this.entry() })))
      .pipe(
        switchMap(({ text, entry }) => {
          if (entry === undefined || text === '') return of(none());
          return entry.course === undefined
            ? of(none($localize`The course of “${entry.tape.name}” is not on the shelf.`))
            : this.analysis
                .run(text, entry.course.text, entry.tape.text)
                .pipe(catchError((error: Error) => of(none($localize`The run failed\: ${error.message}.`))));
        }),
        takeUntilDestroyed(),
      )
      .subscribe(({ session, agreed, wrong }) => {
        this.wrong.set(wrong);
        this.agreed.set(agreed);
        this.session.set(session);
      });
    effect(() => {
      const id = this.entry()?.tape.id;
      if (id !== undefined) untracked(() => this.desk.open(id));
    });
  }
}
