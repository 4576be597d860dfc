/** From how many columns on only those in sight are made, and how wide each is then (px). */
export const MANY = 24;
export const COLUMN = 76;

/** The width of the sticky heads of the rows (px), and columns that are made beyond what is in sight. */
export const ROW_HEAD = 118;
const BESIDE = 3;

/** The columns that are made, and how many stand before and after them. */
export interface ColumnWindow {
  columns: number[];
  before: number;
  after: number;
}

/** The columns in sight, when `width` pixels of the grid are and it is scrolled by `left`; all of a small grid. */
export function columnWindow(count: number, left: number, width: number): ColumnWindow {
  const all = Array.from({ length: count }, (_, i) => i);
  if (count < MANY || width <= 0) return { columns: all, before: 0, after: 0 };
  const first = Math.max(0, Math.min(count - 1, Math.floor(left / COLUMN)) - BESIDE);
  const end = Math.min(count, Math.ceil((left + width - ROW_HEAD) / COLUMN) + BESIDE);
  return { columns: all.slice(first, end), before: first, after: count - end };
}

/** How far a grid must be scrolled for a column to be in sight, from where it is scrolled to now. */
export function scrolledTo(column: number, left: number, width: number): number {
  const from = column * COLUMN;
  const room = width - ROW_HEAD - COLUMN;
  return Math.max(from - room, Math.min(from, left));
}
