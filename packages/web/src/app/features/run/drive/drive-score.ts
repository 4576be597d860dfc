import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import type { Control } from '@glenmark/core/machine';
import type { Trace } from '@glenmark/core/run';
import { type Row, scoreRows, type Spot } from '../../../shared/document/score-rows';
import { elementSize } from '../../../shared/ui/element-size';
import { DrawnRow } from '../score/drawn-row';
import { GUTTER, RIGHT } from '../score/layout';
import { timeScale } from '../score/time-window';

/** How much of the run is shown (s). */
const SHOWN = 5;

/** The last seconds of the score, rolling to the left: controls, lanes and clocks. */
@Component({
  selector: 'gm-drive-score',
  imports: [DrawnRow],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (row of rows(); track row.name) {
      <span class="name">{{ row.name }}</span>
      <gm-drawn-row [row]="row" [scale]="scale()" />
    }
    <i class="head" [style.left.px]="head()" aria-hidden="true"></i>
  `,
  styles: `
    :host {
      display: grid;
      position: relative;
      grid-template-columns: 112px minmax(0, 1fr);
      background: var(--paper);
      border-top: 1px solid var(--rule-2);
      overflow: hidden auto;
      flex: 0 1 auto;
      min-height: 0;
    }
    .name {
      font: 500 12px/20px var(--label);
      color: var(--ink-2);
      padding-left: 14px;
      border-bottom: 1px solid var(--rule);
      overflow: hidden;
      text-overflow: ellipsis;
    }
    gm-drawn-row {
      border-bottom: 1px solid var(--rule);
    }
    .head {
      position: absolute;
      top: 0;
      bottom: 0;
      width: 2px;
      background: var(--rowan);
    }
  `,
})
export class DriveScore {
  readonly trace = input.required<Trace>();
  /** The tick that is shown, and the last that was driven. */
  readonly tick = input.required<number>();
  readonly last = input.required<number>();

  private readonly size = elementSize();
  private readonly ticks = computed(() => Math.round(SHOWN * this.trace().machine.rate));
  /** The first tick that is shown: the last ones, or those before what is looked back at. */
  private readonly from = computed(() =>
    Math.max(0, Math.min(this.last() + 1 - this.ticks(), this.tick() - Math.round(this.ticks() / 2))),
  );
  protected readonly scale = computed(() =>
    timeScale({ from: 0, ticks: this.ticks() }, Math.max(1, this.size().width - GUTTER - RIGHT)),
  );
  protected readonly head = computed(() => GUTTER + this.scale().x(this.tick() + 1 - this.from()));
  protected readonly rows = computed((): Row[] => {
    const { machine, records } = this.trace();
    const from = this.from();
    const shown = records.slice(from, Math.min(from + this.ticks(), this.last() + 1));
    const { controls, groups } = scoreRows({ machine, records: shown });
    return [
      ...controls.map(({ name, kind, bars }): Row => ({
        name,
        kind: 'spots',
        spots: bars.map(({ from, to, value }): Spot => ({
          from,
          to,
          track: trackOf(kind, value),
          text: name,
        })),
      })),
      ...groups.lanes,
      ...groups.clocks,
    ];
  });
}

/** An axis is drawn above the middle to the right, below it to the left. */
const trackOf = (kind: Control['kind'], value: number): Spot['track'] =>
  kind !== 'axis' ? 1 : value > 0 ? 0 : 2;
