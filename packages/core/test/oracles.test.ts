import { describe, expect, it } from 'vitest';
import { slotOf } from '@glenmark/core/machine';
import { play } from '@glenmark/core/run';
import { buildWorld, readCourse } from '@glenmark/core/world';
import { courseOf, FLOOR, machineOf, movesetText, playInputs, statesOf } from './helpers.js';

/** Closed forms beside those in world.test.ts, at every rate. Semi-implicit Euler: a tick moves by the speed it ends with. */
const RATES = [30, 50, 60, 120, 144];

describe('hops', () => {
  const hopper = movesetText({
    states: `      Stand: { stance: tall, motion: { drive: { to: axis(move) * 6 m/s, instant: true } } }
      Air: { stance: tall, motion: { drive: { to: axis(move) * 6 m/s, instant: true }, gravity: { rising: 1, falling: 1, cut: { scale: 3, when: not held(hop) } } } }`,
    crossings: `      - { from: Stand, to: Air, when: pressed(hop), do: ["vy := 9 m/s"] }
      - { from: Air, to: Air, when: pressed(dash) and n > 0, do: ["vy := 9 m/s", spend n] }
      - { from: Air, to: Stand, when: grounded and vy <= 0, rank: 1 }`,
    extra: 'variables: { n: { count: 1, max: 1, refill: grounded } }',
    initial: 'Stand',
  });

  it.each(RATES)('an early release cuts the rise to what threefold gravity leaves, at %i', (rate) => {
    const held = Math.ceil(0.1 * rate);
    const trace = playInputs(machineOf(hopper, rate), courseOf(FLOOR), rate, (t) => ({
      hop: Number(t < held),
    }));
    let [y, v, best] = [0, 9, 0];
    for (let t = 0; t < rate; t++) {
      v -= (30 * (v > 0 && t >= held ? 3 : 1)) / rate;
      y = Math.max(0, y + v / rate);
      best = Math.max(best, y);
      if (y === 0) break;
    }
    expect(Math.max(...trace.records.map((r) => r.body.y))).toBeCloseTo(best, 9);
  });

  it.each(RATES)('the reach of one hop and of two is speed times time in the air, at %i', (rate) => {
    const reach = (second: boolean): { ticks: number; distance: number } => {
      const machine = machineOf(hopper, rate);
      const apex = Math.floor((9 / 30) * rate);
      const trace = playInputs(machine, courseOf(FLOOR), 3 * rate, (t) => ({
        move: 1,
        hop: Number(t > 0),
        dash: Number(second && t === apex),
      }));
      const air = trace.records.filter((r) => !r.grounded);
      return { ticks: air.length, distance: air[air.length - 1]!.body.x - trace.records[0]!.body.x };
    };
    for (const second of [false, true]) {
      const { ticks, distance } = reach(second);
      expect(distance).toBeCloseTo((6 * ticks) / rate, 6);
    }
    // One hop lasts 2v/g but for a tick at either end; the second, at the top, adds more than half of one again.
    expect(Math.abs(reach(false).ticks - (18 / 30) * rate)).toBeLessThanOrEqual(2);
    expect(reach(true).ticks).toBeGreaterThan(reach(false).ticks * 1.5);
  });

  it.each(RATES)('crosses a gap that is narrower than its reach and not one that is wider, at %i', (rate) => {
    const gap = (width: number): string =>
      `  - { box: [[-9 m, -3 m], [4 m, 0 m]] }\n  - { box: [[${4 + width} m, -3 m], [40 m, 0 m]] }\n  - { box: [[-9 m, -9 m], [40 m, -8 m]] }`;
    const clears = (width: number): boolean => {
      // From the last tick before the edge, holding the hop.
      const start = Math.floor((4 / 6) * rate) - 2;
      const trace = playInputs(machineOf(hopper, rate), courseOf(gap(width)), 3 * rate, (t) => ({
        move: 1,
        hop: Number(t >= start),
      }));
      return Math.min(...trace.records.map((r) => r.body.y)) > -0.5;
    };
    // Reach is 6 m/s for 0.6 s: 3.6 m, less the run-up that was left, more the body's half width at either edge.
    expect(clears(2.6)).toBe(true);
    expect(clears(5)).toBe(false);
  });
});

describe('speeds', () => {
  it.each(RATES)('a kept speed fades by its rate and is then braked, at %i', (rate) => {
    const machine = machineOf(
      movesetText({
        states:
          '      S: { stance: tall, motion: { drive: { to: 4 m/s, gain: 50 m/s2, brake: 50 m/s2, carry: { above: 2 m/s, fade: 8 m/s2 } } } }',
        crossings: '      - { from: S, to: S, when: pressed(dash), do: ["vx := 12 m/s"] }',
        initial: 'S',
      }),
      rate,
    );
    const trace = playInputs(machine, courseOf(FLOOR), 3 * rate, (t) => ({ dash: Number(t === rate) }));
    let v = 12;
    for (let t = rate; t < 3 * rate; t++) {
      v = v - 4 > 2 ? Math.max(4, v - 8 / rate) : Math.max(4, v - 50 / rate);
      expect(trace.records[t]!.body.vx).toBeCloseTo(v, 9);
    }
    expect(v).toBe(4);
  });

  it.each(RATES)('turning round takes speed by turn, then by gain, at %i', (rate) => {
    const machine = machineOf(
      movesetText({
        states:
          '      S: { stance: tall, motion: { drive: { to: axis(move) * 6 m/s, gain: 30 m/s2, turn: 90 m/s2 } } }',
        initial: 'S',
      }),
      rate,
    );
    const trace = playInputs(machine, courseOf(FLOOR), 2 * rate, (t) => ({ move: t < rate ? 1 : -1 }));
    let v = 6;
    for (let t = rate; t < 2 * rate; t++) {
      v = Math.max(-6, v - (v > 0 ? 90 : 30) / rate);
      expect(trace.records[t]!.body.vx).toBeCloseTo(v, 9);
    }
  });

  it.each(RATES)('drag leaves e^−k·t of a speed after a time t, at %i', (rate) => {
    const machine = machineOf(
      movesetText({
        states: '      S: { stance: tall, enter: ["vx := 10 m/s"], motion: { drag: 2 1/s } }',
        initial: 'S',
      }),
      rate,
    );
    const trace = playInputs(machine, courseOf(FLOOR), rate, () => ({}));
    trace.records.forEach(({ body }, t) =>
      expect(body.vx).toBeCloseTo(10 * Math.exp((-2 * (t + 1)) / rate), 9),
    );
  });
});

describe('a slide whose clock stands still downhill', () => {
  it.each(RATES)('lasts its own length on the flat, and longer by the time spent downhill, at %i', (rate) => {
    const text = movesetText({
      states:
        '      Walk: { stance: tall, motion: { drive: { to: 6 m/s, instant: true } } }\n      Slide: { stance: tall, motion: { drive: { to: 6 m/s, instant: true } } }',
      crossings:
        '      - { from: Walk, to: Slide, when: pressed(dash), do: [start t] }\n      - { from: Slide, to: Walk, when: done(t) }',
      extra: 'timers: { t: { length: 0.5 s, runs: not downhill } }',
      initial: 'Walk',
    });
    const flat = courseOf(FLOOR);
    const hill = courseOf(
      '  - { box: [[-20 m, -9 m], [2 m, 0 m]] }\n  - { points: [[2 m, 0 m], [2 m, -9 m], [6 m, -9 m], [6 m, -3 m]] }\n  - { box: [[6 m, -9 m], [60 m, -3 m]] }',
    );
    const slid = (on: typeof flat) => {
      const trace = playInputs(machineOf(text, rate), on, 4 * rate, (t) => ({ dash: Number(t === 0) }));
      const sliding = trace.records.filter((_, i) => statesOf(trace)[i] === 'Slide');
      // `downhill` is sensed from where the tick before had left the body.
      const down = sliding
        .slice(1)
        .filter((r) => r.facts[slotOf(trace.machine.facts, 'downhill')] === 1).length;
      return { ticks: sliding.length, down };
    };
    expect(slid(flat)).toEqual({ ticks: Math.ceil(0.5 * rate), down: 0 });
    const { ticks, down } = slid(hill);
    expect(down).toBeGreaterThan(0.5 * rate);
    expect(ticks).toBe(Math.ceil(0.5 * rate) + down);
  });
});

describe('hooks', () => {
  it.each(RATES)('are pulled straight to the centre of three anchors, at %i', (rate) => {
    const { course } = readCourse(
      `glenmark: 1\nkind: course\nname: C\nsolids: []\nanchors:\n  a: { at: [0 m, 9 m], tag: k }\n  b: { at: [6 m, 9 m], tag: k }\n  c: { at: [3 m, 12 m], tag: k }\nspawns: { s: { at: [1 m, 0 m] } }\n`,
    );
    // Each cast takes the nearest that is in reach; three tethers stand in for three aims.
    const tethers = ['a', 'b', 'c']
      .map((n, i) => `  ${n}: { reach: ${9 + i * 1.5} m, sees: [k], most: 3 }`)
      .join('\n');
    const machine = machineOf(
      movesetText({
        states: '      S: { stance: tall, enter: [cast a], motion: { tether: { reel: 4 m/s } } }',
        initial: 'S',
        extra: `tethers:\n${tethers}`,
      }),
      rate,
    );
    const world = buildWorld(course!, machine.stances, machine.casts);
    const trace = play(
      machine,
      world,
      course!.spawns[0]!,
      Array.from({ length: 4 * rate }, () => machine.controls.map(() => 0)),
    );
    const [ax, ay] = [trace.records[0]!.anchors[0]!.x, trace.records[0]!.anchors[0]!.y];
    const [dx, dy] = [ax - 1, ay - 0.85];
    const far = Math.hypot(dx, dy);
    for (const { body, tick } of trace.records) {
      const way = Math.min(far, ((tick + 1) * 4) / rate);
      expect(body.x).toBeCloseTo(1 + (dx / far) * way, 6);
      expect(body.y).toBeCloseTo((dy / far) * way, 6);
    }
  });
});

describe('corners', () => {
  it.each(['capsule', 'box'])('a %s dashed into a wedge stops and stays, without jitter', (shape) => {
    const wedge =
      '  - { box: [[-20 m, -1 m], [20 m, 0 m]] }\n  - { points: [[4 m, 0.9 m], [9 m, 0 m], [9 m, 4 m]] }\n  - { box: [[9 m, -1 m], [10 m, 9 m]] }';
    const machine = machineOf(
      movesetText({
        states: '      S: { stance: low, motion: { drive: { to: 40 m/s, instant: true } } }',
        initial: 'S',
        shape,
      }),
    );
    const trace = playInputs(machine, courseOf(wedge), 120, () => ({}));
    const last = trace.records.slice(30).map((r) => r.body);
    expect(Math.max(...last.map((b) => b.x)) - Math.min(...last.map((b) => b.x))).toBeLessThan(1e-6);
    expect(Math.max(...last.map((b) => b.y)) - Math.min(...last.map((b) => b.y))).toBeLessThan(1e-6);
  });

  it('a tunnel one millimetre higher than the body lets it through, one a centimetre lower does not', () => {
    const tunnel = (height: number): string => `${FLOOR}\n  - { box: [[4 m, ${height} m], [8 m, 5 m]] }`;
    const far = (height: number, shape: string): number => {
      const machine = machineOf(
        movesetText({
          states: '      S: { stance: tall, motion: { drive: { to: 6 m/s, instant: true } } }',
          initial: 'S',
          shape,
        }),
      );
      return playInputs(machine, courseOf(tunnel(height)), 240, () => ({})).records[239]!.body.x;
    };
    for (const shape of ['capsule', 'box']) {
      expect(far(1.701, shape)).toBeGreaterThan(10);
      expect(far(1.69, shape)).toBeLessThan(8);
    }
  });
});
