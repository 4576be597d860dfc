import { describe, expect, it } from 'vitest';
import fc from 'fast-check';
import { place, readMoveset, startFast, step } from '@glenmark/core/machine';
import { createReaching, type Pit, type Reaching, sinksOf } from '@glenmark/core/reach';
import { finished } from '@glenmark/core/steps';
import { type Course, readCourse } from '@glenmark/core/world';
import { courseOf, machineOf, movesetText, sample } from '../helpers.js';

const DRIVE = 'drive: { to: axis(move) * 4 m/s, gain: 40 m/s2, brake: 40 m/s2 }';
const SPEED = 8;
const hopper = machineOf(
  movesetText({
    states: `      Stand: { stance: tall, motion: { ${DRIVE} } }
      Air: { stance: tall, motion: { ${DRIVE} } }`,
    crossings: `      - { from: Stand, to: Air, when: pressed(hop), do: ["vy := ${SPEED} m/s"] }
      - { from: Air, to: Stand, when: grounded and vy <= 0, rank: 1 }`,
    initial: 'Stand',
  }),
);
const APEX = SPEED ** 2 / (2 * hopper.gravity);

/** A floor of 60 m with a pit of 4 m in it. */
const floorWithPit = (depth: number): Course =>
  courseOf(
    `  - { box: [[-20 m, -9 m], [4 m, 0 m]] }
  - { box: [[4 m, -9 m], [8 m, ${-depth} m]] }
  - { box: [[8 m, -9 m], [40 m, 0 m]] }
  - { box: [[-21 m, 0 m], [-20 m, 9 m]] }
  - { box: [[40 m, 0 m], [41 m, 9 m]] }`,
  );

function searched(machine: typeof hopper, course: Course, situations: number): Reaching {
  const reaching = createReaching(machine, course, { seed: 1 });
  finished(reaching.advance(situations));
  return reaching;
}

/** Where the feet are at the end of the way into a pit. */
function endOf({ scout }: Reaching, { way }: Pit): { x: number; y: number } {
  const s = startFast(scout.fast, scout.starts[way.start]!);
  for (const input of way.inputs) step(scout.fast, s, input);
  return { x: s[place.X]!, y: s[place.Y]! };
}

describe('a pit', () => {
  it.each([0.5, APEX - 0.25, APEX + 0.25, 6])(
    'is told of where a hop is too low for it, and nowhere else: %f m deep',
    (depth) => {
      const reaching = searched(hopper, floorWithPit(depth), 5_000);
      const pits = finished(reaching.pits());
      expect(pits).toHaveLength(depth > APEX ? 1 : 0);
      for (const pit of pits) {
        const { x, y } = endOf(reaching, pit);
        expect(x).toBeGreaterThan(4);
        expect(x).toBeLessThan(8);
        expect(y).toBeCloseTo(-depth, 1);
        expect(Math.min(...pit.squares.map((s) => s.minX))).toBe(4);
        expect(Math.max(...pit.squares.map((s) => s.maxX))).toBe(8);
      }
    },
  );

  it('is none where all there is leads everywhere', () => {
    const mill = readCourse(sample('mill-yard.yaml')).course!;
    const marram = readMoveset(sample('marram.yaml')).machine!;
    expect(finished(searched(marram, mill, 6_000).pits())).toEqual([]);
  });
});

describe('sinks of a graph', () => {
  const graphs = fc
    .integer({ min: 1, max: 9 })
    .chain((size) =>
      fc.array(fc.array(fc.integer({ min: 0, max: size - 1 }), { maxLength: 3 }), {
        minLength: size,
        maxLength: size,
      }),
    )
    .map((lists) => new Map(lists.map((list, place) => [place, new Set(list)])));

  it('are the sets of places that lead to each other and nowhere else', () => {
    fc.assert(
      fc.property(graphs, (graph) => {
        const from = (place: number): Set<number> => {
          const seen = new Set([place]);
          for (const at of seen) for (const next of graph.get(at)!) seen.add(next);
          return seen;
        };
        const expected = new Set<string>();
        for (const place of graph.keys()) {
          const set = from(place);
          if ([...set].every((other) => from(other).has(place)))
            expected.add(JSON.stringify([...set].sort((a, b) => a - b)));
        }
        const sinks = sinksOf(graph).map((set) => JSON.stringify(set.sort((a, b) => a - b)));
        expect(new Set(sinks)).toEqual(expected);
        expect(sinks).toHaveLength(expected.size);
      }),
      { endOnFailure: true },
    );
  });
});
