import fc from 'fast-check';
import type { Axis, Swept } from '@glenmark/core/tune';
import { bandsOf, edgesOf, holds, placeOf, placeWords, valueAt } from './sweep-shown';

const place = (more: Partial<Swept> = {}): Swept => ({
  setting: { hopHeight: 2 },
  values: [1],
  missed: [],
  begun: undefined,
  wrong: undefined,
  ...more,
});

describe('bands', () => {
  it('hold exactly the places that are in, each once, and never touch', () => {
    fc.assert(
      fc.property(fc.array(fc.boolean()), (list) => {
        const bands = bandsOf(list);
        const inside = list.map((_, i) => bands.filter(({ from, to }) => from <= i && i <= to).length);
        expect(inside).toEqual(list.map(Number));
        bands.slice(1).forEach(({ from }, i) => expect(from).toBeGreaterThan(bands[i]!.to + 1));
      }),
    );
  });
});

describe('edges', () => {
  it('stand between cells that differ, and nowhere else', () => {
    const cells = fc.array(fc.array(fc.boolean(), { minLength: 3, maxLength: 3 }), {
      minLength: 1,
      maxLength: 4,
    });
    fc.assert(
      fc.property(cells, (grid) => {
        const at = (x: number, y: number): boolean => grid[x]![y]!;
        const edges = edgesOf(grid.length, 3, at);
        let pairs = 0;
        for (let x = 0; x < grid.length; x++)
          for (let y = 0; y < 3; y++) {
            if (x > 0 && at(x, y) !== at(x - 1, y)) pairs++;
            if (y > 0 && at(x, y) !== at(x, y - 1)) pairs++;
          }
        expect(edges).toHaveLength(pairs);
        for (const { x1, y1, x2, y2 } of edges) expect(Math.abs(x2 - x1) + Math.abs(y2 - y1)).toBe(1);
      }),
    );
  });
});

describe('the places of an axis', () => {
  it('are found again from their values', () => {
    const axes = fc.record({
      from: fc.double({ min: -50, max: 50, noNaN: true }),
      width: fc.double({ min: 0.1, max: 50, noNaN: true }),
      places: fc.integer({ min: 2, max: 80 }),
    });
    fc.assert(
      fc.property(axes, fc.nat(79), ({ from, width, places }, n) => {
        const axis: Axis = { dial: 'a', from, to: from + width, places };
        const at = n % places;
        expect(placeOf(axis, valueAt(axis, at))).toBe(at);
        expect(placeOf(axis, from - 1)).toBe(0);
        expect(placeOf(axis, from + width + 1)).toBe(places - 1);
      }),
    );
  });
});

describe('a place in words', () => {
  const axes: Axis[] = [{ dial: 'hopHeight', from: 1, to: 3, places: 3 }];
  const words = (more: Partial<Swept>): string => placeWords(place(more), axes, ['m'], 'apex 2.00 m');

  it('says what is so there', () => {
    expect(words({})).toBe('hopHeight 2 m: apex 2.00 m; all as expected');
    expect(words({ missed: ['Hop: never in Fall'] })).toBe(
      'hopHeight 2 m: apex 2.00 m; not as expected: Hop: never in Fall',
    );
    expect(words({ missed: ['a', 'b', 'c'] })).toContain('not as expected: a, and 2 more');
    expect(words({ begun: ['Rise can never be left.'] })).toContain('found there: Rise can never be left.');
    expect(words({ wrong: 'found −1 m' })).toBe('hopHeight 2 m: does not load, found −1 m');
  });

  it('holds only where everything was met', () => {
    expect(holds(place())).toBe(true);
    expect(holds(place({ missed: ['a'] }))).toBe(false);
    expect(holds(place({ wrong: 'x' }))).toBe(false);
  });
});
