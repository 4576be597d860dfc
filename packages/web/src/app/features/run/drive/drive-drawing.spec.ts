import { readMoveset } from '@glenmark/core/machine';
import { play } from '@glenmark/core/run';
import { buildWorld, moverAt, readCourse } from '@glenmark/core/world';
import fc from 'fast-check';
import courier from '../../../../../../../examples/courier.yaml' with { loader: 'text' };
import yard from '../../../../../../../examples/mill-yard.yaml' with { loader: 'text' };
import mill from '../../../../../../../examples/tide-mill.yaml' with { loader: 'text' };
import { drawnBody, drawnCourse, drawnMovers, drawnTrail, SCALE } from './drive-drawing';

const machine = readMoveset(courier).machine!;
const course = readCourse(yard).course!;
const tideMill = readCourse(mill).course!;
const HOP = machine.controls.findIndex((c) => c.name === 'hop');
const inputs = Array.from({ length: 400 }, (_, t) =>
  machine.controls.map((c, i) => (c.name === 'move' ? 1 : Number(i === HOP && t % 70 < 4))),
);
const { records } = play(
  machine,
  buildWorld(course, machine.stances, machine.casts),
  course.spawns[0]!,
  inputs,
);
const tick = fc.nat({ max: records.length - 1 });

/** The numbers of a path, two by two. */
const points = (d: string): [number, number][] => {
  const all = d.match(/-?\d+(\.\d+)?/g)!.map(Number);
  return all.flatMap((x, i) => (i % 2 === 0 ? [[x, all[i + 1]!] as [number, number]] : []));
};

describe('what is drawn while one drives', () => {
  it('is every solid, zone and anchor of the course, once', () => {
    for (const each of [course, tideMill]) {
      const drawn = drawnCourse(each);
      expect(drawn.solids.length + drawn.movers.length).toBe(each.solids.length);
      expect([drawn.zones.length, drawn.anchors.length]).toEqual([each.zones.length, each.anchors.length]);
    }
    expect(drawnCourse(tideMill).movers.length).toBeGreaterThan(0);
  });

  it('has movers where they are at that time, upwards on the screen', () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 100, noNaN: true }), (seconds) => {
        const { movers } = drawnCourse(tideMill);
        drawnMovers(tideMill, movers, seconds).forEach(({ shift }, i) => {
          const { x, y } = moverAt(tideMill.movers[movers[i]!.mover]!, seconds);
          const [sx, sy] = /translate\((\S+) (\S+)\)/.exec(shift)!.slice(1).map(Number);
          expect(sx).toBeCloseTo(x * SCALE, 6);
          expect(sy).toBeCloseTo(-y * SCALE, 6);
        });
      }),
    );
  });

  it('keeps the body in the middle, whatever the size', () => {
    const size = fc.record({
      width: fc.integer({ min: 100, max: 3000 }),
      height: fc.integer({ min: 100, max: 2000 }),
    });
    fc.assert(
      fc.property(tick, size, (at, view) => {
        const record = records[at]!;
        const { camera, x, y } = drawnBody(machine, { ...record, leaf: record.leaves[0]! }, view);
        const [cx, cy] = /translate\((\S+) (\S+)\)/.exec(camera)!.slice(1).map(Number);
        expect(Math.abs(x + cx! - view.width / 2)).toBeLessThanOrEqual(0.5);
        expect(Math.abs(y + cy! - view.height * 0.62)).toBeLessThanOrEqual(0.5);
      }),
    );
  });

  it('leaves a trail without gaps: each piece begins where the one before ended, in another colour', () => {
    fc.assert(
      fc.property(tick, (at) => {
        const pieces = drawnTrail(machine, records, at);
        const total = pieces.reduce((sum, { d }) => sum + points(d).length - 1, 0);
        expect(total).toBe(Math.min(at, 240) + 1);
        pieces.slice(1).forEach((piece, i) => {
          expect(points(piece.d)[0]).toEqual(points(pieces[i]!.d).at(-1));
          expect(piece.stroke).not.toBe(pieces[i]!.stroke);
        });
        const { body } = records[at]!;
        expect(points(pieces.at(-1)!.d).at(-1)).toEqual([
          Number((body.x * SCALE).toFixed(1)),
          Number((-body.y * SCALE).toFixed(1)),
        ]);
      }),
    );
  });
});
