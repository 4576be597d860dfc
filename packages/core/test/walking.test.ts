import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { buildWorld, moveBody } from '@glenmark/core/world';
import { courseOf, FLOOR, machineOf, movesetText, playInputs } from './helpers.js';

const RATES = [30, 50, 60, 120, 144];

describe('standing and walking', () => {
  const walk = movesetText({
    states: '      Walk: { stance: tall, motion: { drive: { to: axis(move) * 6 m/s, gain: 60 m/s2 } } }',
    initial: 'Walk',
  });

  it.each(['capsule', 'box'])('a %s rests for a million ticks without drift', (shape) => {
    const machine = machineOf(walk.replaceAll('shape: capsule', `shape: ${shape}`));
    const world = buildWorld(courseOf(FLOOR), machine.stances);
    const ground = { nx: 0, ny: 1 };
    for (const rate of RATES) {
      const body = { x: 0, y: 0, vx: 0, vy: 0 };
      // Gravity presses it down every tick, as when no state follows the ground.
      for (let i = 0; i < 1_000_000; i++) {
        body.vy -= 30 / rate;
        moveBody(world, 0, body, ground, { walkable: 0.64, snap: 0.15, turn: -1, step: 0 }, 1 / rate);
      }
      expect(body).toEqual({ x: 0, y: 0, vx: 0, vy: 0 });
    }
  });

  it.each(['capsule', 'box'])('a %s walks over seams as if they were not there', (shape) => {
    const machine = machineOf(walk.replaceAll('shape: capsule', `shape: ${shape}`));
    const cut = playInputs(machine, courseOf(FLOOR), 600, () => ({ move: 1 }));
    const whole = playInputs(machine, courseOf('  - { box: [[-100 m, -1 m], [100 m, 0 m]] }'), 600, () => ({
      move: 1,
    }));
    for (const [i, { body, grounded }] of cut.records.entries()) {
      expect(grounded).toBe(true);
      expect(Math.abs(body.x - whole.records[i]!.body.x)).toBeLessThan(1e-6);
      expect(Math.abs(body.y)).toBeLessThan(1e-6);
    }
  });

  it('follows a slope up and down, keeping its speed along it', () => {
    const hill = `  - { box: [[-20 m, -5 m], [0 m, 0 m]] }\n  - { points: [[0 m, 0 m], [0 m, -5 m], [8 m, -5 m], [8 m, 3 m]] }\n  - { box: [[8 m, -5 m], [14 m, 3 m]] }\n  - { points: [[14 m, 3 m], [14 m, -5 m], [22 m, -5 m], [22 m, 0 m]] }\n  - { box: [[22 m, -5 m], [60 m, 0 m]] }`;
    const trace = playInputs(machineOf(walk), courseOf(hill, '[-3 m, 0 m]'), 400, () => ({ move: 1 }));
    expect(trace.records.every((r) => r.grounded)).toBe(true);
    expect(Math.max(...trace.records.map((r) => r.body.y))).toBeCloseTo(3, 1);
    for (const { body, tick } of trace.records.slice(20))
      expect(Math.hypot(body.vx, body.vy), `tick ${tick}`).toBeCloseTo(6, 6);
  });

  it('is stopped by a slope too steep to walk, and cannot jump up it', () => {
    const steep = `  - { box: [[-20 m, -5 m], [4 m, 0 m]] }\n  - { points: [[4 m, 0 m], [7 m, 0 m], [7 m, 6 m]] }`;
    const text = movesetText({
      states:
        '      Walk: { stance: tall, motion: { drive: { to: axis(move) * 6 m/s, gain: 60 m/s2 } } }\n      Rise: { stance: tall, motion: { drive: { to: axis(move) * 6 m/s, gain: 60 m/s2 } } }',
      crossings:
        '      - { from: Walk, to: Rise, when: pressed(hop), do: ["vy := 7 m/s"] }\n      - { from: Rise, to: Walk, when: grounded }',
      initial: 'Walk',
    });
    const trace = playInputs(machineOf(text), courseOf(steep), 600, (t) => ({
      move: 1,
      hop: Number(t % 40 === 0),
    }));
    // One hop rises 49/60 m; the surface must add nothing to that.
    expect(Math.max(...trace.records.map((r) => r.body.y))).toBeLessThan(49 / 60 + 0.02);
  });

  it('a capsule slips off an edge, a box does not', () => {
    const ledge = '  - { box: [[-20 m, -5 m], [0 m, 0 m]] }\n  - { box: [[-20 m, -9 m], [20 m, -8 m]] }';
    const still = movesetText({ states: '      Stand: { stance: tall }', initial: 'Stand' });
    const at = { x: 0.32, y: 0.02, facing: 1 as const };
    const capsule = playInputs(machineOf(still), courseOf(ledge), 120, () => ({}), at);
    const box = playInputs(
      machineOf(still.replaceAll('shape: capsule', 'shape: box')),
      courseOf(ledge),
      120,
      () => ({}),
      at,
    );
    expect(capsule.records[119]!.body.y).toBeLessThan(-1);
    expect(box.records[119]!.body.y).toBeCloseTo(0, 6);
  });

  it('a course cut into twice as many solids gives the same trace', () => {
    // Cuts leave seams in floors and walls. A corner that was none before may be met first, by rounding alone; what
    // that moves is 1e-6 of a displacement of at most 0.2 m a tick, over 200 ticks: 4e-5 m.
    const bound = 4e-5;
    const walls = fc.array(
      fc.tuple(
        fc.integer({ min: 2, max: 12 }),
        fc.integer({ min: 3, max: 17 }),
        fc.integer({ min: 0, max: 6 }),
      ),
      { maxLength: 4 },
    );
    const box = (x0: number, y0: number, x1: number, y1: number): string =>
      `  - { box: [[${x0} m, ${y0} m], [${x1} m, ${y1} m]] }`;
    fc.assert(
      fc.property(
        walls,
        fc.double({ min: 0.2, max: 0.8, noNaN: true }),
        fc.boolean(),
        fc.array(fc.tuple(fc.constantFrom(-1, 0, 1), fc.nat(1), fc.integer({ min: 2, max: 25 })), {
          maxLength: 10,
        }),
        (pieces, share, upright, holds) => {
          const boxes: [number, number, number, number][] = [[-40, -1, 40, 0]];
          for (const [x, h, y] of pieces) boxes.push([x + 0.013, y / 2, x + 1.017, y / 2 + h / 10]);
          const whole = boxes.map((b) => box(...b)).join('\n');
          const cut = boxes
            .map(([x0, y0, x1, y1]) => {
              const x = x0 + (x1 - x0) * share;
              const y = y0 + (y1 - y0) * share;
              return upright
                ? `${box(x0, y0, x, y1)}\n${box(x, y0, x1, y1)}`
                : `${box(x0, y0, x1, y)}\n${box(x0, y, x1, y1)}`;
            })
            .join('\n');
          const inputs = holds.flatMap(([move, hop, n]) => Array.from({ length: n }, () => ({ move, hop })));
          const machine = machineOf(
            movesetText({
              states:
                '      Walk: { stance: tall, motion: { drive: { to: axis(move) * 6 m/s, gain: 60 m/s2 } } }\n      Rise: { stance: tall, motion: { drive: { to: axis(move) * 6 m/s, gain: 30 m/s2 } } }',
              crossings:
                '      - { from: Walk, to: Rise, when: pressed(hop), do: ["vy := 11 m/s"] }\n      - { from: Rise, to: Walk, when: grounded and vy <= 0 }',
              initial: 'Walk',
            }),
          );
          const at = { x: 0.21, y: 0, facing: 1 as const };
          const [a, b] = [whole, cut].map((solids) =>
            playInputs(machine, courseOf(solids), inputs.length, (t) => inputs[t]!, at),
          );
          a!.records.forEach(({ body }, i) => {
            expect(Math.abs(b!.records[i]!.body.x - body.x)).toBeLessThan(bound);
            expect(Math.abs(b!.records[i]!.body.y - body.y)).toBeLessThan(bound);
          });
        },
      ),
      { numRuns: 150 },
    );
  });

  it('a mirrored course and tape give the mirrored trace', () => {
    const solids = (m: 1 | -1): string =>
      `  - { box: [[-30 m, -1 m], [30 m, 0 m]] }\n  - { box: [[${4 * m} m, 0 m], [${5 * m} m, 0.8 m]] }\n  - { points: [[${8 * m} m, 0 m], [${12 * m} m, 0 m], [${12 * m} m, 2 m]] }`;
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.constantFrom(-1, 0, 1), fc.nat(1), fc.integer({ min: 1, max: 30 })), {
          maxLength: 12,
        }),
        (holds) => {
          const inputs = holds.flatMap(([move, hop, length]) =>
            Array.from({ length }, () => ({ move, hop })),
          );
          const machine = machineOf(
            movesetText({
              states:
                '      Walk: { stance: tall, motion: { drive: { to: axis(move) * 6 m/s, gain: 60 m/s2 } } }\n      Rise: { stance: tall, motion: { drive: { to: axis(move) * 6 m/s, gain: 30 m/s2 } } }',
              crossings:
                '      - { from: Walk, to: Rise, when: pressed(hop), do: ["vy := 8 m/s"] }\n      - { from: Rise, to: Walk, when: grounded }',
              initial: 'Walk',
            }),
          );
          const right = playInputs(machine, courseOf(solids(1)), inputs.length, (t) => inputs[t]!, {
            x: 0,
            y: 0,
            facing: 1,
          });
          const left = playInputs(
            machine,
            courseOf(solids(-1)),
            inputs.length,
            (t) => ({ move: -inputs[t]!.move, hop: inputs[t]!.hop }),
            { x: 0, y: 0, facing: -1 },
          );
          right.records.forEach(({ body }, i) => {
            expect(left.records[i]!.body.x).toBeCloseTo(-body.x, 7);
            expect(left.records[i]!.body.y).toBeCloseTo(body.y, 7);
          });
        },
      ),
      { numRuns: 60 },
    );
  });
});
