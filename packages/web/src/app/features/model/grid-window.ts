import type { Row } from './grid-data';

/** From how many columns on only what is in sight of a grid is made, in columns and rows of known sizes (px). */
export const MANY = 24;
export const COLUMN = 76;
const ROW = 43;
/** What each further chip of a cell adds to its row at most: two lines of words. */
const CHIP = 32;

/** The width of the sticky heads of the rows (px), and how many columns and rows are made beyond what is in sight. */
export const ROW_HEAD = 118;
const BESIDE = 3;
/** The narrowest column of a small grid, whose columns share what room there is; and what the count of ways out takes (px). */
export const MIN_COLUMN = 68;
export const BORDERS = 44;

/** The columns or rows that are made, from `first` up to `end`, and the pixels that those before and after them take. */
export interface Made {
  first: number;
  end: number;
  before: number;
  after: number;
}

/** Where columns of these widths begin, and behind the last one where it ends. */
export function columnEdges(widths: readonly number[]): number[] {
  const edges = [0];
  for (const width of widths) edges.push(edges[edges.length - 1]! + width);
  return edges;
}

/** Where rows begin, each as high as its fullest cell, and behind the last one where it ends. */
export function rowEdges(rows: readonly Pick<Row, 'cells'>[]): number[] {
  const edges = [0];
  for (const { cells } of rows) {
    const chips = Math.max(1, ...cells.map((cell) => cell.chips.length));
    edges.push(edges[edges.length - 1]! + ROW + (chips - 1) * CHIP);
  }
  return edges;
}

/** What is in sight, with a few beyond on both sides, when `length` pixels are and it is scrolled by `from`. */
export function madeOf(edges: readonly number[], from: number, length: number): Made {
  const count = edges.length - 1;
  let first = 0;
  while (first < count - 1 && edges[first + 1]! <= from) first++;
  let end = first + 1;
  while (end < count && edges[end]! < from + length) end++;
  first = Math.max(0, first - BESIDE);
  end = Math.min(count, end + BESIDE);
  return { first, end, before: edges[first]!, after: edges[count]! - edges[end]! };
}

/** All of a grid. */
export const allOf = (count: number): Made => ({ first: 0, end: count, before: 0, after: 0 });

/** How far a grid must be scrolled for one of them to be in sight, its beginning first, from where it is scrolled to now. */
export const scrolledTo = (edges: readonly number[], at: number, from: number, length: number): number =>
  Math.min(edges[at]!, Math.max(edges[at + 1]! - length, from));

/** How many rows PageUp and PageDown go by. */
const PAGE = 10;

/** The row and column that a key leads to from a cell of a grid of so many; undefined for a key that leads nowhere. */
export function cellTo(
  key: string,
  row: number,
  column: number,
  rows: number,
  columns: number,
): [row: number, column: number] | undefined {
  const places: Readonly<Record<string, [number, number]>> = {
    ArrowUp: [row - 1, column],
    ArrowDown: [row + 1, column],
    ArrowLeft: [row, column - 1],
    ArrowRight: [row, column + 1],
    PageUp: [Math.max(0, row - PAGE), column],
    PageDown: [Math.min(rows - 1, row + PAGE), column],
    Home: [row, 0],
    End: [row, columns - 1],
  };
  return places[key];
}
