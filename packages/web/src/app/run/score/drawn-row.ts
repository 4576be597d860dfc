import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { drawn } from './drawn';
import { ROW } from './layout';
import type { Row } from './score-rows';
import type { TimeScale } from './time-window';

/** A row of the score that is only read: states, a level, or what was so and when. */
@Component({
  selector: 'gm-drawn-row',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg [attr.width]="scale().width" [attr.height]="height" [attr.aria-label]="label()" role="img">
      @for (box of shape().boxes; track $index) {
        <rect
          [attr.x]="box.x"
          [attr.y]="box.y"
          [attr.width]="box.width"
          [attr.height]="box.height"
          [style.fill]="box.fill"
        >
          <title>{{ box.title }}</title>
        </rect>
        @if (box.edge) {
          <rect
            [attr.x]="box.x"
            [attr.y]="box.y"
            width="2.5"
            [attr.height]="box.height"
            [style.fill]="box.edge"
          />
        }
        @if (box.text) {
          <text [attr.x]="box.x + 7" y="14">{{ box.text }}</text>
        }
      }
      @if (shape().line; as d) {
        <path [attr.d]="d" transform="translate(0 3)" />
      }
    </svg>
  `,
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
