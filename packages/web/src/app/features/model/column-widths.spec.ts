import { TestBed } from '@angular/core/testing';
import fc from 'fast-check';
import { Workspace } from '../../data/workspace';
import { ColumnWidths, fittingWidth, NARROWEST, WIDEST } from './column-widths';

const widthsOf = (id: string): ColumnWidths => {
  TestBed.resetTestingModule();
  TestBed.configureTestingModule({
    providers: [ColumnWidths, { provide: Workspace, useValue: { id: () => id } }],
  });
  return TestBed.inject(ColumnWidths);
};

describe('the width of a column', () => {
  afterEach(() => localStorage.clear());

  it('stays within its bounds, and is remembered for its moveset alone', () => {
    fc.assert(
      fc.property(
        fc.string({ minLength: 1 }),
        fc.double({ noNaN: true, min: -1e6, max: 1e6 }),
        (state, px) => {
          widthsOf('a').set(state, px);
          const width = widthsOf('a').of(state)!;
          expect(width).toBeGreaterThanOrEqual(NARROWEST);
          expect(width).toBeLessThanOrEqual(WIDEST);
          if (px >= NARROWEST && px <= WIDEST) expect(Math.abs(width - px)).toBeLessThanOrEqual(0.5);
          expect(widthsOf('b').of(state)).toBeUndefined();
        },
      ),
      { numRuns: 50 },
    );
  });

  it('grows with the longest guard, and is never below the least', () => {
    fc.assert(
      fc.property(fc.array(fc.string()), fc.string(), (guards, more) => {
        expect(fittingWidth([...guards, more])).toBeGreaterThanOrEqual(fittingWidth(guards));
        expect(fittingWidth(guards)).toBeGreaterThanOrEqual(NARROWEST);
      }),
    );
  });

  it.each(['not JSON', '[1, 2]', '{"A": "wide", "B": null}', 'null'])(
    'is nothing when %s was remembered',
    (text) => {
      localStorage.setItem('glenmark.columns.a', text);
      expect(widthsOf('a').of('A')).toBeUndefined();
      expect(widthsOf('a').of('B')).toBeUndefined();
    },
  );
});
