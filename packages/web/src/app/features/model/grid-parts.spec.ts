import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Grid } from './grid-data';
import { gridEdges, gridParts, type GridParts, type Sight, type WidthOf } from './grid-parts';
import { BORDERS, MANY, ROW_HEAD } from './grid-window';

/** A lane of so many states without any crossing. */
function gridOf(count: number): Grid {
  const names = Array.from({ length: count }, (_, i) => `S${i}`);
  return {
    lane: 0,
    heads: names.map((name) => ({
      name,
      kind: 'footed',
      group: false,
      depth: 0,
      start: false,
      waysIn: 0,
      closed: false,
    })),
    rows: names.map((from) => ({
      name: from,
      kind: 'footed',
      group: false,
      depth: 0,
      waysOut: 0,
      sealed: false,
      cells: names.map((to) => ({ from, to, self: from === to, joined: false, chips: [] })),
    })),
  };
}

const partsOf = (grid: Grid, seen: Sight, widthOf: WidthOf): GridParts =>
  gridParts(grid, gridEdges(grid, widthOf), seen, widthOf);

const sight = fc.record<Sight>({
  width: fc.integer({ min: 1, max: 2000 }),
  height: fc.integer({ min: 1, max: 2000 }),
  left: fc.nat({ max: 8000 }),
  top: fc.nat({ max: 8000 }),
  everyRow: fc.boolean(),
});
const count = fc.integer({ min: 1, max: 90 });
const width = fc.option(fc.integer({ min: 40, max: 400 }), { nil: undefined });

describe('the parts of a grid that are made', () => {
  it('stand where they stand in the whole grid', () => {
    fc.assert(
      fc.property(count, sight, (n, seen) => {
        const grid = gridOf(n);
        for (const row of partsOf(grid, seen, () => undefined).made) {
          expect(row.name).toBe(grid.rows[row.at]!.name);
          for (const cell of row.cells) expect(cell.to).toBe(grid.heads[cell.column]!.name);
        }
      }),
    );
  });

  it('take, with the gaps around them, what the whole grid takes, however wide its columns were dragged', () => {
    fc.assert(
      fc.property(fc.integer({ min: MANY, max: 90 }), sight, width, (n, seen, dragged) => {
        const parts = partsOf(gridOf(n), seen, (state) => (state === 'S3' ? dragged : undefined));
        const columns = parts.heads.reduce((sum, head) => sum + head.width!, 0);
        const rows = parts.made.reduce((sum, row) => sum + row.height!, 0);
        expect(parts.columns.before + columns + parts.columns.after).toBe(parts.width - ROW_HEAD - BORDERS);
        expect(parts.rows.before + rows + parts.rows.after).toBe(
          gridEdges(gridOf(n), () => undefined).rowsAt[n],
        );
      }),
    );
  });

  it('are all of a small grid, whose columns share the room unless they were dragged', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: MANY - 1 }), sight, width, (n, seen, dragged) => {
        const parts = partsOf(gridOf(n), seen, () => dragged);
        expect(parts.made.map((row) => row.cells.length)).toEqual(Array<number>(n).fill(n));
        expect(parts.heads.map((head) => head.width)).toEqual(Array(n).fill(dragged));
        expect(parts.made.every((row) => row.height === null)).toBe(true);
      }),
    );
  });

  it('include every row while one is dragged', () => {
    fc.assert(
      fc.property(count, sight, (n, seen) => {
        expect(partsOf(gridOf(n), { ...seen, everyRow: true }, () => undefined).made).toHaveLength(n);
      }),
    );
  });
});
