import { ChangeDetectionStrategy, Component, ElementRef, inject, input, output } from '@angular/core';
import { ColumnWidths } from './column-widths';

/** The right edge of a column's head: dragged it widens the column, and a double click fits it to its guards. */
@Component({
  selector: 'gm-column-edge',
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: {
    'aria-hidden': 'true',
    '(pointerdown)': 'take($event)',
    '(pointermove)': 'move($event)',
    '(pointerup)': 'drop()',
    '(pointercancel)': 'drop()',
    '(dblclick)': 'fit.emit()',
  },
  template: '',
  styles: `
    :host {
      position: absolute;
      top: 0;
      bottom: 0;
      right: -4px;
      width: 8px;
      cursor: col-resize;
      touch-action: none;
      z-index: 1;
    }
    :host(:hover) {
      border-right: 2px solid var(--pick-rule);
      margin-right: 3px;
    }
  `,
})
export class ColumnEdge {
  private readonly widths = inject(ColumnWidths);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
  readonly state = input.required<string>();
  /** The column shall be as wide as its guards. */
  readonly fit = output();
  private from: { x: number; width: number } | undefined;

  protected take(event: PointerEvent): void {
    this.host.setPointerCapture(event.pointerId);
    this.from = { x: event.clientX, width: this.host.parentElement?.offsetWidth ?? 0 };
    event.preventDefault();
  }

  protected move(event: PointerEvent): void {
    if (this.from !== undefined) this.widths.set(this.state(), this.from.width + event.clientX - this.from.x);
  }

  protected drop(): void {
    this.from = undefined;
  }
}
