import { computed, inject, Injectable, signal } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import {
  hasHappened,
  type Outcome,
  outcomeId,
  outcomeOf,
  outcomesOf,
  type Setting,
  settingChanges,
  turnablesOf,
} from '@glenmark/core/tune';
import { catchError, EMPTY, map, of, switchMap, tap } from 'rxjs';
import type { TapeEntry } from '../../data/library';
import { courseReadings } from '../../data/readings';
import { Tuning } from '../../data/tuning';
import type { Tuned, TunedTape, TuningAsked } from '../../data/tuning-work';
import { Workspace } from '../../data/workspace';

/** So many tapes are looked at when nobody chose others: more are too many to tell apart. */
const FIRST_TAPES = 4;

/** The colours of tapes, in the order in which they are chosen. */
const COLOURS = ['tide', 'clay', 'moss', 'heather', 'lichen', 'rowan'];

/** A tape that is looked at, with what it came to with the dials as the moveset has them, and as they are turned. */
export interface ShownTape {
  entry: TapeEntry;
  id: string;
  name: string;
  colour: string;
  before: TunedTape | undefined;
  now: TunedTape | undefined;
}

/** What is tuned: dials that are turned on trial, the tapes that are looked at, and what they come to. */
@Injectable()
export class TuneState {
  readonly workspace = inject(Workspace);
  private readonly tuning = inject(Tuning);

  /** The dials that are turned on trial, with their values; nothing of it is in the moveset until it is taken. */
  readonly setting = signal<Setting>({});
  /** From the address: the tapes that are looked at, and the one whose dials, sweeps and bars are shown. */
  readonly chosenIds = signal<readonly string[] | undefined>(undefined);
  readonly ownId = signal<string | undefined>(undefined);
  /** The outcome that was chosen, by its id. */
  private readonly chosenOutcome = signal('apex');
  readonly failed = signal('');

  readonly turnables = computed(() => turnablesOf(this.workspace.compiled()));
  readonly tapes = computed(() =>
    this.workspace.tapes().filter((t) => t.moveset === this.workspace.id() && t.course !== undefined),
  );
  readonly chosen = computed(() => {
    const ids = this.chosenIds();
    return ids === undefined
      ? this.tapes().slice(0, FIRST_TAPES)
      : this.tapes().filter(({ tape }) => ids.includes(tape.id));
  });
  readonly asked = computed((): TuningAsked | undefined =>
    this.workspace.machine() === undefined
      ? undefined
      : {
          moveset: this.workspace.text(),
          tapes: this.chosen().map(({ tape, course }) => ({ tape: tape.text, course: course!.text })),
        },
  );

  private readonly before = signal<Tuned | undefined>(undefined);
  private readonly now = signal<Tuned | undefined>(undefined);
  readonly wrong = computed(() => {
    const now = this.now();
    return now?.wrong ?? this.failed();
  });

  readonly shown = computed(() =>
    this.chosen().map((entry, i): ShownTape => ({
      entry,
      id: entry.tape.id,
      name: entry.tape.name,
      colour: COLOURS[i % COLOURS.length]!,
      before: tapeOf(this.before(), i),
      now: tapeOf(this.now(), i) ?? tapeOf(this.before(), i),
    })),
  );
  /** The place, among those that are looked at, of the tape whose dials and bars are shown. */
  readonly own = computed(() =>
    Math.max(
      0,
      this.chosen().findIndex(({ tape }) => tape.id === this.ownId()),
    ),
  );
  readonly ownTape = computed(() => this.shown()[this.own()]);
  readonly course = computed(() => {
    const text = this.chosen()[this.own()]?.course?.text;
    return text === undefined ? undefined : courseReadings.of(text).course;
  });
  /** The outcomes that the tapes have, with the dials as they are or as they are turned. */
  readonly outcomes = computed(() => {
    const machine = this.workspace.machine();
    if (machine === undefined) return [];
    const runs = this.shown().flatMap(({ before, now }) => [before, now]);
    const measured = runs.flatMap((run) =>
      run === undefined || run.wrong !== undefined ? [] : [run.measures],
    );
    return outcomesOf(machine).filter((outcome) => measured.some((m) => hasHappened(m, outcome)));
  });
  /** The outcome that is looked at, by its id: the chosen one, or the first that the tape has. */
  readonly outcome = computed(() => {
    const run = this.ownTape()?.before;
    const has = (outcome: Outcome): boolean =>
      run === undefined || run.wrong !== undefined || hasHappened(run.measures, outcome);
    const chosen = outcomeOf(this.chosenOutcome());
    if (chosen !== undefined && has(chosen)) return this.chosenOutcome();
    const first = this.outcomes().find(has);
    return first === undefined ? this.chosenOutcome() : outcomeId(first);
  });
  readonly isTurned = computed(() => Object.keys(this.setting()).length > 0);

  /** The dials that can matter to the outcome that is looked at; undefined until that is known. */
  readonly matter = signal<Record<string, string[]> | undefined>(undefined);
  readonly matterToOutcome = computed(() => this.matter()?.[this.outcome()]);

  constructor() {
    const asked = toObservable(this.asked);
    const fail = (error: Error): typeof EMPTY => {
      this.failed.set(error.message);
      return EMPTY;
    };
    asked
      .pipe(
        tap(() => this.failed.set('')),
        switchMap((a) => (a === undefined ? of(undefined) : this.tuning.tuned(a, {}).pipe(catchError(fail)))),
        takeUntilDestroyed(),
      )
      .subscribe((tuned) => this.before.set(tuned));
    toObservable(computed(() => ({ asked: this.asked(), setting: this.setting() })))
      .pipe(
        switchMap(({ asked: a, setting }) =>
          a === undefined || Object.keys(setting).length === 0
            ? of(undefined)
            : this.tuning.tuned(a, setting).pipe(catchError(fail)),
        ),
        takeUntilDestroyed(),
      )
      .subscribe((tuned) => this.now.set(tuned));
    toObservable(computed(() => ({ asked: this.asked(), own: this.own() })))
      .pipe(
        switchMap(({ asked: a, own }) =>
          a === undefined || a.tapes.length === 0
            ? of(undefined)
            : this.tuning.matters(a, own).pipe(
                map((matter): Record<string, string[]> | undefined => matter),
                catchError(fail),
              ),
        ),
        takeUntilDestroyed(),
      )
      .subscribe((matter) => this.matter.set(matter));
  }

  lookAt(outcome: string): void {
    this.chosenOutcome.set(outcome);
  }

  /** Turns a dial on trial; back at the moveset's value it is not turned any more. */
  turn(name: string, value: number): void {
    const own = this.turnables().find((t) => t.name === name)?.value;
    const { [name]: _, ...others } = this.setting();
    this.setting.set(value === own ? others : { ...others, [name]: value });
  }

  /** Turns to a setting, and nothing else. */
  turnTo(setting: Setting): void {
    this.setting.set({});
    for (const [name, value] of Object.entries(setting)) this.turn(name, value);
  }

  /** Puts the values on trial into the moveset, as one step that can be undone. */
  take(name: string): void {
    this.workspace.apply(name, settingChanges(this.turnables(), rounded(this.setting())));
    this.setting.set({});
  }
}

const tapeOf = (tuned: Tuned | undefined, place: number): TunedTape | undefined =>
  tuned === undefined || tuned.wrong !== undefined ? undefined : tuned.tapes[place];

/** Values as one writes them down: six significant digits, which no run can tell from more. */
const rounded = (setting: Setting): Setting =>
  Object.fromEntries(Object.entries(setting).map(([name, value]) => [name, Number(value.toPrecision(6))]));
