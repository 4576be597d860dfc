import type { Course } from '../world/index.js';

/** The side of a cell (m). */
export const CELL = 0.25;

/** How far beyond a course cells are told of (m): a body may fly over it, and fall beside it. */
const MARGIN = 8;

/** A course in cells: how soon the feet were in each, and in which state. */
export interface Raster {
  left: number;
  bottom: number;
  columns: number;
  rows: number;
  /** The fewest ticks after which the feet were there, column by column from below; −1 where they never were. */
  ticks: Int32Array;
  /** The state of the first lane then, by its index. */
  states: Int16Array;
}

export function createRaster({ bounds }: Course): Raster {
  const left = Math.floor((bounds.minX - MARGIN) / CELL) * CELL;
  const bottom = Math.floor((bounds.minY - MARGIN) / CELL) * CELL;
  const columns = Math.ceil((bounds.maxX + MARGIN - left) / CELL);
  const rows = Math.ceil((bounds.maxY + MARGIN - bottom) / CELL);
  const cells = columns * rows;
  return {
    left,
    bottom,
    columns,
    rows,
    ticks: new Int32Array(cells).fill(-1),
    states: new Int16Array(cells).fill(-1),
  };
}

/** The cell that a point is in; −1 outside of the raster. */
export function cellAt({ left, bottom, columns, rows }: Raster, x: number, y: number): number {
  const [column, row] = [Math.floor((x - left) / CELL), Math.floor((y - bottom) / CELL)];
  const isInside = column >= 0 && column < columns && row >= 0 && row < rows;
  return isInside ? column * rows + row : -1;
}

/** Notes that the feet were in a cell after so many ticks; gives whether that is sooner than ever before. */
export function markCell(raster: Raster, cell: number, ticks: number, state: number): boolean {
  const known = raster.ticks[cell] ?? 0;
  if (cell < 0 || (known >= 0 && known <= ticks)) return false;
  raster.ticks[cell] = ticks;
  raster.states[cell] = state;
  return true;
}
