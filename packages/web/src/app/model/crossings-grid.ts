import { ChangeDetectionStrategy, Component, ElementRef, inject, input, output } from '@angular/core';
import { KindMark } from '../ui/kind-mark';
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
  readonly state = input<string | undefined>();

  readonly choose = output<CellPlace>();
  readonly openState = output<string>();
  /** A guard is begun for the chosen cell; the text is what was typed so far. */
  readonly write = output<string>();
  readonly remove = output<CellPlace>();

  protected isChosen(cell: Cell): boolean {
    const place = this.place();
    return place !== undefined && place.from === cell.from && place.to === cell.to;
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
      this.moveTo(row + step[0], column + step[1]);
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

  private moveTo(row: number, column: number): void {
    const cell = this.grid().rows[row]?.cells[column];
    if (cell === undefined) return;
    this.choose.emit({ from: cell.from, to: cell.to });
    this.host.nativeElement.querySelector<HTMLElement>(`[data-cell="${row},${column}"]`)?.focus();
  }
}
