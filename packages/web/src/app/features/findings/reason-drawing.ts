import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import type { Drawing } from '@glenmark/core/findings';
import { lineOf } from './number-line';

/** A reason as a drawing: clashing terms on a number line, who writes what a guard waits for, crossings side by side. */
@Component({
  selector: 'gm-reason-drawing',
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './reason-drawing.html',
  styleUrl: './reason-drawing.scss',
})
export class ReasonDrawing {
  readonly drawing = input.required<Drawing>();
  protected readonly line = computed(() => {
    const drawing = this.drawing();
    return drawing.kind === 'line' ? lineOf(drawing.stretches) : undefined;
  });
}
