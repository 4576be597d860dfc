import { edit, readFile } from '@glenmark/core/model';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { aligned, placedWith, removed } from './align';
import { type Piece, piecesOf, shifted } from './pieces';

const cm = fc.integer({ min: -2000, max: 2000 }).map((n) => n / 100);
const size = fc.integer({ min: 10, max: 500 }).map((n) => n / 100);
const boxes = fc.array(fc.tuple(cm, cm, size, size), { minLength: 2, maxLength: 6 });

const courseText = (list: [number, number, number, number][]): string =>
  `glenmark: 1\nkind: course\nname: C\nsolids:\n${list
    .map(([x, y, w, h]) => `  - { box: [[${x} m, ${y} m], [${x + w} m, ${y + h} m]] }`)
    .join('\n')}\nspawns: { s: { at: [0 m, 0 m] } }\n`;
const solids = (text: string): Piece[] =>
  piecesOf(readFile('course', text).file!).filter((p) => p.kind === 'solid');
const lows = (pieces: readonly Piece[], axis: 0 | 1): number[] =>
  pieces.map((p) => Math.min(...p.points.map((q) => q[axis])));
const highs = (pieces: readonly Piece[], axis: 0 | 1): number[] =>
  pieces.map((p) => Math.max(...p.points.map((q) => q[axis])));

describe('several pieces of a course', () => {
  it('come to the line of the first, and nothing else of them changes', () => {
    fc.assert(
      fc.property(boxes, (list) => {
        const text = courseText(list);
        const before = solids(text);
        for (const [how, of] of [
          ['left', lows],
          ['right', highs],
        ] as const) {
          const after = solids(edit(text, aligned(before, how)));
          for (const x of of(after, 0)) expect(x).toBeCloseTo(of(before, 0)[0]!, 2);
          lows(after, 1).forEach((y, i) => expect(y).toBeCloseTo(lows(before, 1)[i]!, 2));
          highs(after, 0).forEach((x, i) =>
            expect(x - lows(after, 0)[i]!).toBeCloseTo(highs(before, 0)[i]! - lows(before, 0)[i]!, 2),
          );
        }
      }),
      { numRuns: 30 },
    );
  });

  it('are spread with equal gaps between the outermost, which stay', () => {
    fc.assert(
      fc.property(boxes, (list) => {
        const text = courseText(list);
        const before = solids(text);
        const order = before.map((_, i) => i).sort((a, b) => lows(before, 0)[a]! - lows(before, 0)[b]!);
        const moved = solids(edit(text, aligned(before, 'spread')));
        const after = order.map((i) => moved[i]!);
        const gaps = after.slice(1).map((p, i) => lows([p], 0)[0]! - highs([after[i]!], 0)[0]!);
        for (const gap of gaps) expect(gap).toBeCloseTo(gaps[0]!, 1);
        // The first one itself: where the gaps are negative, one in the middle may come to lie beyond it.
        expect(lows([after[0]!], 0)[0]!).toBeCloseTo(Math.min(...lows(before, 0)), 2);
      }),
      { numRuns: 30 },
    );
  });

  it('go along with one that is moved, not with one that is stretched', () => {
    const text = courseText([
      [0, 0, 1, 1],
      [3, 0, 1, 2],
      [6, 0, 1, 3],
    ]);
    const [a, b] = solids(text) as [Piece, Piece];
    const moved = solids(edit(text, placedWith(a, shifted(a, 1, 2), [a, b])));
    expect(lows(moved, 0)).toEqual([1, 4, 6]);
    expect(lows(moved, 1)).toEqual([2, 2, 0]);
    const stretched = solids(edit(text, placedWith(a, [a.points[0]!, [2, 2]], [a, b])));
    expect(highs(stretched, 1)).toEqual([2, 2, 3]);
    expect(lows(solids(edit(text, removed([a, b]))), 0)).toEqual([6]);
  });
});
