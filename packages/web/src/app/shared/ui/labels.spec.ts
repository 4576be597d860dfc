import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type Box, boxAt, covered, placeBeside, placeLabels, type Spot, type Worded } from './labels';

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

/** Whether words touch their line, or stand right beside it. */
const isAt = ({ points, text }: Worded, spot: Spot): boolean =>
  points.slice(1).some((b, i) => {
    const a = points[i]!;
    const { x, y, width, height } = boxAt(spot, text);
    const near = (from: number, size: number, p: number, q: number) =>
      from <= Math.max(p, q) + 1.5 && from + size >= Math.min(p, q) - 1.5;
    return near(x, width, a.x, b.x) && near(y, height, a.y, b.y);
  });

describe('the words on the lines of a map', () => {
  it('stand on their own lines or right beside them, one for each', () => {
    fc.assert(
      fc.property(lines, boxes, (all, others) => {
        const spots = placeLabels(all, all, others);
        for (const line of all) expect(isAt(line, spots.get(line.id)!)).toBe(true);
      }),
    );
  });

  it('cover nothing when there is a place where they cover nothing', () => {
    fc.assert(
      fc.property(fc.string({ minLength: 1, maxLength: 12 }), fc.integer({ min: 0, max: 5 }), (text, n) => {
        // A long line has five places apart; each is taken in its turn.
        const points = [
          { x: 0, y: 0 },
          { x: 2000, y: 0 },
        ];
        const line = { id: 'a', points, text };
        const others: Box[] = [];
        for (let i = 0; i < n; i++) {
          const at = placeLabels([line], [line], others).get('a')!;
          expect(covered(boxAt(at, text), others)).toBe(0);
          others.push(boxAt(at, text));
        }
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

describe('words beside points', () => {
  const near = fc
    .array(
      fc.tuple(
        fc.integer({ min: 0, max: 30 }),
        fc.integer({ min: 0, max: 20 }),
        fc.stringMatching(/^[a-z]{1,8}$/),
      ),
      {
        minLength: 1,
        maxLength: 5,
      },
    )
    .map((all) => all.map(([x, y, text], i) => ({ id: String(i), x, y, text })));
  const boxes = (points: { id: string; text: string }[], spots: Map<string, { x: number; y: number }>) =>
    points.map(({ id, text }) => ({ ...spots.get(id)!, width: text.length * 6.7, height: 13 }));

  it('keep out of each other’s way where up to five stand close together', () => {
    fc.assert(
      fc.property(near, (points) => {
        const all = boxes(points, placeBeside(points));
        all.forEach((box, i) => expect(covered(box, all.slice(0, i))).toBeCloseTo(0));
      }),
    );
  });

  it('stand where they are looked for, above to the right, when nothing is in the way', () => {
    const spots = placeBeside([
      { id: 'a', text: 'gate', x: 10, y: 20 },
      { id: 'b', text: 'weir', x: 400, y: 20 },
    ]);
    expect([...spots.values()]).toEqual([
      { x: 17, y: 14 },
      { x: 407, y: 14 },
    ]);
  });
});
