import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Cell } from './grid-data';
import { cellTo, columnEdges, madeOf, rowEdges, scrolledTo } from './grid-window';

const rows = fc
  .array(fc.array(fc.nat({ max: 3 }), { minLength: 1, maxLength: 5 }), { minLength: 1, maxLength: 90 })
  .map((all) =>
    all.map((cells) => ({ cells: cells.map((n) => ({ chips: Array(n).fill({}) }) as unknown as Cell) })),
  );
const edges = fc.oneof(
  fc.array(fc.integer({ min: 52, max: 420 }), { minLength: 1, maxLength: 120 }).map(columnEdges),
  rows.map(rowEdges),
);

describe('what of a large grid is made', () => {
  it('is all that is in sight, and what is not made takes its place in pixels', () => {
    fc.assert(
      fc.property(edges, fc.nat({ max: 9000 }), fc.integer({ min: 100, max: 2000 }), (at, from, length) => {
        const { first, end, before, after } = madeOf(at, from, length);
        expect(before).toBe(at[first]);
        expect(before + (at[end]! - at[first]!) + after).toBe(at[at.length - 1]);
        for (let i = 0; i < at.length - 1; i++) {
          const isInSight = at[i + 1]! > from && at[i]! < from + length;
          if (isInSight) expect(i >= first && i < end).toBe(true);
        }
      }),
    );
  });

  it('is not much more than what is in sight', () => {
    fc.assert(
      fc.property(edges, fc.nat({ max: 9000 }), fc.integer({ min: 100, max: 2000 }), (at, from, length) => {
        const { first, end } = madeOf(at, from, length);
        expect(end - first).toBeLessThanOrEqual(Math.ceil(length / 43) + 1 + 6);
      }),
    );
  });

  it('one of them is in sight after scrolling to it, and nothing scrolls for one that is', () => {
    fc.assert(
      fc.property(
        edges,
        fc.nat(),
        fc.nat({ max: 7000 }),
        fc.integer({ min: 200, max: 2000 }),
        (at, n, from, length) => {
          const i = n % (at.length - 1);
          const next = scrolledTo(at, i, from, length);
          expect(at[i]).toBeGreaterThanOrEqual(next);
          if (at[i + 1]! - at[i]! <= length) expect(at[i + 1]).toBeLessThanOrEqual(next + length);
          else expect(next).toBe(at[i]);
          expect(scrolledTo(at, i, next, length)).toBe(next);
        },
      ),
    );
  });

  it('a row is as high as the most chips of one cell ask for', () => {
    fc.assert(
      fc.property(rows, (all) => {
        const at = rowEdges(all);
        for (const [i, { cells }] of all.entries()) {
          const chips = Math.max(1, ...cells.map((c) => c.chips.length));
          expect(at[i + 1]! - at[i]!).toBe(43 + 32 * (chips - 1));
        }
      }),
    );
  });
});

describe('the cell that a key leads to', () => {
  const size = fc.tuple(fc.integer({ min: 1, max: 80 }), fc.integer({ min: 1, max: 80 }));

  it('is one beside it for an arrow, and the way back for the opposite one', () => {
    const opposite = {
      ArrowUp: 'ArrowDown',
      ArrowDown: 'ArrowUp',
      ArrowLeft: 'ArrowRight',
      ArrowRight: 'ArrowLeft',
    };
    fc.assert(
      fc.property(
        fc.constantFrom(...(Object.keys(opposite) as (keyof typeof opposite)[])),
        size,
        (key, [rows, columns]) => {
          const [row, column] = [rows - 1, columns - 1];
          const next = cellTo(key, row, column, rows, columns)!;
          expect(Math.abs(next[0] - row) + Math.abs(next[1] - column)).toBe(1);
          expect(cellTo(opposite[key], next[0], next[1], rows, columns)).toEqual([row, column]);
        },
      ),
    );
  });

  it('stays within the grid for the keys that go far, and keeps the row or the column', () => {
    fc.assert(
      fc.property(
        fc.constantFrom('Home', 'End', 'PageUp', 'PageDown'),
        size,
        fc.nat(),
        fc.nat(),
        (key, [rows, columns], r, c) => {
          const [row, column] = [r % rows, c % columns];
          const [toRow, toColumn] = cellTo(key, row, column, rows, columns)!;
          expect(toRow >= 0 && toRow < rows && toColumn >= 0 && toColumn < columns).toBe(true);
          expect(key.startsWith('Page') ? toColumn === column : toRow === row).toBe(true);
        },
      ),
    );
  });

  it('is none for other keys', () => {
    for (const key of ['a', 'Enter', 'Tab', 'Delete']) expect(cellTo(key, 0, 0, 3, 3)).toBeUndefined();
  });
});
