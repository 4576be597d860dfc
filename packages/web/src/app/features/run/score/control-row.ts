import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { MatDialog } from '@angular/material/dialog';
import type { Control } from '@glenmark/core/machine';
import type { Span } from '@glenmark/core/run';
import { drawnValue } from '../tape-edits';
import { BarDialog } from './bar-dialog';
import type { TimeScale } from './time-window';
import { shortcutOf } from '../../../shared/ui/shortcuts/shortcuts';

/** A change of one control: the bar that was there, if any, and the one that is to be there, if any. */
export interface BarChange {
  control: string;
  old: Span | undefined;
  next: Span | undefined;
}

type Drag = {
  how: 'draw' | 'move' | 'start' | 'end';
  old: Span | undefined;
  from: number;
  value: number;
  to: number;
};

const EDGE = 5;

/**
 * The bars of one control: drawn on the empty row, moved by their middle, stretched by their ends, removed by Delete,
 * set by numbers with Enter or double-click.
 */
@Component({
  selector: 'gm-control-row',
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './control-row.html',
  styles: `
    svg {
      display: block;
      cursor: crosshair;
      touch-action: none;
    }
    .bar {
      fill: var(--ink-2);
      cursor: move;
    }
    .bar:hover,
    .bar:focus-visible {
      fill: var(--ink);
    }
    .fixed {
      cursor: inherit;
    }
    .ghost {
      fill: var(--pick-rule);
      fill-opacity: 0.6;
    }
    .value {
      fill: var(--sheet);
      pointer-events: none;
      font-size: 9px;
    }
  `,
})
export class ControlRow {
  readonly control = input.required<{ name: string; kind: Control['kind']; spans: readonly Span[] }>();
  readonly scale = input.required<TimeScale>();
  readonly editable = input.required<boolean>();
  readonly edit = output<BarChange>();

  private readonly dialog = inject(MatDialog);

  protected readonly drag = signal<Drag | undefined>(undefined);

  private readonly inSight = computed(() => {
    const { from, ticks } = this.scale();
    return this.control().spans.filter((s) => s.from + s.length > from && s.from < from + ticks);
  });
  protected readonly bars = computed(() =>
    this.inSight().map((span) => ({
      ...this.boxOf(span),
      span,
      label: $localize`${this.control().name} ${span.from} to ${span.from + span.length - 1}${span.value === 1 ? '' : $localize` at ${span.value}`}`,
      text: this.control().kind === 'button' || Math.abs(span.value) === 1 ? '' : String(span.value),
    })),
  );
  protected readonly ghost = computed(() => {
    const drag = this.drag();
    const span = drag && this.spanOf(drag);
    return span && { ...this.boxOf(span), text: $localize`${span.from} for ${span.length}` };
  });

  protected down(event: PointerEvent, old?: Span): void {
    // With Shift the score chooses ticks instead.
    if (event.button !== 0 || event.shiftKey || !this.editable()) return;
    const svg = (event.currentTarget as Element).closest('svg')!;
    const left = svg.getBoundingClientRect().left;
    event.stopPropagation();
    svg.setPointerCapture(event.pointerId);
    const tick = this.tickAt(event);
    const upper = event.clientY - svg.getBoundingClientRect().top < 10.5;
    if (old === undefined) {
      const value = drawnValue(this.control().kind, upper);
      this.drag.set({ how: 'draw', old, from: tick, to: tick, value });
      return;
    }
    const x = event.clientX - left;
    const { x: start, width } = this.boxOf(old);
    const how = width > 3 * EDGE && x < start + EDGE ? 'start' : x > start + width - EDGE ? 'end' : 'move';
    this.drag.set({ how, old, from: tick, to: tick, value: old.value });
  }

  protected move(event: PointerEvent): void {
    const drag = this.drag();
    if (drag === undefined) return;
    event.stopPropagation();
    this.drag.set({ ...drag, to: this.tickAt(event) });
  }

  protected up(): void {
    const drag = this.drag();
    this.drag.set(undefined);
    if (drag === undefined) return;
    const next = this.spanOf(drag);
    const { old } = drag;
    const same = old !== undefined && old.from === next.from && old.length === next.length;
    if (!same) this.edit.emit({ control: this.control().name, old, next });
  }

  protected onKey(event: KeyboardEvent, old: Span): void {
    const shortcut = shortcutOf(event, 'bar');
    if (shortcut === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    if (shortcut === 'barNumbers') return this.byNumbers(old);
    const control = this.control().name;
    const step = (event.shiftKey ? 10 : 1) * ({ ArrowLeft: -1, ArrowRight: 1 }[event.key] ?? 0);
    const moved = event.altKey
      ? { ...old, length: Math.max(1, old.length + step) }
      : { ...old, from: Math.max(0, old.from + step) };
    const next = shortcut === 'barRemove' ? undefined : moved;
    this.edit.emit({ control, old, next });
  }

  protected byNumbers(old: Span): void {
    if (!this.editable()) return;
    const { name, kind } = this.control();
    this.dialog
      .open<BarDialog, BarDialog['data'], Span>(BarDialog, { data: { control: name, kind, span: old } })
      .afterClosed()
      .subscribe((next) => {
        if (next !== undefined) this.edit.emit({ control: name, old, next });
      });
  }

  private spanOf({ how, old, from, to, value }: Drag): Span {
    if (old === undefined) return { from: Math.min(from, to), length: Math.abs(to - from) + 1, value };
    const by = to - from;
    if (how === 'move') return { ...old, from: Math.max(0, old.from + by) };
    if (how === 'end') return { ...old, length: Math.max(1, old.length + by) };
    const start = Math.max(0, Math.min(old.from + by, old.from + old.length - 1));
    return { ...old, from: start, length: old.from + old.length - start };
  }

  private boxOf({ from, length, value }: Span): { x: number; y: number; width: number; height: number } {
    const half = this.control().kind !== 'button';
    return {
      x: this.scale().x(from),
      width: Math.max(1.5, length * this.scale().perTick),
      y: half ? (value > 0 ? 3 : 11) : 5,
      height: half ? 7 : 11,
    };
  }

  private tickAt(event: PointerEvent): number {
    const left = (event.currentTarget as Element).closest('svg')!.getBoundingClientRect().left;
    return Math.max(0, Math.floor(this.scale().tickAt(event.clientX - left)));
  }
}
