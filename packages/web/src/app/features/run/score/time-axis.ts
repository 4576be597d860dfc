import { ChangeDetectionStrategy, Component, computed, input, output, signal } from '@angular/core';
import { MatMenuModule } from '@angular/material/menu';
import type { Mark, Stretch } from '../../../shared/document/score-rows';
import { panned, type TimeScale, type TimeWindow } from './time-window';

/** What is to be done with a mark. */
export interface MarkAct {
  mark: Mark;
  act: 'go' | 'rename' | 'remove';
}

/** The ticks along the top of the score, the marks of the tape, the chosen span, and where in the run this is. */
@Component({
  selector: 'gm-time-axis',
  imports: [MatMenuModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './time-axis.html',
  styleUrl: './time-axis.scss',
})
export class TimeAxis {
  readonly scale = input.required<TimeScale>();
  readonly total = input.required<number>();
  readonly marks = input.required<readonly Mark[]>();
  readonly span = input<Stretch | undefined>();
  readonly editable = input.required<boolean>();
  readonly window = output<TimeWindow>();
  readonly act = output<MarkAct>();

  private readonly held = signal<number | undefined>(undefined);

  protected readonly ticks = computed(() => {
    const scale = this.scale();
    const every =
      [1, 2, 5, 10, 30, 60, 120, 300, 600, 1200, 3000].find((n) => n * scale.perTick >= 56) ?? 6000;
    const first = Math.ceil(scale.from / every);
    const count = Math.floor((scale.from + scale.ticks) / every) - first + 1;
    return Array.from({ length: Math.max(0, count) }, (_, i) => (first + i) * every)
      .map((tick) => ({ x: scale.x(tick), text: String(tick) }))
      .filter((mark) => mark.x < scale.width - 30);
  });
  protected readonly flags = computed(() => {
    const { width, from, ticks } = this.scale();
    return this.marks()
      .filter((m) => m.tick >= from && m.tick < from + ticks)
      .map((mark) => {
        const x = this.scale().x(mark.tick);
        return { mark, x, right: x > width - 70 };
      });
  });
  protected readonly band = computed(() => {
    const span = this.span();
    return span && { x: this.scale().x(span.from), width: (span.to - span.from) * this.scale().perTick };
  });
  /** Where the window lies in the whole run, in percent; undefined when it is all of it. */
  protected readonly part = computed(() => {
    const { from, ticks } = this.scale();
    const total = this.total();
    return ticks >= total
      ? undefined
      : { left: (100 * from) / total, width: Math.max(1, (100 * ticks) / total) };
  });

  protected pan(event: PointerEvent): void {
    event.stopPropagation();
    const strip = event.currentTarget as HTMLElement;
    if (event.type === 'pointerdown') {
      strip.setPointerCapture(event.pointerId);
      this.held.set(event.clientX);
      return;
    }
    const before = this.held();
    if (before === undefined) return;
    if (event.type !== 'pointermove') return this.held.set(undefined);
    const { from, ticks } = this.scale();
    const by = ((event.clientX - before) / strip.clientWidth) * this.total();
    this.held.set(event.clientX);
    this.window.emit(panned(this.total(), { from, ticks }, by));
  }
}
