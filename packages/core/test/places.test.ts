import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readMoveset, slotOf } from '@glenmark/core/machine';
import { play, why } from '@glenmark/core/run';
import { buildWorld, moverAt, readCourse, type Course } from '@glenmark/core/world';
import { FLOOR, machineOf, movesetText, sample } from './helpers.js';

const RATES = [30, 50, 60, 120, 144];

function course(parts: string, spawn = '[0 m, 0 m]'): Course {
  const { course: built, diagnostics } = readCourse(
    `glenmark: 1\nkind: course\nname: C\n${parts}\nspawns: { a: { at: ${spawn} } }\n`,
  );
  if (built === undefined) throw new Error(diagnostics.map((d) => d.message).join('\n'));
  return built;
}

const run = (
  text: string,
  on: Course,
  ticks: number,
  input: (t: number) => Record<string, number> = () => ({}),
  rate?: number,
  at = on.spawns[0]!,
) => {
  const machine = machineOf(text, rate);
  const world = buildWorld(on, machine.stances, machine.casts);
  return play(
    machine,
    world,
    at,
    Array.from({ length: ticks }, (_, t) => machine.controls.map((c) => input(t)[c.name] ?? 0)),
  );
};

const stand = movesetText({
  states: '      S: { stance: tall, motion: { drive: { to: axis(move) * 4 m/s, gain: 60 m/s2 } } }',
  initial: 'S',
});

describe('movers', () => {
  const ferry = `solids: []\nmovers: [{ box: [[-2 m, -1 m], [2 m, 0 m]], path: [[0 m, 0 m], [6 m, 2 m], [6 m, 5 m]], period: 4 s }]`;

  it.each(RATES)('carry without slip, there and back, at %i', (rate) => {
    const on = course(ferry);
    const trace = run(stand, on, 4 * rate, undefined, rate);
    for (const { tick, body, grounded } of trace.records) {
      const at = moverAt(on.movers[0]!, (tick + 1) / rate);
      expect(grounded, `tick ${tick}`).toBe(true);
      expect(body.x).toBeCloseTo(at.x, 6);
      expect(body.y).toBeCloseTo(at.y, 6);
    }
    const last = trace.records[trace.records.length - 1]!.body;
    expect([last.x, last.y].map((v) => Math.abs(Math.round(v * 1e6)))).toEqual([0, 0]);
  });

  it('is where its path says: ends at half the period, begins at a whole one, never off the path', () => {
    const mover = course(ferry).movers[0]!;
    expect(moverAt(mover, 2)).toEqual({ x: 6, y: 5 });
    fc.assert(
      fc.property(fc.double({ min: 0, max: 100, noNaN: true }), (t) => {
        const { x, y } = moverAt(mover, t);
        expect(x < 6 ? Math.abs(y - x / 3) < 1e-9 : y >= 2 - 1e-9 && y <= 5).toBe(true);
      }),
    );
  });

  it('headroom under a mover is told for the tick that is asked about, not for the end of the run', () => {
    // A roof 1.2 m up that is over the body at first and 8 m away after two seconds.
    const on = course(
      `solids:\n${FLOOR}\nmovers: [{ box: [[-1 m, 1.2 m], [1 m, 3 m]], path: [[0 m, 0 m], [8 m, 0 m]], period: 4 s }]`,
    );
    const machine = machineOf(
      movesetText({
        states: '      Low: { stance: low }\n      Tall: { stance: tall }',
        crossings: '      - { from: Low, to: Tall, when: held(hop) }',
        initial: 'Low',
      }),
    );
    const world = buildWorld(on, machine.stances, machine.casts);
    const trace = play(
      machine,
      world,
      on.spawns[0]!,
      Array.from({ length: 120 }, () => machine.controls.map((c) => Number(c.name === 'hop'))),
    );
    const first = why(trace, world, 0).lanes[0]!.crossings[0]!;
    expect(first.verdict).toBe('noRoom');
    expect(first.missing).toBeCloseTo(0.5, 6);
    expect(trace.records[119]!.leaves[0]).toBe(1);
  });

  it('push who is in the way, and crush against a wall', () => {
    const ram = (extra: string): Course =>
      course(
        `solids:\n${FLOOR}\n${extra}\nmovers: [{ box: [[-6 m, 0 m], [-3 m, 3 m]], path: [[0 m, 0 m], [8 m, 0 m]], period: 4 s }]`,
      );
    const pushed = run(stand, ram(''), 120);
    expect(pushed.records[119]!.body.x).toBeCloseTo(5 + 0.35, 3);
    const crushed = run(stand, ram('  - { box: [[2 m, 0 m], [3 m, 3 m]] }'), 120);
    expect(crushed.records.some((r) => r.facts[slotOf(crushed.machine.facts, 'crushed')] === 1)).toBe(true);
    expect(pushed.records.some((r) => r.facts[slotOf(pushed.machine.facts, 'crushed')] === 1)).toBe(false);
  });
});

describe('one-way platforms', () => {
  const shelf = course(`solids:\n${FLOOR}\noneWays: [{ from: [-3 m, 2 m], to: [3 m, 2 m] }]`);
  const hopper = movesetText({
    states: '      S: { stance: tall }\n      T: { stance: tall }',
    crossings:
      '      - { from: S, to: T, when: pressed(hop), do: ["vy := 13 m/s"] }\n      - { from: T, to: S, when: grounded and vy <= 0 }\n      - { from: S, to: S, when: pressed(dash), do: [drop through] }',
    initial: 'S',
  });

  it.each(RATES)('let through from below, hold from above, and drop through on an effect, at %i', (rate) => {
    const trace = run(
      hopper,
      shelf,
      4 * rate,
      (t) => ({ hop: Number(t === 2), dash: Number(t === 2 * rate) }),
      rate,
    );
    const heights = trace.records.map((r) => r.body.y);
    expect(Math.max(...heights)).toBeGreaterThan(2.2);
    expect(heights[2 * rate - 1]).toBeCloseTo(2, 6);
    expect(heights[4 * rate - 1]).toBeCloseTo(0, 6);
  });

  it('stop nothing sideways', () => {
    const trace = run(
      stand,
      course(`solids:\n${FLOOR}\noneWays: [{ from: [2 m, 1 m], to: [6 m, 1 m] }]`),
      120,
      () => ({ move: 1 }),
    );
    expect(trace.records[119]!.body.x).toBeGreaterThan(7);
  });
});

describe('zones', () => {
  it('a wind as strong as gravity holds the body up, and drag sets its speed', () => {
    const on = course(
      'solids: []\nzones: [{ box: [[-9 m, -9 m], [9 m, 90 m]], tag: w, wind: [0 m/s2, 40 m/s2], drag: 2 1/s }]',
    );
    const trace = run(
      movesetText({ states: '      F: { stance: tall }', initial: 'F' }),
      on,
      600,
      undefined,
      undefined,
      { name: 'a', x: 0, y: 0, facing: 1 },
    );
    // Each tick v becomes (v + 40·dt)·e^−2·dt − 30·dt; where it rests is near the 10/2 of no ticks at all.
    const left = Math.exp(-2 / 60);
    const speeds = trace.records.map((r) => r.body.vy);
    expect(speeds[599]).toBeCloseTo((40 * left - 30) / 60 / (1 - left), 6);
  });

  it('launches once for each visit', () => {
    const on = course(
      `solids:\n${FLOOR}\nzones: [{ box: [[2 m, 0 m], [30 m, 1 m]], tag: pad, launch: [4 m/s, 0 m/s] }]`,
    );
    const trace = run(
      movesetText({
        states: '      S: { stance: tall, motion: { drive: { to: axis(move) * 2 m/s, gain: 8 m/s2 } } }',
        initial: 'S',
      }),
      on,
      200,
      () => ({ move: 1 }),
    );
    const launches = trace.records.filter((r) =>
      r.writes.some((w) => w.author.kind === 'launch' && w.author.zone === 'pad' && w.channel === 'vx'),
    );
    expect(launches).toHaveLength(1);
  });

  it('unlocks, and is gone after one visit when it says once', () => {
    const on = course(
      `solids:\n${FLOOR}\nzones: [{ box: [[1 m, 0 m], [2 m, 2 m]], tag: peg, unlocks: g, once: true }]`,
    );
    const text = movesetText({
      states: '      S: { stance: tall, motion: { drive: { to: axis(move) * 6 m/s, gain: 90 m/s2 } } }',
      crossings:
        '      - { from: S, to: S, when: pressed(hop), do: [lock g] }\n      - { from: S, to: S, when: inside(peg) and event(none) }\n      - { from: S, to: S, when: pressed(dash) and released(dash), do: [raise none] }',
      initial: 'S',
      extra: 'abilities: { g: { locked: true } }',
    });
    // There, lock it again, back, and there once more.
    const trace = run(text, on, 180, (t) => ({ move: t < 40 ? 1 : t < 90 ? -1 : 1, hop: Number(t === 60) }));
    const unlocked = trace.records.map((r) => r.facts[slotOf(trace.machine.facts, 'unlocked', 'g')]);
    expect([unlocked[5], unlocked[50], unlocked[62], unlocked[179]]).toEqual([0, 1, 0, 0]);
  });
});

describe('tethers', () => {
  const on = course(
    `solids:\n${FLOOR}\nanchors: { a: { at: [0 m, 8 m], tag: k }, b: { at: [4 m, 8 m], tag: k }, c: { at: [2 m, 12 m], tag: k } }`,
  );
  const text = (motion: string, most: number): string =>
    movesetText({
      states: `      S: { stance: tall }\n      H: { stance: tall, motion: { ${motion} } }`,
      crossings: '      - { from: S, to: H, when: catches(t) and pressed(hop), do: [cast t] }',
      initial: 'S',
      extra: `tethers: { t: { reach: 20 m, sees: [k], most: ${most} } }`,
    });

  it.each(RATES)('reels in a straight line to the centre, and stays there, at %i', (rate) => {
    const trace = run(
      text('tether: { reel: 5 m/s }', 1),
      on,
      3 * rate,
      (t) => ({ hop: Number(t === 0) }),
      rate,
    );
    // The middle of the body, 0.85 m up, goes to (0, 8).
    for (const { body, tick } of trace.records) {
      expect(body.x).toBeCloseTo(0, 9);
      expect(body.y).toBeCloseTo(Math.min(8 - 0.85, ((tick + 1) * 5) / rate), 6);
    }
  });

  it.each([2, 4, 6])('limits sideways by an angle: at %i m below the anchor, by its tangent', (below) => {
    const motion = 'drive: { to: axis(move) * 9 m/s, gain: 900 m/s2 }, tether: { sideways: 20 deg }';
    const trace = run(text(motion, 1), on, 200, (t) => ({ hop: Number(t === 0), move: 1 }), undefined, {
      name: 'a',
      x: 0,
      y: 8 - 0.85 - below,
      facing: 1,
    });
    expect(trace.records[199]!.body.x).toBeCloseTo(below * Math.tan((20 * Math.PI) / 180), 6);
  });

  it.each(RATES)('a body caught beyond the limit swings in as it would fall, at %i', (rate) => {
    // The middle is caught 3 m to the left and 1 m below: it may be tan 20° of a metre out.
    const trace = run(
      text('tether: { sideways: 20 deg }', 1),
      on,
      rate,
      (t) => ({ hop: Number(t === 0) }),
      rate,
      { name: 'a', x: -3, y: 8 - 0.85 - 1, facing: 1 },
    );
    const limit = Math.tan((20 * Math.PI) / 180);
    for (const { body, tick } of trace.records) {
      // Semi-implicit steps under gravity g after n ticks: g·dt²·n(n + 1)/2.
      const n = tick + 1;
      const fallen = (30 / rate ** 2) * ((n * (n + 1)) / 2);
      if (fallen < 3 - limit) expect(body.x).toBeCloseTo(fallen - 3, 6);
      // Then it has its speed, and what the limit is for: the other side stops it.
      else expect(Math.abs(body.x)).toBeLessThan(limit + 1e-6);
    }
  });

  it('sideways by a length', () => {
    const motion = 'drive: { to: axis(move) * 9 m/s, gain: 900 m/s2 }, tether: { sideways: 0.7 m }';
    const trace = run(text(motion, 1), on, 60, (t) => ({ hop: Number(t === 0), move: -1 }));
    expect(trace.records[59]!.body.x).toBeCloseTo(-0.7, 6);
  });
});

describe('from above', () => {
  it('is as fast on a diagonal as straight, in eight ways and free', () => {
    for (const directions of ['"8"', 'free']) {
      const text = movesetText({
        states: `      S: { stance: low, motion: { drive: { to: axis(move) * 6 m/s, toY: axis(lift) * 6 m/s, gain: 200 m/s2 }, directions: ${directions} } }`,
        initial: 'S',
      })
        .replace('gravity: 30 m/s2', 'plane: above')
        .replace('  hop:', '  lift: { axis: { negative: [KeyS], positive: [KeyW] } }\n  hop:');
      const trace = run(text, course('solids: [{ box: [[90 m, 0 m], [91 m, 1 m]] }]'), 60, () => ({
        move: 1,
        lift: 1,
      }));
      const { vx, vy } = trace.records[59]!.body;
      expect(Math.hypot(vx, vy)).toBeCloseTo(6, 6);
      expect(vx).toBeCloseTo(vy, 9);
    }
  });

  it.each([
    ['gravity: 1', /found 'gravity' in a moveset seen from above/],
    ['ground: { snap: 0.1 m }', /found 'ground' in a moveset seen from above/],
  ])('%s is a field that this plane does not have', (motion, message) => {
    const text = movesetText({ states: `      S: { motion: { ${motion} } }`, initial: 'S' }).replace(
      'gravity: 30 m/s2',
      'plane: above',
    );
    expect(readMoveset(text).diagnostics[0]!.message).toMatch(message);
  });
});

describe('bad places', () => {
  it.each([
    [
      'movers: [{ box: [[0 m, 0 m], [1 m, 1 m]], path: [[0 m, 0 m], [0 m, 0 m]], period: 4 s }]',
      /without length/,
    ],
    [
      'movers: [{ box: [[0 m, 0 m], [1 m, 1 m]], path: [[1 m, 0 m], [2 m, 0 m]], period: 4 s }]',
      /begins elsewhere/,
    ],
    [
      'movers: [{ box: [[0 m, 0 m], [1 m, 1 m]], path: [[0 m, 0 m], [2 m, 0 m]], period: 0 s }]',
      /a period above 0 s/,
    ],
    ['oneWays: [{ from: [0 m, 0 m], to: [0 m, 3 m] }]', /without width/],
    [
      'zones: [{ box: [[0 m, 0 m], [1 m, 1 m]], tag: a, wind: [1 m/s, 0 m/s2] }]',
      /a speed, expected an acceleration/,
    ],
  ])('%s', (parts, message) => {
    const { course: built, diagnostics } = readCourse(
      `glenmark: 1\nkind: course\nname: C\nsolids: []\n${parts}\nspawns: { a: { at: [0 m, 0 m] } }\n`,
    );
    expect(built).toBeUndefined();
    expect(diagnostics[0]!.message).toMatch(message);
    expect(diagnostics[0]!.line).toBe(5);
  });

  it('the samples of places load', () => {
    for (const file of ['mill-yard.yaml', 'mechanics/gym.yaml', 'mechanics/loft.yaml', 'mechanics/quay.yaml'])
      expect(readCourse(sample(file)).diagnostics).toEqual([]);
  });
});
