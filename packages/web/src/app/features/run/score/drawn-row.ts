import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { drawn } from './drawn';
import { ROW } from './layout';
import type { Row } from '../../../shared/document/score-rows';
import type { TimeScale } from './time-window';

/** A row of the score that is only read: states, a level, or what was so and when. */
@Component({
  selector: 'gm-drawn-row',
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './drawn-row.html',
  styles: `
    svg {
      display: block;
    }
    text {
      font: 500 11px var(--label);
      fill: var(--ink);
    }
    path {
      fill: none;
      stroke: var(--ink-2);
      stroke-width: 1.2;
    }
  `,
})
export class DrawnRow {
  readonly row = input.required<Row>();
  readonly scale = input.required<TimeScale>();

  protected readonly height = ROW;
  protected readonly shape = computed(() => drawn(this.row(), this.scale(), ROW));
  protected readonly label = computed(() =>
    this.row().kind === 'bands' ? $localize`states of ${this.row().name}` : this.row().name,
  );
}
