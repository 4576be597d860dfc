import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { SKIN } from '@glenmark/core/tolerances';
import {
  buildWorld,
  coreOf,
  createField,
  find,
  type Obstacle,
  fits,
  missingRoom,
  moveBody,
  nearness,
  obstacleOf,
  type Part,
  sweep,
} from '@glenmark/core/world';
import { courseOf, FLOOR, machineOf, movesetText, playInputs, statesOf } from './helpers.js';

const RATES = [30, 50, 60, 120, 144];
const CAPSULE: Part = { name: 'body', shape: 'capsule', width: 0.7, height: 1.7, ox: 0, oy: 0 };
const BOX: Part = { ...CAPSULE, shape: 'box' };
const worldOf = (solids: string, part: Part) =>
  buildWorld(courseOf(solids), [{ name: 'body', parts: [part] }]);
const FALL = '      Fall: { stance: tall }';

describe('sweep', () => {
  const wall = '  - { box: [[5 m, -5 m], [5.05 m, 5 m]] }';

  it.each([
    ['capsule', CAPSULE],
    ['box', BOX],
  ])('a %s at 200 m/s stops at a wall of 5 cm, at every rate', (_, part) => {
    const world = worldOf(wall, part);
    for (const rate of RATES) {
      const touch = sweep(world, 0, 0, 0, 200 / rate, 0);
      if (200 / rate < 5 - 0.35) {
        expect(touch.t).toBe(1);
        continue;
      }
      // The half width of 0.35 m stands between the feet and the wall.
      expect(touch.t * (200 / rate)).toBeCloseTo(4.65, 9);
      expect(touch.nx).toBeCloseTo(-1, 9);
    }
  });

  /** Brute force beside the exact sweep: the least of many sampled distances along the way. */
  it('agrees with sampling: not inside before the touch, touching at it', () => {
    const polygon = fc
      .tuple(
        fc.double({ min: 1, max: 3, noNaN: true }),
        fc.double({ min: 0, max: 6.28, noNaN: true }),
        fc.integer({ min: 3, max: 7 }),
      )
      .map(([r, turn, n]) =>
        Float64Array.from(
          Array.from({ length: n }, (_, i) => [
            6 + r * Math.cos(turn + (i * 2 * Math.PI) / n),
            r * Math.sin(turn + (i * 2 * Math.PI) / n),
          ]).flat(),
        ),
      );
    fc.assert(
      fc.property(
        polygon,
        fc.constantFrom(CAPSULE, BOX),
        fc.double({ min: -3, max: 3, noNaN: true }),
        fc.double({ min: -4, max: 4, noNaN: true }),
        (shape, part, y, dy) => {
          const obstacle = obstacleOf(shape, 0, coreOf(part));
          const { solids, ...rest } = courseOf(FLOOR);
          const world = buildWorld({ ...rest, solids: [{ ...solids[0]!, polygon: shape }] }, [
            { name: 'body', parts: [part] },
          ]);
          const out = { distance: 0, nx: 0, ny: 0 };
          if (nearness(obstacle, -2, y, out).distance < 0.01) return;
          const touch = sweep(world, 0, -2, y, 16, dy);
          for (let i = 0; i <= 200; i++) {
            const t = (touch.t * i) / 200;
            expect(nearness(obstacle, -2 + 16 * t, y + dy * t, out).distance).toBeGreaterThan(-1e-7);
          }
          if (touch.solid >= 0)
            expect(
              Math.abs(nearness(obstacle, -2 + 16 * touch.t, y + dy * touch.t, out).distance),
            ).toBeLessThan(1e-7);
          else
            for (let i = 0; i <= 400; i++)
              expect(
                nearness(obstacle, -2 + (16 * i) / 400, y + (dy * i) / 400, out).distance,
              ).toBeGreaterThan(-SKIN);
        },
      ),
      { numRuns: 300 },
    );
  });

  it('two corners that are a rounding apart make one face', () => {
    const [a, b] = [3.301711276960846, 3.3017112769608463];
    const shape = Float64Array.from([9, 0, 5, 3, a, 1.3, b, -1.3, 5, -3]);
    const obstacle = obstacleOf(shape, 0, coreOf(CAPSULE));
    const out = { distance: 0, nx: 0, ny: 0 };
    // The flat left side of the sum goes from -1.3 - 1.35 to 1.3 - 0.35, half a width of 0.35 m beside it.
    for (const y of [-2.6, -1, 0, 0.9]) {
      expect(nearness(obstacle, 2, y, out).distance).toBeCloseTo(a - 2 - 0.35, 12);
      expect(out.nx).toBeCloseTo(-1, 12);
    }
  });

  /** The grid against asking every obstacle, on courses with pieces of all sizes and boxes anywhere. */
  it('the broad phase finds what asking all finds, in the same order', () => {
    const size = fc.oneof(
      fc.double({ min: 0.1, max: 3, noNaN: true }),
      fc.double({ min: 3, max: 400, noNaN: true }),
    );
    const place = fc.double({ min: -200, max: 200, noNaN: true });
    const box = fc.record({ x: place, y: place, w: size, h: size });
    fc.assert(
      fc.property(
        fc.array(fc.tuple(box, fc.constantFrom(-1, -1, -1, 0, 1)), { maxLength: 60 }),
        fc.array(
          fc.oneof(
            box,
            box.map((b) => ({ ...b, w: 0, h: 0 })),
          ),
          { minLength: 1, maxLength: 10 },
        ),
        fc.tuple(place, place),
        (pieces, queries, [ox, oy]) => {
          const offsets = Float64Array.of(ox, oy, -oy, 0.5);
          const obstacles = pieces.map(
            ([{ x, y, w, h }], solid) => ({ solid, minX: x, minY: y, maxX: x + w, maxY: y + h }) as Obstacle,
          );
          const field = createField(obstacles, (o) => pieces[o.solid]![1]);
          for (const q of queries) {
            const meets = obstacles.flatMap((o, i) => {
              const mover = pieces[i]![1];
              const [dx, dy] = mover < 0 ? [0, 0] : [offsets[2 * mover]!, offsets[2 * mover + 1]!];
              const [x0, y0, x1, y1] = [q.x - dx, q.y - dy, q.x + q.w - dx, q.y + q.h - dy];
              return x1 >= o.minX && x0 <= o.maxX && y1 >= o.minY && y0 <= o.maxY ? [i] : [];
            });
            const count = find(field, offsets, q.x, q.y, q.x + q.w, q.y + q.h);
            expect(field.found.slice(0, count)).toEqual(meets);
          }
        },
      ),
      { numRuns: 400 },
    );
  });

  it('finds room to the millimetre, and tells what is missing', () => {
    const roof = (h: number): string =>
      `  - { box: [[-5 m, -1 m], [5 m, 0 m]] }\n  - { box: [[-5 m, ${h} m], [5 m, 9 m]] }`;
    for (const part of [CAPSULE, BOX]) {
      expect(fits(worldOf(roof(1.701), part), 0, 0, 0)).toBe(true);
      expect(fits(worldOf(roof(1.7 - SKIN - 0.001), part), 0, 0, 0)).toBe(false);
      expect(missingRoom(worldOf(roof(1.2), part), 0, 0, 0)).toBeCloseTo(0.5, 6);
    }
  });

  it('never ends inside a solid by more than the skin, whatever the speed and the shape', () => {
    const solids = `${FLOOR}
  - { box: [[4 m, 0 m], [5 m, 3 m]] }
  - { points: [[-8 m, 0 m], [-4 m, 0 m], [-4 m, 3 m]] }
  - { points: [[-2 m, 4 m], [2 m, 4 m], [0 m, 2.6 m]] }`;
    const velocity = fc.double({ min: -200, max: 200, noNaN: true });
    fc.assert(
      fc.property(
        fc.constantFrom(CAPSULE, BOX),
        fc.array(fc.tuple(velocity, velocity), { minLength: 1, maxLength: 12 }),
        (part, moves) => {
          const world = worldOf(solids, part);
          const body = { x: 0, y: 0, vx: 0, vy: 0 };
          for (const [vx, vy] of moves) {
            Object.assign(body, { vx, vy });
            moveBody(world, 0, body, undefined, { walkable: 0.64, snap: 0.15, turn: -1, step: 0 }, 1 / 60);
            if (Math.abs(body.x) > 90) return;
            expect(fits(world, 0, body.x, body.y), JSON.stringify(body)).toBe(true);
          }
        },
      ),
      { numRuns: 400 },
    );
  });
});

describe('closed forms, at every rate', () => {
  it.each(RATES)('free fall at %i', (rate) => {
    // Semi-implicit Euler falls g·dt²·n(n+1)/2 in n ticks, exactly but for rounding.
    const machine = machineOf(movesetText({ states: FALL, initial: 'Fall' }), rate);
    const trace = playInputs(machine, courseOf(FLOOR, '[0 m, 100 m]'), rate, () => ({}));
    const n = trace.records.length;
    expect(100 - trace.records[n - 1]!.body.y).toBeCloseTo((30 / rate / rate) * ((n * (n + 1)) / 2), 9);
  });

  it.each(RATES)('apex of a hop at %i', (rate) => {
    const machine = machineOf(
      movesetText({
        states: '      Stand: { stance: tall }\n      Rise: { stance: tall }',
        crossings:
          '      - { from: Stand, to: Rise, when: pressed(hop), do: ["vy := 9 m/s"] }\n      - { from: Rise, to: Stand, when: grounded }',
        initial: 'Stand',
      }),
      rate,
    );
    const trace = playInputs(machine, courseOf(FLOOR), rate, (t) => ({ hop: Number(t === 0) }));
    const apex = Math.max(...trace.records.map((r) => r.body.y));
    // In n ticks the body rises dt·(v·n − g·dt·n(n+1)/2); the best whole n is within one tick of v/g.
    const dt = 1 / rate;
    const best = Math.max(
      ...Array.from({ length: rate }, (_, n) => dt * (9 * n - (30 * dt * n * (n + 1)) / 2)),
    );
    expect(apex).toBeCloseTo(best, 9);
    // Which is below the continuous v²/2g by less than v·dt.
    expect((9 * 9) / 60 - apex).toBeLessThan(9 * dt);
  });

  it.each(RATES)('time and distance to full speed and to rest at %i', (rate) => {
    const machine = machineOf(
      movesetText({
        states:
          '      Walk: { stance: tall, motion: { drive: { to: axis(move) * 6 m/s, gain: 40 m/s2, brake: 50 m/s2 } } }',
        initial: 'Walk',
      }),
      rate,
    );
    const trace = playInputs(machine, courseOf(FLOOR), 2 * rate, (t) => ({ move: Number(t < rate) }));
    const speeds = trace.records.map((r) => r.body.vx);
    expect(speeds.findIndex((v) => v > 6 - 1e-9)).toBe(Math.ceil((6 / 40) * rate - 1e-9) - 1);
    expect(speeds.findIndex((v, t) => t >= rate && v < 1e-9) - rate).toBe(
      Math.ceil((6 / 50) * rate - 1e-9) - 1,
    );
    // Each tick moves by the speed it ends with.
    const sum = speeds.reduce((a, v) => a + v / rate, 0);
    expect(trace.records[trace.records.length - 1]!.body.x).toBeCloseTo(sum, 9);
  });

  it.each(RATES)('a dash covers speed times its whole ticks at %i', (rate) => {
    const machine = machineOf(
      movesetText({
        states:
          '      Stand: { stance: tall, motion: { drive: { to: 0 m/s, instant: true } } }\n      Dash: { stance: tall, motion: { hold: { vx: facing * 14 m/s, vy: 0 m/s } } }',
        crossings:
          '      - { from: Stand, to: Dash, when: pressed(dash) }\n      - { from: Dash, to: Stand, when: elapsed >= 0.18 s }',
        initial: 'Stand',
      }),
      rate,
    );
    const trace = playInputs(machine, courseOf(FLOOR), rate, (t) => ({ dash: Number(t === 3) }));
    const ticks = Math.ceil(0.18 * rate - 1e-9);
    expect(statesOf(trace).filter((s) => s === 'Dash')).toHaveLength(ticks);
    expect(trace.records[trace.records.length - 1]!.body.x).toBeCloseTo((14 * ticks) / rate, 9);
  });

  it.each(RATES)('falls no faster than its terminal speed at %i', (rate) => {
    const machine = machineOf(
      movesetText({
        states: '      Fall: { stance: tall, motion: { gravity: { falling: 1, terminal: 12 m/s } } }',
        initial: 'Fall',
      }),
      rate,
    );
    const trace = playInputs(machine, courseOf(FLOOR, '[0 m, 100 m]'), rate, () => ({}));
    const speeds = trace.records.map((r) => -r.body.vy);
    expect(Math.max(...speeds)).toBe(12);
    expect(speeds.findIndex((v) => v > 12 - 1e-9)).toBe(Math.ceil((12 / 30) * rate - 1e-9) - 1);
  });

  it.each(RATES)('a pull down a slope gives v² = 2·a·sin θ·s at %i', (rate) => {
    // A 3-4-5 slope: sin θ is 0.6. From rest for n ticks of a·sin θ, exactly.
    const slope =
      '  - { points: [[0 m, 0 m], [80 m, -60 m], [0 m, -60 m]] }\n  - { box: [[-9 m, -60 m], [0 m, 0 m]] }';
    const machine = machineOf(
      movesetText({
        states: '      Slide: { stance: tall, motion: { push: { downhill: 10 m/s2 } } }',
        initial: 'Slide',
      }),
      rate,
    );
    const at = { x: 4, y: 0, facing: 1 as const };
    const world = courseOf(slope);
    const landed = playInputs(machine, world, 3 * rate, () => ({}), at).records;
    const first = landed.findIndex((r, i) => r.grounded && i > 0 && landed[i - 1]!.grounded);
    const [a, b] = [landed[first]!, landed[first + rate]!];
    const speedOf = (r: typeof a): number => Math.hypot(r.body.vx, r.body.vy);
    expect(speedOf(b) - speedOf(a)).toBeCloseTo(10 * 0.6, 6);
    expect(b.body.vy / b.body.vx).toBeCloseTo(-0.75, 6);
  });
});
