import { MatButton } from '@angular/material/button';
import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import type { Parting, Session } from '@glenmark/core/run';
import { catchError, of, switchMap } from 'rxjs';
import { Analysis } from '../../data/analysis';
import type { Compared } from '../../data/compared';
import { Workspace } from '../../data/workspace';
import { CompareChoice, isLog, type Other, RATES } from './compare-choice';
import { compareTable, rateVerdicts } from './compare-table';
import { LogPanel } from './log-panel';
import { MeasureTable, type RunColumn } from './measure-table';

/** The run beside others: at five tick rates in one step, or beside one other run, which is drawn over it. */
@Component({
  selector: 'gm-compare-panel',
  imports: [MatButton, CompareChoice, LogPanel, MeasureTable],
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
  /** A tape that was made of a log. */
  readonly openTape = output<string>();
  /** The other run, to be drawn over this one. */
  readonly beside = output<Session | undefined>();

  protected readonly own = computed(() => ({
    moveset: this.workspace.text(),
    course: this.course(),
    tape: this.tape(),
  }));
  protected readonly other = signal<Other | undefined>(undefined);
  protected readonly log = computed(() => {
    const other = this.other();
    return isLog(other) ? other.log : undefined;
  });
  private readonly compared = signal<Compared[]>([]);
  protected readonly waiting = signal(true);
  protected readonly wrong = computed(() => this.compared().flatMap((c) => c.wrong)[0]);
  protected readonly parting = computed((): Parting | undefined => this.compared()[1]?.parting);
  protected readonly isSame = computed(
    () => this.compared()[1]?.session !== undefined && this.parting() === undefined,
  );
  /** Whether the states in which the runs are alike are shown too. */
  protected readonly showsAlike = signal(false);
  protected readonly groups = computed(() => compareTable(this.compared(), this.showsAlike()));
  protected readonly alike = computed(() => this.groups().reduce((sum, { alike }) => sum + alike, 0));
  protected readonly verdicts = computed(() => rateVerdicts(this.compared()));
  /** The rates at which something else happens, and those at which only the step differs. */
  protected readonly changing = computed(() => this.verdicts().filter((v) => v.changes.length > 0));
  protected readonly stepOnly = computed(() =>
    new Intl.ListFormat('en').format(
      this.verdicts()
        .filter((v) => v.changes.length === 0)
        .map((v) => v.rate),
    ),
  );
  protected readonly columns = computed((): RunColumn[] =>
    this.compared().map(({ label, passed, expected }) => ({
      head: label,
      changes: this.changing().some((v) => v.rate === label),
      met: `${passed}/${expected}`,
      isShort: passed < expected,
    })),
  );

  constructor() {
    toObservable(computed(() => ({ own: this.own(), other: this.other() })))
      .pipe(
        switchMap(({ own, other }) => {
          this.waiting.set(true);
          if (own.moveset === '' || other === undefined || isLog(other)) return of<Compared[]>([]);
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
        // A log has a run of its own.
        if (!isLog(this.other())) this.beside.emit(compared[1]?.session);
      });
  }
}
