import { ChangeDetectionStrategy, Component, ElementRef, inject, input, output } from '@angular/core';
import { KindMark } from '../ui/kind-mark';
import type { SeenLane } from '../data/seen';
import type { Cell, Grid } from './grid-data';

export interface CellPlace {
  from: string;
  to: string;
}

/** The from × to grid of a lane. Arrows move, typing writes a guard, Delete removes; heads open the sheet. */
@Component({
  selector: 'gm-crossings-grid',
  imports: [KindMark],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './crossings-grid.html',
  styleUrl: './crossings-grid.scss',
})
export class CrossingsGrid {
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  readonly grid = input.required<Grid>();
  readonly place = input<CellPlace | undefined>();
  /** Cells that are picked together with the chosen one, as `from to`. */
  readonly picked = input<ReadonlySet<string>>(new Set());
  readonly folded = input<ReadonlySet<string>>(new Set());
  /** What this lane did at the tick that Run shows. */
  readonly seen = input<SeenLane | undefined>();
  readonly state = input<string | undefined>();

  readonly choose = output<CellPlace>();
  /** The cells from the chosen one to this one are picked, or with `alone` this one is added or left out. */
  readonly pick = output<{ cell: CellPlace; alone: boolean }>();
  readonly fold = output<string>();
  readonly openState = output<string>();
  /** A guard is begun for the chosen cell; the text is what was typed so far. */
  readonly write = output<string>();
  readonly remove = output<CellPlace>();

  protected isChosen(cell: Cell): boolean {
    const place = this.place();
    return place !== undefined && place.from === cell.from && place.to === cell.to;
  }

  protected isPicked(cell: Cell): boolean {
    return this.picked().has(`${cell.from} ${cell.to}`);
  }

  protected onClick(event: MouseEvent, cell: Cell): void {
    if (event.shiftKey) this.pick.emit({ cell, alone: false });
    else if (event.ctrlKey || event.metaKey) this.pick.emit({ cell, alone: true });
    else this.choose.emit(cell);
  }

  /** One cell can be reached by Tab: the chosen one, or the first. */
  protected tabIndex(cell: Cell, row: number, column: number): 0 | -1 {
    return this.place() === undefined ? (row === 0 && column === 0 ? 0 : -1) : this.isChosen(cell) ? 0 : -1;
  }

  protected label(cell: Cell): string {
    const from = cell.from === '*' ? 'everywhere' : cell.from;
    const chips = cell.chips.map(
      (c) =>
        `${c.text}${c.rank === 0 ? '' : `, rank ${c.rank}`}${c.never ? ', can never be taken' : ''}${c.tie ? ', ties' : ''}`,
    );
    return `${from} to ${cell.to}: ${chips.length === 0 ? 'no crossing' : chips.join('; ')}`;
  }

  protected onKey(event: KeyboardEvent, row: number, column: number): void {
    const steps: Record<string, [number, number]> = {
      ArrowUp: [-1, 0],
      ArrowDown: [1, 0],
      ArrowLeft: [0, -1],
      ArrowRight: [0, 1],
    };
    const step = steps[event.key];
    if (step !== undefined) {
      event.preventDefault();
      this.moveTo(row + step[0], column + step[1], event.shiftKey);
    } else if (event.key === 'Delete') this.remove.emit(this.grid().rows[row]!.cells[column]!);
    else if (event.key === 'Enter') {
      event.preventDefault();
      this.write.emit('');
    } else if (
      event.key.length === 1 &&
      event.key !== ' ' &&
      !event.ctrlKey &&
      !event.metaKey &&
      !event.altKey
    ) {
      event.preventDefault();
      this.write.emit(event.key);
    }
  }

  private moveTo(row: number, column: number, picking: boolean): void {
    const cell = this.grid().rows[row]?.cells[column];
    if (cell === undefined) return;
    const { from, to } = cell;
    if (picking) this.pick.emit({ cell: { from, to }, alone: false });
    else this.choose.emit({ from, to });
    this.host.nativeElement.querySelector<HTMLElement>(`[data-cell="${row},${column}"]`)?.focus();
  }
}
