import { MatButton } from '@angular/material/button';
import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import type { Measures, Parting, Session } from '@glenmark/core/run';
import { catchError, of, switchMap } from 'rxjs';
import { Analysis } from '../../data/analysis';
import type { Compared } from '../../data/analysis.worker';
import { Workspace } from '../../data/workspace';
import { CompareChoice, type Other, RATES } from './compare-choice';

/** The measures that people compare, with how they are written. */
const ROWS: { name: string; of: (m: Measures) => number; unit: string }[] = [
  { name: $localize`apex`, of: (m) => m.apex, unit: 'm' },
  { name: $localize`time to apex`, of: (m) => m.timeToApex, unit: 's' },
  { name: $localize`lowest`, of: (m) => m.lowest, unit: 'm' },
  { name: $localize`reach`, of: (m) => m.reach, unit: 'm' },
  { name: $localize`end`, of: (m) => m.distance, unit: 'm' },
  { name: $localize`top speed`, of: (m) => m.topSpeed, unit: 'm/s' },
  { name: $localize`longest in the air`, of: (m) => m.longestAirtime, unit: 's' },
  { name: $localize`distance to stop`, of: (m) => m.stopping, unit: 'm' },
];

/** The run beside others: at five tick rates in one step, or beside one other run, which is drawn over it. */
@Component({
  selector: 'gm-compare-panel',
  imports: [MatButton, CompareChoice],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './compare-panel.html',
  styleUrl: './compare-panel.scss',
})
export class ComparePanel {
  private readonly workspace = inject(Workspace);
  private readonly analysis = inject(Analysis);
  /** The tape and the course of the run that is shown. */
  readonly tape = input.required<string>();
  readonly course = input.required<string>();
  readonly tapeId = input.required<string>();
  readonly goTo = output<number>();
  /** The other run, to be drawn over this one. */
  readonly beside = output<Session | undefined>();

  protected readonly own = computed(() => ({
    moveset: this.workspace.text(),
    course: this.course(),
    tape: this.tape(),
  }));
  protected readonly other = signal<Other | undefined>(undefined);
  private readonly compared = signal<Compared[]>([]);
  protected readonly waiting = signal(true);
  protected readonly wrong = computed(() => this.compared().flatMap((c) => c.wrong)[0]);
  protected readonly parting = computed((): Parting | undefined => this.compared()[1]?.parting);
  protected readonly isSame = computed(
    () => this.compared()[1]?.session !== undefined && this.parting() === undefined,
  );
  protected readonly heads = computed(() => this.compared().map((c) => c.label));
  private readonly measured = computed(() => {
    const all = this.compared().map((c) => c.measures);
    const line = (name: string, unit: string, of: (m: Measures) => number) => {
      const values = all.map((m) => (m === undefined ? undefined : of(m)));
      const known = values.filter((v) => v !== undefined);
      const spread = Math.max(...known) - Math.min(...known);
      return {
        name,
        unit,
        folds: false,
        differs: spread > 0.005 * Math.max(1, ...known.map(Math.abs)),
        values: values.map((v) =>
          v === undefined || Number.isNaN(v) ? '–' : v.toFixed(2).replace(/^-(0\.00)$/, '$1'),
        ),
      };
    };
    const names = (of: (m: Measures) => Record<string, number>): string[] => [
      ...new Set(all.flatMap((m) => (m === undefined ? [] : Object.keys(of(m))))),
    ];
    const more = [
      ...names((m) => m.along).map((state) =>
        line($localize`distance in ${state}`, 'm', (m) => m.along[state] ?? 0),
      ),
      ...names((m) => m.timeIn).map((state) =>
        line($localize`time in ${state}`, 's', (m) => m.timeIn[state] ?? 0),
      ),
    ];
    return [
      ...ROWS.map((row) => line(row.name, row.unit, row.of)),
      ...names((m) => m.between).map((name) =>
        line($localize`time between ${name}`, 's', (m) => m.between[name] ?? NaN),
      ),
      ...more.map((row) => ({ ...row, folds: !row.differs })),
    ].filter((row) => row.values.some((v) => v !== '0.00' && v !== '–'));
  });
  /** Whether the states in which the runs are alike are shown too. */
  protected readonly showsAlike = signal(false);
  protected readonly alike = computed(() => this.measured().filter((row) => row.folds).length);
  protected readonly rows = computed(() => this.measured().filter((row) => this.showsAlike() || !row.folds));
  protected readonly met = computed(() =>
    this.compared().map((c) => ({ text: `${c.passed}/${c.expected}`, bad: c.passed < c.expected })),
  );

  constructor() {
    toObservable(computed(() => ({ own: this.own(), other: this.other() })))
      .pipe(
        switchMap(({ own, other }) => {
          this.waiting.set(true);
          if (own.moveset === '' || other === undefined) return of<Compared[]>([]);
          const compared =
            other === 'rates'
              ? this.analysis.atRates(own.moveset, own.course, own.tape, RATES)
              : this.analysis.beside([{ ...own, label: $localize`this` }, other]);
          return compared.pipe(
            catchError((error: Error) =>
              of<Compared[]>([
                { label: '', passed: 0, expected: 0, wrong: [$localize`The runs failed\: ${error.message}`] },
              ]),
            ),
          );
        }),
        takeUntilDestroyed(),
      )
      .subscribe((compared) => {
        this.waiting.set(false);
        this.compared.set(compared);
        this.beside.emit(compared[1]?.session);
      });
  }
}
