import { describe, expect, it } from 'vitest';
import type { Trace } from '@glenmark/core/run';
import { type Course, readCourse } from '@glenmark/core/world';
import { courseOf, FLOOR, movesetText, statesOf } from '../helpers.js';
import { RATES, slope, SLOPE, on, oneState, along, stands, both } from './play.js';

describe.each(RATES)('on a slope, at %i ticks per second', (rate) => {
  it.each([
    ['up', SLOPE, 6],
    ['down', -SLOPE, 6],
    ['up, going back', SLOPE, -6],
    ['down, going back', -SLOPE, -6],
  ])('a written vx is a speed along the ground: %s', (_, degrees, speed) => {
    for (const state of [`each: ["vx := ${speed} m/s"]`, `motion: { hold: { vx: ${speed} m/s } }`]) {
      const trace = both(oneState(state), slope(degrees), rate, rate, () => ({}), on(degrees, 20));
      expect(stands(trace)).toBe(true);
      expect(Math.abs(along(trace, rate - 1))).toBeCloseTo(Math.abs(speed), 9);
      const [a, b] = [trace.records[0]!.body, trace.records[rate - 1]!.body];
      const way = Math.sqrt((b.x - a.x) ** 2 + (b.y - a.y) ** 2);
      expect(way).toBeCloseTo((Math.abs(speed) * (rate - 1)) / rate, 6);
    }
  });

  it('vx := 0 stops at once, uphill without a hop and downhill without a slide', () => {
    for (const degrees of [SLOPE, -SLOPE]) {
      const text = movesetText({
        states:
          '      S: { stance: tall, motion: { drive: { to: 8 m/s, instant: true } } }\n      T: { stance: tall, enter: ["vx := 0 m/s"] }',
        crossings: '      - { from: S, to: T, when: pressed(hop) }',
        initial: 'S',
      });
      const trace = both(text, slope(degrees), 40, rate, (t) => ({ hop: Number(t >= 10) }), on(degrees, 10));
      const { x, y } = trace.records[9]!.body;
      expect(stands(trace)).toBe(true);
      for (const { body } of trace.records.slice(10)) {
        expect(body.x).toBeCloseTo(x, 9);
        expect(body.y).toBeCloseTo(y, 9);
        expect([body.vx, body.vy]).toEqual([0, 0]);
      }
    }
  });

  it('a push or a wind that does not lift moves along the ground, and a standing body stays', () => {
    for (const degrees of [SLOPE, -SLOPE]) {
      const still = both(
        oneState('motion: { push: { y: 20 m/s2 } }'),
        slope(degrees),
        rate,
        rate,
        () => ({}),
        on(degrees, 20),
      );
      expect(stands(still)).toBe(true);
      expect(along(still, rate - 1)).toBe(0);
      const pushed = both(
        oneState('motion: { push: { x: 5 m/s2, y: 20 m/s2 } }'),
        slope(degrees),
        rate,
        rate,
        () => ({}),
        on(degrees, 10),
      );
      expect(stands(pushed)).toBe(true);
      // The body lands in the first tick, and is pushed in those after it.
      expect(along(pushed, rate - 1) - along(pushed, 0)).toBeCloseTo((5 * (rate - 1)) / rate, 6);
    }
    const lifted = both(
      oneState('motion: { push: { y: 31 m/s2 } }'),
      slope(SLOPE),
      rate,
      rate,
      () => ({}),
      on(SLOPE, 20),
    );
    expect(lifted.records[rate - 1]!.grounded).toBe(false);
    const after = lifted.records.findIndex((r, t) => t > 2 && !r.grounded);
    expect(lifted.records[rate - 1]!.body.vy - lifted.records[after]!.body.vy).toBeCloseTo(
      (1 * (rate - 1 - after)) / rate,
      6,
    );
  });

  it('the feet follow the ground down over an edge at any speed, unless the edge is sharper than `snap` says', () => {
    const run = (ground: string, speed: number, shape = 'capsule'): Trace =>
      both(
        oneState(`motion: { drive: { to: ${speed} m/s, instant: true }${ground} }`).replaceAll(
          'capsule',
          shape,
        ),
        slope(-SLOPE),
        rate,
        rate,
        () => ({}),
      );
    for (const speed of [2, 12, 25]) {
      expect(stands(run('', speed))).toBe(true);
      expect(stands(run(', ground: { snap: 0.02 m }', speed))).toBe(true);
      expect(stands(run(', ground: { snap: 35 deg }', speed))).toBe(true);
      expect(stands(run(', ground: { snap: 25 deg }', speed))).toBe(false);
      expect(stands(run(', ground: { snap: 0 m }', speed))).toBe(false);
    }
  });

  it('a ledge is followed down by its height, whatever the speed', () => {
    const ledge = (drop: number): Course =>
      courseOf(
        `  - { box: [[-20 m, -3 m], [0 m, 0 m]] }\n  - { box: [[0 m, -3 m], [40 m, ${-drop} m]] }`,
        '[-2 m, 0 m]',
      );
    for (const speed of [1, 6, 20]) {
      const run = (drop: number): Trace =>
        both(
          oneState(
            `motion: { drive: { to: ${speed} m/s, instant: true }, ground: { snap: 0.2 m } }`,
          ).replaceAll('capsule', 'box'),
          ledge(drop),
          Math.ceil((4 / speed) * rate),
          rate,
          () => ({}),
        );
      expect(stands(run(0.19))).toBe(true);
      expect(stands(run(0.22))).toBe(false);
    }
  });

  it('whoever leaves a mover keeps its speed when the state says so', () => {
    const course = readCourse(`glenmark: 1
kind: course
name: Ferry
solids: [{ box: [[-90 m, -30 m], [-80 m, -29 m]] }]
movers: [{ box: [[-2 m, -1 m], [2 m, 0 m]], path: [[0 m, 0 m], [30 m, 0 m]], period: 20 s }]
spawns: { start: { at: [0 m, 0 m] } }
`).course!;
    const leap = (inherit: boolean): Trace =>
      both(
        movesetText({
          states: `      S: { stance: tall, motion: { ground: { inherit: ${inherit} } } }\n      A: { motion: { ground: { inherit: ${inherit} } } }`,
          crossings: '      - { from: S, to: A, when: pressed(hop), do: ["vy := 6 m/s"] }',
          initial: 'S',
        }),
        course,
        rate,
        rate,
        (t) => ({ hop: Number(t >= 5) }),
      );
    expect(leap(false).records[rate - 1]!.body.vx).toBe(0);
    // There and back along 30 m in 20 s: 3 m/s.
    expect(leap(true).records[rate - 1]!.body.vx).toBeCloseTo(3, 9);
  });

  it('drag leaves e^−k·t of a speed', () => {
    for (const state of [
      'motion: { drag: 5 1/s }',
      'motion: { drag: "if grounded then 5 1/s else 5 1/s" }',
    ]) {
      const trace = both(
        oneState(`enter: ["vx := 10 m/s"], ${state}`),
        courseOf(FLOOR),
        rate,
        rate,
        () => ({}),
      );
      trace.records.forEach(({ body }, t) =>
        expect(body.vx).toBeCloseTo(10 * Math.exp((-5 * (t + 1)) / rate), 9),
      );
    }
  });

  it('a timer that is started at the start ends with `elapsed`, and an event raised there is seen', () => {
    const text = movesetText({
      states: '      A: { enter: [start t, raise bell] }\n      B: {}\n      C: {}',
      crossings:
        '      - { from: A, to: B, when: done(t) }\n      - { from: A, to: C, when: elapsed >= 10 ticks }',
      initial: 'A',
      extra: 'timers: { t: { length: 10 ticks } }',
      lanes: `  - name: ears
    initial: X
    states: { X: {}, Y: {} }
    crossings: [{ from: X, to: Y, when: event(bell) }]`,
    });
    const trace = both(text, courseOf(FLOOR), 20, rate, () => ({}));
    expect(statesOf(trace, 1)[0]).toBe('Y');
    // Both open in the same tick; the first in the file is taken.
    expect(statesOf(trace).indexOf('B')).toBe(10);
    expect(trace.records[10]!.ties).toEqual([{ lane: 0, crossings: [0, 1] }]);
  });
});
