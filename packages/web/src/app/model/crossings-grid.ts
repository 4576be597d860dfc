import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  ElementRef,
  inject,
  Injector,
  input,
  output,
  signal,
} from '@angular/core';
import {
  CdkDrag,
  type CdkDragDrop,
  CdkDragHandle,
  CdkDragPreview,
  CdkDropList,
} from '@angular/cdk/drag-drop';
import { elementSize } from '../run/element-size';
import { KindMark } from '../ui/kind-mark';
import type { SeenLane } from '../data/seen';
import { COLUMN, columnWindow, MANY, ROW_HEAD, scrolledTo } from './column-window';
import type { Cell, Grid } from './grid-data';

export interface CellPlace {
  from: string;
  to: string;
}

/** The from × to grid of a lane. Arrows move, typing writes a guard, Delete removes; heads open the sheet. */
@Component({
  selector: 'gm-crossings-grid',
  imports: [CdkDrag, CdkDragHandle, CdkDragPreview, CdkDropList, KindMark],
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { '(scroll)': 'onScroll()' },
  templateUrl: './crossings-grid.html',
  styleUrl: './crossings-grid.scss',
})
export class CrossingsGrid {
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  private readonly injector = inject(Injector);
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
  /** A row was dragged to another place among the rows. */
  readonly reorder = output<{ name: string; index: number }>();

  private readonly size = elementSize();
  private readonly left = signal(0);
  protected readonly column = COLUMN;
  /** Of a large grid only the columns in sight are made. */
  protected readonly shown = computed(() =>
    columnWindow(this.grid().heads.length, this.left(), this.size().width),
  );
  protected readonly heads = computed(() => this.shown().columns.map((c) => this.grid().heads[c]!));
  protected readonly isMany = computed(() => this.grid().heads.length >= MANY);
  protected readonly width = computed(() => {
    const { length } = this.grid().heads;
    return !this.isMany() ? 165 + length * 68 : ROW_HEAD + length * COLUMN + 42;
  });

  protected onScroll(): void {
    this.left.set(this.host.nativeElement.scrollLeft);
  }

  protected onDrop({ item, currentIndex }: CdkDragDrop<unknown, unknown, string>): void {
    this.reorder.emit({ name: item.data, index: currentIndex });
  }

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
    const from = cell.from === '*' ? $localize`everywhere` : cell.from;
    const chips = cell.chips.map(
      (c) =>
        `${c.text}${c.rank === 0 ? '' : $localize`, rank ${c.rank}`}${c.never ? $localize`, can never be taken` : ''}${c.tie ? $localize`, ties` : ''}`,
    );
    return $localize`${from} to ${cell.to}\: ${chips.length === 0 ? $localize`no crossing` : chips.join('; ')}`;
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
    const grid = this.host.nativeElement;
    const focus = (): void => grid.querySelector<HTMLElement>(`[data-cell="${row},${column}"]`)?.focus();
    if (this.shown().columns.includes(column)) {
      focus();
      return;
    }
    grid.scrollLeft = scrolledTo(column, grid.scrollLeft, this.size().width);
    this.left.set(grid.scrollLeft);
    afterNextRender(focus, { injector: this.injector });
  }
}
