import fc from 'fast-check';
import { freeTexts } from './free-dials';
import { numberOf, rangeOf, shortValue } from './ranges';

const dial = (value: number, min = -Infinity, max = Infinity) => ({
  name: 'dial',
  dimension: { truth: false, m: 1, s: 0, deg: 0 },
  unit: 'm',
  value,
  min,
  max,
  path: ['dials', 'dial'],
});

describe('the range of a dial', () => {
  it('is its own where it has one, and always holds its value', () => {
    const value = fc.double({ min: -1000, max: 1000, noNaN: true });
    fc.assert(
      fc.property(value, (v) => {
        const { min, max, step } = rangeOf(dial(v));
        expect(min).toBeLessThanOrEqual(v);
        expect(max).toBeGreaterThanOrEqual(v);
        expect(max).toBeGreaterThan(min);
        expect(step).toBeGreaterThan(0);
        expect(rangeOf(dial(v, v - 2, v + 3))).toMatchObject({ min: v - 2, max: v + 3 });
        // A value may lie outside of the range that its file gives.
        expect(rangeOf(dial(v, v + 1, v + 3)).min).toBe(v);
      }),
    );
  });
});

describe('numbers', () => {
  it('are read as they are written, and nothing else is one', () => {
    fc.assert(
      fc.property(fc.double({ min: -1e6, max: 1e6, noNaN: true }), (v) => {
        expect(numberOf(` ${shortValue(v)} `)).toBeCloseTo(v, 0);
      }),
    );
    for (const text of ['', '  ', 'two', '1 m']) expect(numberOf(text)).toBeNaN();
  });
});

describe('dials that may move', () => {
  it('are those that matter, unless somebody says otherwise', () => {
    const all = [
      { ...dial(2, 1, 3), name: 'a' },
      { ...dial(2), name: 'b' },
    ];
    const texts = freeTexts(all, ['a'], new Map());
    expect(texts.map(({ isFree, from, to }) => ({ isFree, from, to }))).toEqual([
      { isFree: true, from: '1', to: '3' },
      { isFree: false, from: '1', to: '4' },
    ]);
    const own = { dial: 'b', unit: 'm', isFree: true, from: '', to: '9' };
    expect(freeTexts(all, ['a'], new Map([['b', own]]))[1]).toBe(own);
  });
});
