import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { COLUMN, columnWindow, ROW_HEAD, scrolledTo } from './column-window';

describe('the columns of a large grid', () => {
  it('in sight are made, and every column is made or counted', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 120 }),
        fc.integer({ min: 0, max: 9000 }),
        fc.integer({ min: 300, max: 2000 }),
        (count, left, width) => {
          const { columns, before, after } = columnWindow(count, left, width);
          expect(before + columns.length + after).toBe(count);
          expect(columns[0] ?? before).toBe(before);
          for (let c = 0; c < count; c++) {
            const isInSight = (c + 1) * COLUMN > left && c * COLUMN < left + width - ROW_HEAD;
            if (isInSight) expect(columns).toContain(c);
          }
        },
      ),
    );
  });

  it('a column is in sight after scrolling to it, and nothing scrolls for one that is', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 99 }),
        fc.integer({ min: 0, max: 7000 }),
        fc.integer({ min: 400, max: 2000 }),
        (column, left, width) => {
          const next = scrolledTo(column, left, width);
          expect(column * COLUMN).toBeGreaterThanOrEqual(next);
          expect((column + 1) * COLUMN).toBeLessThanOrEqual(next + width - ROW_HEAD);
          expect(scrolledTo(column, next, width)).toBe(next);
        },
      ),
    );
  });
});
