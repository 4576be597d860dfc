import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { outcomeOf, outcomeUnit, type Sensitivity } from '@glenmark/core/tune';
import { catchError, debounceTime, EMPTY, of, switchMap } from 'rxjs';
import { Tuning } from '../../data/tuning';
import { outcomeName } from '../../shared/document/outcome-words';
import { AXIS_FONT, Chart, type ChartOption } from './chart';
import { TuneState } from './tune-state';

/** A bar takes so much room (px). */
const BAR = 26;

/** How far each dial moves the outcome that is looked at, for 1 % of the dial: those that move it most come first. */
@Component({
  selector: 'gm-bars',
  imports: [Chart],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './bars.html',
  styleUrl: './panel.scss',
})
export class Bars {
  protected readonly state = inject(TuneState);
  private readonly tuning = inject(Tuning);
  private readonly found = signal<readonly Sensitivity[] | undefined>(undefined);
  protected readonly failed = signal('');

  protected readonly outcome = computed(() => outcomeOf(this.state.outcome()));
  protected readonly name = computed(() => {
    const outcome = this.outcome();
    return outcome === undefined ? '' : outcomeName(outcome);
  });
  protected readonly bars = computed(() => {
    const outcome = this.outcome();
    const found = this.found();
    if (outcome === undefined || found === undefined) return undefined;
    const unit = outcomeUnit(outcome);
    return found
      .map(({ dial, moves: [move = NaN] }) => ({ dial, move, text: `${signed(move)} ${unit}` }))
      .filter(({ move }) => !Number.isNaN(move))
      .sort((a, b) => Math.abs(b.move) - Math.abs(a.move));
  });
  protected readonly height = computed(() => 24 + BAR * Math.max(1, this.bars()?.length ?? 0));
  protected readonly option = computed((): ChartOption => {
    const bars = [...(this.bars() ?? [])].reverse();
    return (colour) => ({
      grid: { left: 96, right: 84, top: 6, bottom: 6 },
      xAxis: { type: 'value', show: false },
      yAxis: {
        type: 'category',
        data: bars.map(({ dial }) => dial),
        axisLine: { lineStyle: { color: colour('rule-2') }, onZero: false },
        axisTick: { show: false },
        axisLabel: { ...AXIS_FONT, color: colour('ink'), width: 88, overflow: 'truncate' },
      },
      series: [
        {
          type: 'bar',
          barWidth: 10,
          silent: true,
          data: bars.map(({ move, text }) => ({
            value: Math.abs(move),
            itemStyle: { color: colour(move < 0 ? 'clay' : 'tide') },
            label: {
              show: true,
              position: 'right' as const,
              formatter: text,
              ...AXIS_FONT,
              color: colour('ink-2'),
            },
          })),
        },
      ],
    });
  });

  constructor() {
    toObservable(
      computed(() => ({
        asked: this.state.asked(),
        tape: this.state.own(),
        outcome: this.outcome(),
        dials: this.state.matterToOutcome(),
        at: this.state.setting(),
      })),
    )
      .pipe(
        debounceTime(100),
        switchMap(({ asked, tape, outcome, dials, at }) => {
          this.failed.set('');
          if (asked === undefined || outcome === undefined || dials === undefined || dials.length === 0)
            return of(undefined);
          return this.tuning.moves(asked, tape, [outcome], dials, at).pipe(
            catchError((error: Error) => {
              this.failed.set(error.message);
              return EMPTY;
            }),
          );
        }),
        takeUntilDestroyed(),
      )
      .subscribe((found) => this.found.set(found));
  }
}

/** A change with its sign, with as many decimals as it takes to see it. */
const signed = (move: number): string => {
  const digits = Math.abs(move) >= 0.01 || move === 0 ? 3 : 5;
  return `${move < 0 ? '−' : '+'}${Math.abs(move).toFixed(digits)}`;
};
