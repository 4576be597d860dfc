import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { readMoveset } from '@glenmark/core/machine';
import { edit, errorsOf } from '@glenmark/core/model';
import { catchError, combineLatest, map, type Observable, of, switchMap } from 'rxjs';
import { Api } from '../data/api';
import type { Beside } from '../data/analysis.worker';
import { Revisions } from '../data/revisions';
import { Workspace } from '../data/workspace';
import { dialRows } from '../model/values/dials';
import { asSentence } from '../ui/sentence';

/** The tick rates at which runs are compared. */
export const RATES = [30, 50, 60, 120, 144];

/** What a run is put beside: itself at other tick rates, or another run. */
export type Other = 'rates' | Beside;

interface Turned {
  dial: string;
  text: string;
}

/** Chooses what a run is compared with: other tick rates, other dials, an earlier revision, another tape. */
@Component({
  selector: 'gm-compare-choice',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <label>
      <ng-container i18n>compare with</ng-container>
      <select
        #box
        class="text-field"
        (change)="kind.set(box.value)"
        aria-label="Compare with"
        i18n-aria-label
      >
        <option i18n value="rates">other tick rates</option>
        <option i18n value="rate">one other tick rate, drawn over</option>
        <option i18n value="dials" [disabled]="dials().length === 0">other dials</option>
        <option i18n value="revision" [disabled]="earlier().length === 0">an earlier revision</option>
        @for (t of others(); track t.tape.id) {
          <option [value]="'tape ' + t.tape.id">{{ t.tape.name }}</option>
        }
      </select>
    </label>
    @if (kind() === 'rate') {
      <label>
        <ng-container i18n>ticks a second</ng-container>
        <select
          #box
          class="text-field"
          (change)="rate.set(+box.value)"
          aria-label="Ticks a second"
          i18n-aria-label
        >
          @for (r of rates(); track r) {
            <option [value]="r" [selected]="r === chosenRate()">{{ r }}</option>
          }
        </select>
      </label>
    }
    @if (kind() === 'dials') {
      @for (t of turned(); track $index) {
        <div class="dial">
          <select
            #dial
            class="text-field"
            (change)="turn($index, { dial: dial.value })"
            ariaLabel="Dial {{ $index + 1 }}"
            i18n-ariaLabel
          >
            @for (d of dials(); track d.name) {
              <option [selected]="d.name === t.dial">{{ d.name }}</option>
            }
          </select>
          <input
            #value
            class="text-field"
            [value]="t.text"
            (change)="turn($index, { text: value.value })"
            ariaLabel="{{ t.dial }} is"
            i18n-ariaLabel
            spellcheck="false"
          />
        </div>
      }
      <button i18n type="button" class="plain-button small" (click)="addDial()">And another dial</button>
    }
    @if (kind() === 'revision') {
      <label>
        <ng-container i18n>revision</ng-container>
        <select
          #number
          class="text-field"
          (change)="revision.set(+number.value)"
          aria-label="Revision"
          i18n-aria-label
        >
          @for (r of earlier(); track r.number) {
            <option [value]="r.number" [selected]="r.number === chosenRevision()">
              {{ r.number }} · {{ r.message }}
            </option>
          }
        </select>
      </label>
    }
    <p class="bad" aria-live="polite">{{ wrong() }}</p>
  `,
  styles: `
    :host {
      display: grid;
      gap: 6px;
      justify-items: start;
    }
    label {
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
  protected readonly wrong = signal('');

  constructor() {
    combineLatest([
      toObservable(
        computed(() => ({
          kind: this.kind(),
          own: this.own(),
          turned: this.turned(),
          rate: this.chosenRate(),
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

  protected turn(index: number, change: Partial<Turned>): void {
    this.written.set(
      this.turned().map((t, i) => {
        if (i !== index) return t;
        const text = this.dials().find((d) => d.name === change.dial)?.text;
        return { ...t, ...(text === undefined ? {} : { text }), ...change };
      }),
    );
  }

  protected addDial(): void {
    const free = this.dials().find((d) => this.turned().every((t) => t.dial !== d.name));
    if (free !== undefined) this.written.set([...this.turned(), { dial: free.name, text: free.text }]);
  }

  private described(revision: number | undefined): Observable<Other | undefined> {
    const [kind, own] = [this.kind(), this.own()];
    this.wrong.set('');
    if (kind === 'rates') return of(kind);
    if (kind === 'rate')
      return of({ ...own, label: $localize`at ${this.chosenRate()}`, rate: this.chosenRate() });
    if (kind === 'dials') return of(this.withDials(own));
    if (kind === 'revision') {
      if (revision === undefined) return of(undefined);
      return this.api.readRevision('moveset', this.workspace.id()!, revision).pipe(
        map(({ text }) => ({ ...own, moveset: text, label: `r${revision}` })),
        catchError(() => {
          this.wrong.set($localize`The server does not give this revision.`);
          return of(undefined);
        }),
      );
    }
    const entry = this.others().find((t) => kind === 'tape ' + t.tape.id);
    if (entry === undefined) return of(undefined);
    const course = entry.course?.text ?? own.course;
    return of({ moveset: own.moveset, course, tape: entry.tape.text, label: entry.tape.name });
  }

  private withDials(own: Omit<Beside, 'label'>): Beside | undefined {
    const changes = this.turned().flatMap((t) => {
      const dial = this.dials().find((d) => d.name === t.dial);
      const number = Number(t.text);
      return dial === undefined
        ? []
        : [{ path: dial.valuePath, value: t.text.trim() === '' || Number.isNaN(number) ? t.text : number }];
    });
    const moveset = edit(own.moveset, changes);
    const [wrong] = errorsOf(readMoveset(moveset).diagnostics);
    if (wrong !== undefined) {
      this.wrong.set(asSentence(wrong.message));
      return undefined;
    }
    return { ...own, moveset, label: $localize`turned` };
  }
}
