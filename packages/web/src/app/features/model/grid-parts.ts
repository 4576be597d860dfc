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
  columnsAt: number[];
  rowsAt: number[];
  columns: Made;
  rows: Made;
  heads: (Head & { width: number | undefined })[];
  made: (Row & { at: number; height: number | null; cells: (Cell & { column: number })[] })[];
  width: number;
}

/** The parts of a grid to make for a sight of it. `widthOf` says how wide a column was dragged, if it was. */
export function gridParts(
  grid: Grid,
  sight: Sight,
  widthOf: (state: string) => number | undefined,
): GridParts {
  const isMany = grid.heads.length >= MANY && sight.width > 0;
  const columnsAt = columnEdges(grid.heads.map((head) => widthOf(head.name) ?? COLUMN));
  const rowsAt = rowEdges(grid.rows);
  const columns = isMany ? madeOf(columnsAt, sight.left, sight.width - ROW_HEAD) : allOf(grid.heads.length);
  const rows = isMany && !sight.everyRow ? madeOf(rowsAt, sight.top, sight.height) : allOf(grid.rows.length);
  const min = isMany ? COLUMN : MIN_COLUMN;
  return {
    isMany,
    columnsAt,
    rowsAt,
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
