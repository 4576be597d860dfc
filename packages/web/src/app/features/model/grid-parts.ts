import type { Cell, Grid, Head, Row } from './grid-data';
import {
  allOf,
  BORDERS,
  COLUMN,
  columnEdges,
  MIN_COLUMN,
  type Made,
  madeOf,
  MANY,
  ROW_HEAD,
  rowEdges,
} from './grid-window';

/** What is seen of a grid: its size, how far it is scrolled (px), and whether every row is wanted all the same. */
export interface Sight {
  width: number;
  height: number;
  left: number;
  top: number;
  everyRow: boolean;
}

/** The parts of a grid that are made, and where they stand in the whole of it. Sizes are pixels. */
export interface GridParts {
  /** The grid is so large that only what is in sight is made. */
  isMany: boolean;
  columns: Made;
  rows: Made;
  heads: (Head & { width: number | undefined })[];
  made: (Row & { at: number; height: number | null; cells: (Cell & { column: number })[] })[];
  width: number;
}

/** How wide a column was dragged, if it was. */
export type WidthOf = (state: string) => number | undefined;

/** Where the columns and rows of a large grid begin (px). */
export interface GridEdges {
  columnsAt: number[];
  rowsAt: number[];
}

export const gridEdges = (grid: Grid, widthOf: WidthOf): GridEdges => ({
  columnsAt: columnEdges(grid.heads.map((head) => widthOf(head.name) ?? COLUMN)),
  rowsAt: rowEdges(grid.rows),
});

/** The parts of a grid to make for a sight of it; its edges stay as they are while it is scrolled. */
export function gridParts(
  grid: Grid,
  { columnsAt, rowsAt }: GridEdges,
  sight: Sight,
  widthOf: WidthOf,
): GridParts {
  const isMany = grid.heads.length >= MANY && sight.width > 0;
  const columns = isMany ? madeOf(columnsAt, sight.left, sight.width - ROW_HEAD) : allOf(grid.heads.length);
  const rows = isMany && !sight.everyRow ? madeOf(rowsAt, sight.top, sight.height) : allOf(grid.rows.length);
  const min = isMany ? COLUMN : MIN_COLUMN;
  return {
    isMany,
    columns,
    rows,
    heads: grid.heads
      .slice(columns.first, columns.end)
      .map((head) => ({ ...head, width: widthOf(head.name) ?? (isMany ? COLUMN : undefined) })),
    made: grid.rows.slice(rows.first, rows.end).map((row, i) => {
      const at = rows.first + i;
      return {
        ...row,
        at,
        height: isMany ? rowsAt[at + 1]! - rowsAt[at]! : null,
        cells: row.cells
          .slice(columns.first, columns.end)
          .map((cell, j) => ({ ...cell, column: columns.first + j })),
      };
    }),
    width: grid.heads.reduce((sum, head) => sum + (widthOf(head.name) ?? min), ROW_HEAD + BORDERS),
  };
}
