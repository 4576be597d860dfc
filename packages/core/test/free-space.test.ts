import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { buildWorld, coreOf, fits, obstacleOf, type Part, type Polygon } from '@glenmark/core/world';
import { freeSpace, squareAround } from '../src/findings/proved/place/index.js';
import { courseOf } from './helpers.js';

const WALKABLE = 0.64;
const tall: Part = { name: 'body', shape: 'capsule', width: 0.7, height: 1.7, ox: 0, oy: 0 };
const crate: Part = { name: 'body', shape: 'box', width: 0.9, height: 0.8, ox: 0.1, oy: 0.05 };

const coordinate = fc.integer({ min: -16, max: 16 }).map((n) => n / 4);
const size = fc.integer({ min: 1, max: 16 }).map((n) => n / 4);
/** A box, or a slope that rises to the right. */
const solid = fc
  .tuple(coordinate, coordinate, size, size, fc.boolean())
  .map(([x, y, w, h, isSlope]) =>
    isSlope
      ? `  - { points: [[${x} m, ${y} m], [${x + w} m, ${y} m], [${x + w} m, ${y + h} m]] }`
      : `  - { box: [[${x} m, ${y} m], [${x + w} m, ${y + h} m]] }`,
  );
const place = fc.tuple(
  fc.double({ min: -6, max: 6, noNaN: true }),
  fc.double({ min: -6, max: 6, noNaN: true }),
);

const spaceOf = (polygons: readonly Polygon[], part: Part) =>
  freeSpace(
    polygons.map((polygon, i) => obstacleOf(polygon, i, coreOf(part))),
    [],
    squareAround({ minX: -8, minY: -8, maxX: 8, maxY: 8 }),
    WALKABLE,
  );

describe('the squares in which the feet may be', () => {
  it('leave out no place where the body has room, and fill the box without gap or overlap where nothing is solid', () => {
    let rooms = 0;
    let left = 0;
    fc.assert(
      fc.property(
        fc.array(solid, { minLength: 1, maxLength: 6 }),
        fc.constantFrom(tall, crate),
        fc.array(place, { minLength: 20, maxLength: 40 }),
        (solids, part, places) => {
          const course = courseOf(solids.join('\n'), '[90 m, 90 m]');
          const space = spaceOf(
            course.solids.map((s) => s.polygon),
            part,
          );
          const world = buildWorld(course, [{ name: 'body', parts: [part] }]);
          for (const [x, y] of places) {
            const found = space.touching(x, y, x, y).length;
            if (fits(world, 0, x, y)) {
              expect(found).toBeGreaterThan(0);
              rooms++;
            } else if (found === 0) left++;
          }
        },
      ),
      { numRuns: 60, endOnFailure: true },
    );
    // Both happened: otherwise nothing was put to the test.
    expect(rooms).toBeGreaterThan(300);
    expect(left).toBeGreaterThan(100);
    const { cells } = spaceOf([], tall);
    expect(cells.reduce((area, { side }) => area + side * side, 0)).toBe(cells[0]!.side ** 2);
  });

  it('say how high one may stand: on a floor and on a slope that is not too steep, not beside a wall', () => {
    const groundAt = (points: readonly number[], x: number, y: number): number => {
      const space = spaceOf([Float64Array.from(points)], { ...tall, shape: 'box' });
      return Math.max(...space.touching(x, y, x, y).map((cell) => space.cells[cell]!.ground));
    };
    const floor = [-4, -1, 4, -1, 4, 0, -4, 0];
    expect(groundAt(floor, 0, 0)).toBeCloseTo(0.001, 9);
    expect(groundAt(floor, 0, 3)).toBe(-Infinity);
    // The feet of a box 0.7 m wide meet a wall that ends at 2 m from 1.65 m on.
    const wall = [2, -4, 4, -4, 4, 4, 2, 4];
    expect(groundAt(wall, 1.65, 0)).toBe(-Infinity);
    // A box stands on a slope with its corner: 0.35 m to the right of its middle.
    const slope = (rise: number) => [-4, 0, 4, 0, 4, 8 * rise];
    expect(groundAt(slope(0.5), 0, 0.5 * 4.35)).toBeGreaterThan(0.5 * 4.35 - 0.05);
    expect(groundAt(slope(2), -1, 2 * 3.35)).toBe(-Infinity);
  });
});
