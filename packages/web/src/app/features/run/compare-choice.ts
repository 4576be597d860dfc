import { MatInput } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import { MatButton } from '@angular/material/button';
import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { type Integration, readMoveset } from '@glenmark/core/machine';
import { type Change, edit, errorsOf } from '@glenmark/core/model';
import { catchError, combineLatest, map, type Observable, of, switchMap } from 'rxjs';
import { Api } from '../../data/api';
import type { Beside } from '../../data/compared';
import { Revisions } from '../../data/revisions';
import { Workspace } from '../../data/workspace';
import { dialRows } from '../../shared/document/dials';
import { asSentence } from '../../shared/ui/sentence';
import { type Turned, turnedChanges } from './turned-dials';

/** Longest log that is read, in bytes: some 100,000 ticks. */
const MAX_LOG = 20_000_000;

/** The tick rates at which runs are compared. */
export const RATES = [30, 50, 60, 120, 144];

/** What a run is put beside: itself at other tick rates, or another run. */
export type Other = 'rates' | Beside | GameLogFile;

/** A log of the game, as a file. */
export interface GameLogFile {
  log: { name: string; text: string };
}

export const isLog = (other: Other | undefined): other is GameLogFile =>
  typeof other === 'object' && 'log' in other;

/** How an engine may step, and by which velocity the body moves then. */
const STEPPINGS: readonly { value: Integration; name: string }[] = [
  { value: 'semi-implicit', name: $localize`semi-implicit: by the velocity after the rules` },
  { value: 'explicit', name: $localize`explicit: by the velocity before the rules` },
  { value: 'trapezoid', name: $localize`trapezoid: by the mean of both` },
];

/**
 * Chooses what a run is compared with: other tick rates, another way the engine steps, other dials, an earlier revision,
 * another tape.
 */
@Component({
  selector: 'gm-compare-choice',
  imports: [MatInput, MatSelectModule, MatButton],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './compare-choice.html',
  styles: `
    :host {
      display: grid;
      gap: 6px;
      justify-items: start;
    }
    .labelled {
      display: grid;
      gap: 3px;
      color: var(--ink-2);
      width: 100%;
    }
    .dial {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 6px;
      width: 100%;
    }
    .bad:empty {
      display: none;
    }
  `,
})
export class CompareChoice {
  private readonly workspace = inject(Workspace);
  private readonly api = inject(Api);
  /** The run that is shown. */
  readonly own = input.required<Omit<Beside, 'label'>>();
  readonly tapeId = input.required<string>();
  readonly other = output<Other | undefined>();

  protected readonly kind = signal('rates');
  protected readonly others = computed(() =>
    this.workspace.tapes().filter((t) => t.tape.id !== this.tapeId() && t.moveset === this.workspace.id()),
  );
  protected readonly dials = computed(() => {
    const { machine, file } = this.workspace.compiled();
    return machine === undefined || file === undefined
      ? []
      : dialRows(machine, file).filter((d) => !d.derived);
  });
  private readonly written = signal<Turned[] | undefined>(undefined);
  protected readonly turned = computed(
    () =>
      this.written() ??
      this.dials()
        .slice(0, 1)
        .map((d) => ({ dial: d.name, text: d.text })),
  );
  protected readonly earlier = inject(Revisions).earlier;
  protected readonly revision = signal<number | undefined>(undefined);
  protected readonly chosenRevision = computed(() => this.revision() ?? this.earlier()[0]?.number);
  protected readonly rates = computed(() => RATES.filter((r) => r !== this.workspace.machine()?.nominalRate));
  protected readonly rate = signal<number | undefined>(undefined);
  protected readonly chosenRate = computed(() => this.rate() ?? this.rates()[0]!);
  protected readonly steppings = computed(() =>
    STEPPINGS.filter(({ value }) => value !== this.workspace.machine()?.integration),
  );
  private readonly stepping = signal<Integration | undefined>(undefined);
  protected readonly chosenStepping = computed(() => {
    const all = this.steppings();
    return all.find(({ value }) => value === this.stepping()) ?? all[0]!;
  });
  protected readonly log = signal<GameLogFile['log'] | undefined>(undefined);
  protected readonly wrong = signal('');

  constructor() {
    combineLatest([
      toObservable(
        computed(() => ({
          kind: this.kind(),
          own: this.own(),
          turned: this.turned(),
          rate: this.chosenRate(),
          stepping: this.chosenStepping(),
          log: this.log(),
        })),
      ),
      toObservable(this.chosenRevision),
    ])
      .pipe(
        switchMap(([, revision]) => this.described(revision)),
        takeUntilDestroyed(),
      )
      .subscribe((other) => this.other.emit(other));
  }

  protected step(value: Integration): void {
    this.stepping.set(value);
  }

  protected turn(index: number, change: Partial<Turned>): void {
    this.written.set(
      this.turned().map((t, i) => {
        if (i !== index) return t;
        const text = this.dials().find((d) => d.name === change.dial)?.text;
        return { ...t, ...(text === undefined ? {} : { text }), ...change };
      }),
    );
  }

  protected async takeLog(files: HTMLInputElement): Promise<void> {
    const file = files.files?.[0];
    // The same file can be chosen again, when it was written anew.
    files.value = '';
    if (file === undefined) return;
    if (file.size > MAX_LOG)
      return this.wrong.set($localize`${file.name} has ${file.size} bytes, more than a log may have.`);
    this.log.set({ name: file.name, text: await file.text() });
  }

  protected addDial(): void {
    const free = this.dials().find((d) => this.turned().every((t) => t.dial !== d.name));
    if (free !== undefined) this.written.set([...this.turned(), { dial: free.name, text: free.text }]);
  }

  private described(revision: number | undefined): Observable<Other | undefined> {
    const [kind, own] = [this.kind(), this.own()];
    this.wrong.set('');
    if (kind === 'rates') return of(kind);
    if (kind === 'log') return of(this.log() === undefined ? undefined : { log: this.log()! });
    if (kind === 'rate')
      return of({ ...own, label: $localize`at ${this.chosenRate()}`, rate: this.chosenRate() });
    if (kind === 'dials')
      return of(this.changed(own, turnedChanges(this.dials(), this.turned()), $localize`turned`));
    if (kind === 'stepping') {
      const { value } = this.chosenStepping();
      return of(this.changed(own, [{ path: ['integration'], value }], value));
    }
    if (kind === 'revision') {
      if (revision === undefined) return of(undefined);
      return this.api.readRevision('moveset', this.workspace.id()!, revision).pipe(
        map(({ text }) => ({ ...own, moveset: text, label: `r${revision}` })),
        catchError(() => {
          this.wrong.set($localize`This revision could not be loaded.`);
          return of(undefined);
        }),
      );
    }
    const entry = this.others().find((t) => kind === 'tape ' + t.tape.id);
    if (entry === undefined) return of(undefined);
    const course = entry.course?.text ?? own.course;
    return of({ moveset: own.moveset, course, tape: entry.tape.text, label: entry.tape.name });
  }

  /** The same run of the moveset with some changes; undefined, and why, when it does not load with them. */
  private changed(own: Omit<Beside, 'label'>, changes: readonly Change[], label: string): Beside | undefined {
    const moveset = edit(own.moveset, changes);
    const [wrong] = errorsOf(readMoveset(moveset).diagnostics);
    if (wrong !== undefined) {
      this.wrong.set(asSentence(wrong.message));
      return undefined;
    }
    return { ...own, moveset, label };
  }
}
