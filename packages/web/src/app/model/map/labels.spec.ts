import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { boxAt, covered, placeLabels, type Spot, type Worded } from './labels';

const spot = fc.record({ x: fc.nat({ max: 600 }), y: fc.nat({ max: 600 }) });
/** A line of level and upright stretches. */
const bent = fc
  .array(spot, { minLength: 2, maxLength: 4 })
  .map((turns) => turns.flatMap((p, i): Spot[] => (i === 0 ? [p] : [{ x: p.x, y: turns[i - 1]!.y }, p])));
const lines = fc
  .array(fc.record({ points: bent, text: fc.string({ minLength: 1, maxLength: 24 }) }), {
    minLength: 1,
    maxLength: 8,
  })
  .map((all) => all.map((line, i): Worded => ({ ...line, id: `${i}` })));
const boxes = fc.array(
  fc.record({
    x: fc.nat(500),
    y: fc.nat(500),
    width: fc.integer({ min: 20, max: 90 }),
    height: fc.constant(40),
  }),
  { maxLength: 6 },
);

const isOn = (points: readonly Spot[], { x, y }: Spot): boolean =>
  points.slice(1).some((b, i) => {
    const a = points[i]!;
    const between = (v: number, p: number, q: number) =>
      v >= Math.min(p, q) - 1e-9 && v <= Math.max(p, q) + 1e-9;
    return between(x, a.x, b.x) && between(y, a.y, b.y);
  });

describe('the words on the lines of a map', () => {
  it('stand on their own lines, one for each', () => {
    fc.assert(
      fc.property(lines, boxes, (all, others) => {
        const spots = placeLabels(all, all, others);
        for (const line of all) expect(isOn(line.points, spots.get(line.id)!)).toBe(true);
      }),
    );
  });

  it('cover nothing when there is a place where they cover nothing', () => {
    fc.assert(
      fc.property(fc.string({ minLength: 1, maxLength: 12 }), fc.integer({ min: 0, max: 4 }), (text, n) => {
        // A long line with a box on every place but one.
        const points = [
          { x: 0, y: 0 },
          { x: 2000, y: 0 },
        ];
        const places = [0.5, 0.35, 0.65, 0.2, 0.8].map((share) => ({ x: 2000 * share, y: 0 }));
        const others = places.filter((_, i) => i !== n).map((at) => boxAt(at, text));
        const line = { id: 'a', points, text };
        const at = placeLabels([line], [line], others).get('a')!;
        expect(at).toEqual(places[n]);
        expect(covered(boxAt(at, text), others)).toBe(0);
      }),
    );
  });

  it('the first has the middle of its longest stretch when nothing is in the way', () => {
    fc.assert(
      fc.property(bent, fc.string({ maxLength: 9 }), (points, text) => {
        const longest = points
          .slice(1)
          .map((b, i) => [points[i]!, b] as const)
          .reduce((best, s) => {
            const length = ([a, b]: typeof s) => Math.abs(a.x - b.x) + Math.abs(a.y - b.y);
            return length(s) > length(best) ? s : best;
          });
        const line = { id: 'a', points, text };
        const [a, b] = longest;
        expect(placeLabels([line], [line], []).get('a')).toEqual({ x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 });
      }),
    );
  });
});
