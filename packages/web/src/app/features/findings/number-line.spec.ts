import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { lineOf } from './number-line';

const stretch = fc
  .tuple(fc.double({ min: -50, max: 50, noNaN: true }), fc.boolean(), fc.boolean())
  .map(([value, isUp, open]) => ({
    term: 't',
    from: isUp ? value : -Infinity,
    to: isUp ? Infinity : value,
    fromOpen: open,
    toOpen: open,
  }));

describe('a number line', () => {
  it('draws numbers that are a rounding apart at one place', () => {
    const end = (from: number) => ({ term: 't', from, to: Infinity, fromOpen: false, toOpen: false });
    const { rows, width } = lineOf([end(50), end(50 - 7e-15)]);
    expect(rows[0]!.x).toBeCloseTo(rows[1]!.x, 6);
    for (const row of rows) expect(row.x + row.width).toBeLessThanOrEqual(width);
  });

  it('keeps all that it draws inside, and the order of the numbers', () => {
    fc.assert(
      fc.property(fc.array(stretch, { minLength: 1, maxLength: 5 }), (stretches) => {
        const line = lineOf(stretches);
        for (const row of line.rows) {
          expect(row.x).toBeGreaterThanOrEqual(0);
          expect(row.width).toBeGreaterThanOrEqual(0);
          expect(row.x + row.width).toBeLessThanOrEqual(line.width);
          expect(row.ends).toHaveLength(1);
        }
        const values = stretches.map((s) => (Number.isFinite(s.from) ? s.from : s.to));
        values.forEach((a, i) =>
          values.forEach((b, k) => {
            if (a < b) expect(line.rows[i]!.ends[0]!.x).toBeLessThanOrEqual(line.rows[k]!.ends[0]!.x);
          }),
        );
      }),
    );
  });
});
