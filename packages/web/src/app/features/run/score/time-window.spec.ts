import fc from 'fast-check';
import { panned, showing, timeScale, wholeOf, within, zoomed } from './time-window';

const arbitraryTotal = fc.integer({ min: 1, max: 20_000 });
const arbitraryWindow = arbitraryTotal.chain((total) =>
  fc.record({
    total: fc.constant(total),
    window: fc
      .record({
        from: fc.double({ min: -100, max: 2e4, noNaN: true }),
        ticks: fc.double({ min: 1, max: 3e4, noNaN: true }),
      })
      .map((window) => within(total, window)),
    at: fc.integer({ min: 0, max: total - 1 }),
  }),
);
const isInside = (total: number, { from, ticks }: { from: number; ticks: number }): boolean =>
  from >= 0 && ticks >= Math.min(20, total) && from + ticks <= total + 1e-6;

describe('the window of the score', () => {
  it('stays within the run, whatever is done to it', () => {
    fc.assert(
      fc.property(
        arbitraryWindow,
        fc.double({ min: 0.1, max: 10, noNaN: true }),
        ({ total, window, at }, by) => {
          for (const next of [
            window,
            zoomed(total, window, at, by),
            panned(total, window, by * at),
            showing(total, window, at),
          ])
            expect(isInside(total, next)).toBe(true);
        },
      ),
    );
  });

  it('keeps the tick under the pointer where it is while it zooms, unless an end is in the way', () => {
    fc.assert(
      fc.property(
        arbitraryWindow,
        fc.double({ min: 0.3, max: 3, noNaN: true }),
        ({ total, window, at }, factor) => {
          const next = zoomed(total, window, at, factor);
          if (next.from === 0 || next.from + next.ticks >= total - 1e-6) return;
          expect((at - next.from) / next.ticks).toBeCloseTo((at - window.from) / window.ticks, 6);
        },
      ),
    );
  });

  it('shows a tick that it is asked for, and does not move when it does so already', () => {
    fc.assert(
      fc.property(arbitraryWindow, ({ total, window, at }) => {
        const next = showing(total, window, at);
        expect(at).toBeGreaterThanOrEqual(next.from - 1e-6);
        expect(at + 1).toBeLessThanOrEqual(next.from + next.ticks + 1e-6);
        expect(showing(total, next, at)).toEqual(next);
        expect(showing(total, wholeOf(total), at)).toEqual(wholeOf(total));
      }),
    );
  });

  it('finds the tick that is drawn at a place', () => {
    fc.assert(
      fc.property(arbitraryWindow, ({ window, at }) => {
        const scale = timeScale(window, 900);
        expect(scale.tickAt(scale.x(at))).toBeCloseTo(at, 6);
        expect(scale.x(window.from + window.ticks)).toBeCloseTo(900, 6);
      }),
    );
  });
});
