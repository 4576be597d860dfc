import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import type { Measures, Parting } from '@glenmark/core';
import { of, switchMap } from 'rxjs';
import { Analysis } from '../data/analysis';
import type { Compared } from '../data/analysis.worker';
import { Workspace } from '../data/workspace';

const RATES = [30, 50, 60, 120, 144];

/** The measures that people compare, with how they are written. */
const ROWS: { name: string; of: (m: Measures) => number; unit: string }[] = [
  { name: 'apex', of: (m) => m.apex, unit: 'm' },
  { name: 'lowest', of: (m) => m.lowest, unit: 'm' },
  { name: 'reach', of: (m) => m.reach, unit: 'm' },
  { name: 'end', of: (m) => m.distance, unit: 'm' },
  { name: 'top speed', of: (m) => m.topSpeed, unit: 'm/s' },
  { name: 'longest in the air', of: (m) => m.longestAirtime, unit: 's' },
];

/** The run beside others: at five tick rates in one step, or beside another tape on the same course. */
@Component({
  selector: 'gm-compare-panel',
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
  /** The way that the other run took, to be drawn over the course. */
  readonly trail = output<{ x: number; y: number }[]>();

  /** What it is compared with: `rates`, or the identifier of a tape. */
  protected readonly other = signal('rates');
  protected readonly others = computed(() =>
    this.workspace.tapes().filter((t) => t.tape.id !== this.tapeId() && t.moveset === this.workspace.id()),
  );
  private readonly compared = signal<Compared[]>([]);
  protected readonly waiting = signal(true);
  protected readonly wrong = computed(() => this.compared().flatMap((c) => c.wrong)[0]);
  protected readonly parting = computed((): Parting | undefined => this.compared()[1]?.parting);
  protected readonly heads = computed(() => this.compared().map((c) => c.label));
  protected readonly rows = computed(() => {
    const all = this.compared().map((c) => c.measures);
    const line = (name: string, unit: string, of: (m: Measures) => number) => {
      const values = all.map((m) => (m === undefined ? undefined : of(m)));
      const known = values.filter((v) => v !== undefined);
      const spread = Math.max(...known) - Math.min(...known);
      return {
        name,
        unit,
        differs: spread > 0.005 * Math.max(1, ...known.map(Math.abs)),
        values: values.map((v) => (v === undefined ? '–' : v.toFixed(2).replace(/^-(0\.00)$/, '$1'))),
      };
    };
    const states = Object.keys(all.find((m) => m !== undefined)?.timeIn ?? {});
    return [
      ...ROWS.map((row) => line(row.name, row.unit, row.of)),
      ...states
        .map((state) => line(`in ${state}`, 's', (m) => m.timeIn[state] ?? 0))
        .filter((row) => row.values.some((v) => v !== '0.00')),
    ];
  });
  protected readonly met = computed(() =>
    this.compared().map((c) => ({ text: `${c.passed}/${c.expected}`, bad: c.passed < c.expected })),
  );

  constructor() {
    const asked = computed(() => ({
      text: this.workspace.text(),
      course: this.course(),
      tape: this.tape(),
      other: this.others().find((t) => t.tape.id === this.other()),
    }));
    toObservable(asked)
      .pipe(
        switchMap(({ text, course, tape, other }) => {
          this.waiting.set(true);
          if (text === '') return of([]);
          return other === undefined
            ? this.analysis.atRates(text, course, tape, RATES)
            : this.analysis.beside(text, [
                { course, tape, label: 'this' },
                { course: other.course?.text ?? course, tape: other.tape.text, label: other.tape.name },
              ]);
        }),
        takeUntilDestroyed(),
      )
      .subscribe((compared) => {
        this.waiting.set(false);
        this.compared.set(compared);
        this.trail.emit(compared[1]?.parting === undefined ? [] : (compared[1].trail ?? []));
      });
  }
}
