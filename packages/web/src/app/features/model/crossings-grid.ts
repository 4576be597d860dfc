import {
  afterNextRender,
  ChangeDetectionStrategy,
  ChangeDetectorRef,
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
import { elementSize } from '../../shared/ui/element-size';
import { KindMark } from '../../shared/ui/kind-mark';
import type { LaneAtTick } from '../../data/shown-tick';
import { ColumnEdge } from './column-edge';
import { ColumnWidths, fittingWidth } from './column-widths';
import { type Cell, cellLabel, type Grid } from './grid-data';
import { gridEdges, gridParts } from './grid-parts';
import { cellTo, COLUMN, ROW_HEAD, scrolledTo } from './grid-window';
import { shortcutOf } from '../../shared/ui/shortcuts/shortcuts';

/** What the sticky head and foot take of the height at most (px). */
const HEAD_AND_FOOT = 110;

export interface CellPlace {
  from: string;
  to: string;
}

/** The from × to grid of a lane. Arrows move, typing writes a guard, Delete removes; heads open the sheet. */
@Component({
  selector: 'gm-crossings-grid',
  imports: [CdkDrag, CdkDragHandle, CdkDragPreview, CdkDropList, ColumnEdge, KindMark],
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: {
    tabindex: '-1',
    '(scroll)': 'onScroll()',
    '(keydown)': 'onGridKey($event)',
    '(focusout)': 'isWriting = false',
  },
  templateUrl: './crossings-grid.html',
  styleUrl: './crossings-grid.scss',
})
export class CrossingsGrid {
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  private readonly injector = inject(Injector);
  private readonly changes = inject(ChangeDetectorRef);
  private readonly widths = inject(ColumnWidths);
  readonly grid = input.required<Grid>();
  readonly place = input<CellPlace | undefined>();
  /** Cells that are picked together with the chosen one, as `from to`. */
  readonly picked = input<ReadonlySet<string>>(new Set());
  readonly folded = input<ReadonlySet<string>>(new Set());
  /** What this lane did at the tick that Run shows. */
  readonly atTick = input<LaneAtTick | undefined>();
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
  private readonly scrolled = signal({ left: 0, top: 0 });
  /** A row is held, perhaps to be dragged: then every row is there to be dragged past. */
  protected readonly holding = signal(false);
  /** A guard was begun, and the line above has not taken the focus yet: until then every character is part of it. */
  protected isWriting = false;
  /** The cell that is to have the keyboard, while it is made. */
  private goingTo: { row: number; column: number } | undefined;

  private readonly widthOf = (state: string): number | undefined => this.widths.of(state);
  private readonly edges = computed(() => gridEdges(this.grid(), this.widthOf));
  protected readonly parts = computed(() => {
    const sight = { ...this.size(), ...this.scrolled(), everyRow: this.holding() };
    return gridParts(this.grid(), this.edges(), sight, this.widthOf);
  });
  /** One cell can be reached by Tab: the chosen one, or the first that is made. */
  private readonly tabStop = computed(() => {
    const cells = this.parts().made.flatMap((row) => row.cells);
    return cells.find((cell) => this.isChosen(cell)) ?? cells[0];
  });

  protected onScroll(): void {
    if (!this.parts().isMany) return;
    const grid = this.host.nativeElement;
    const hadFocus = grid.contains(document.activeElement);
    this.scrolled.set({ left: grid.scrollLeft, top: grid.scrollTop });
    // The cell that had the keyboard may be gone: then the grid has it, and the next arrow goes on from that cell.
    const keep = (): void => {
      if (hadFocus && !grid.contains(document.activeElement)) grid.focus({ preventScroll: true });
    };
    afterNextRender(keep, { injector: this.injector });
  }

  /** Gives the keyboard to the chosen cell. */
  focusChosen(): void {
    const at = this.chosenAt();
    if (at !== undefined) this.focus(at.row, at.column);
  }

  protected onGridKey(event: KeyboardEvent): void {
    const at = event.target === this.host.nativeElement ? (this.goingTo ?? this.chosenAt()) : undefined;
    if (at !== undefined) this.onKey(event, at.row, at.column);
  }

  private chosenAt(): { row: number; column: number } | undefined {
    const row = this.grid().rows.findIndex((r) => r.name === this.place()?.from);
    const column = this.grid().heads.findIndex((head) => head.name === this.place()?.to);
    return row >= 0 && column >= 0 ? { row, column } : undefined;
  }

  /** A drag counts the rows there are when it begins. */
  protected onHold(): void {
    this.holding.set(true);
    // eslint-disable-next-line no-restricted-syntax -- a fast hand drags before the next frame
    this.changes.detectChanges();
  }

  protected onDrop({ item, currentIndex }: CdkDragDrop<unknown, unknown, string>): void {
    this.holding.set(false);
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

  protected readonly tabIndex = (cell: Cell): 0 | -1 => (cell === this.tabStop() ? 0 : -1);

  protected readonly label = cellLabel;

  protected onKey(event: KeyboardEvent, row: number, column: number): void {
    const { rows, heads } = this.grid();
    const shortcut = shortcutOf(event, 'grid');
    const place =
      shortcut === 'gridWidth' ? undefined : cellTo(event.key, row, column, rows.length, heads.length);
    if (place !== undefined) {
      event.preventDefault();
      this.moveTo(place[0], place[1], event.shiftKey);
      return;
    }
    if (shortcut === 'gridWidth') {
      event.preventDefault();
      this.setWidth(event, column);
    } else if (shortcut === 'gridOpen') this.startWriting(event, '');
    else if (shortcut === 'gridWrite' || (this.isWriting && isCharacter(event)))
      this.startWriting(event, event.key);
    else if (shortcut === 'gridRemove') this.remove.emit(rows[row]!.cells[column]!);
  }

  private startWriting(event: KeyboardEvent, text: string): void {
    event.preventDefault();
    this.isWriting = true;
    this.write.emit(text);
  }

  /** Wider or narrower by a step, or fitting its guards. */
  private setWidth({ key, target }: KeyboardEvent, column: number): void {
    const now = target instanceof HTMLElement ? target.offsetWidth : COLUMN;
    if (key === 'Enter') this.fitColumn(column);
    else this.widths.widen(this.grid().heads[column]!.name, now, key === 'ArrowLeft' ? -1 : 1);
  }

  protected fitColumn(column: number): void {
    const { heads, rows } = this.grid();
    const { name } = heads[column]!;
    const guards = rows.flatMap((row) => row.cells[column]?.chips.map((chip) => chip.text) ?? []);
    this.widths.set(name, fittingWidth([...guards, name]));
  }

  private moveTo(row: number, column: number, picking: boolean): void {
    const cell = this.grid().rows[row]?.cells[column];
    if (cell === undefined) return;
    const { from, to } = cell;
    if (picking) this.pick.emit({ cell: { from, to }, alone: false });
    else this.choose.emit({ from, to });
    this.focus(row, column);
  }

  /** Gives the keyboard to a cell, which is scrolled to and made first when it is outside what is made. */
  private focus(row: number, column: number): void {
    const grid = this.host.nativeElement;
    const focus = (): void => {
      this.goingTo = undefined;
      grid.querySelector<HTMLElement>(`[data-cell="${row},${column}"]`)?.focus();
    };
    const { columns, rows } = this.parts();
    const { columnsAt, rowsAt } = this.edges();
    if (column >= columns.first && column < columns.end && row >= rows.first && row < rows.end) {
      focus();
      return;
    }
    // The cell that has the keyboard may be gone before that one is there: what is pressed meanwhile goes on from there.
    this.goingTo = { row, column };
    grid.focus({ preventScroll: true });
    const { width, height } = this.size();
    grid.scrollLeft = scrolledTo(columnsAt, column, grid.scrollLeft, width - ROW_HEAD - COLUMN);
    grid.scrollTop = scrolledTo(rowsAt, row, grid.scrollTop, height - HEAD_AND_FOOT);
    this.onScroll();
    afterNextRender(focus, { injector: this.injector });
  }
}

const isCharacter = ({ key, ctrlKey, metaKey }: KeyboardEvent): boolean =>
  key.length === 1 && !ctrlKey && !metaKey;
