import { describe, expect, it } from 'vitest';
import { readMoveset, slotOf } from '@glenmark/core/machine';
import { type Session, readTape, runTape, type Trace } from '@glenmark/core/run';
import { type Course, readCourse } from '@glenmark/core/world';
import { courseOf, FLOOR, machineOf, movesetText, playInputs, statesOf } from './helpers.js';
import { firstDifference } from './together.js';

const RATES = [30, 50, 60, 120, 144];

/** A slope of an angle that rises to the right of x = 0 (or falls, when negative), with level ground before it. */
function slope(degrees: number, length = 60): Course {
  const rise = Math.tan((degrees * Math.PI) / 180) * length;
  const deep = Math.min(0, rise) - 5;
  const { course, diagnostics } = readCourse(`glenmark: 1
kind: course
name: Slope
solids:
  - { points: [[-60 m, ${deep} m], [0 m, ${deep} m], [0 m, 0 m], [-60 m, 0 m]] }
  - { points: [[0 m, ${deep} m], [${length} m, ${deep} m], [${length} m, ${rise} m], [0 m, 0 m]] }
spawns: { start: { at: [-1 m, 0 m] } }
`);
  if (course === undefined) throw new Error(diagnostics.map((d) => d.message).join());
  return course;
}

const SLOPE = 30;
/** A place on the slope, well away from its foot. */
const on = (degrees: number, x: number) => ({
  x,
  y: Math.tan((degrees * Math.PI) / 180) * x + 0.02,
  facing: 1 as const,
});

const oneState = (state: string, extra = ''): string =>
  movesetText({ states: `      S: { stance: tall, ${state} }`, initial: 'S', extra });

/** Speed along the slope after a tick, and whether the body stood on it in every tick from one on. */
const along = (trace: Trace, t: number): number => {
  const { vx, vy } = trace.records[t]!.body;
  return Math.sign(vx || vy) * Math.sqrt(vx * vx + vy * vy);
};
const stands = (trace: Trace, from = 1): boolean => trace.records.slice(from).every((r) => r.grounded);

/** Plays the same on both machines, which must agree. */
function both(
  text: string,
  course: Course,
  ticks: number,
  rate: number,
  input: (t: number) => Record<string, number>,
  at?: { x: number; y: number; facing: 1 | -1 },
): Trace {
  const machine = machineOf(text, rate);
  const inputs = Array.from({ length: ticks }, (_, t) => machine.controls.map((c) => input(t)[c.name] ?? 0));
  expect(firstDifference(machine, course, at ?? course.spawns[0]!, inputs, true)).toBeUndefined();
  return playInputs(machine, course, ticks, input, at);
}

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

describe('presses that were used', () => {
  const run = (crossings: string, input: (t: number) => Record<string, number>, lanes = ''): Trace =>
    both(
      movesetText({
        states: '      A: {}\n      B: {}\n      C: {}\n      P: { passing: true }',
        crossings,
        initial: 'A',
        lanes,
      }),
      courseOf(FLOOR),
      30,
      60,
      input,
    );
  const hop =
    (...at: number[]) =>
    (t: number) => ({ hop: Number(at.includes(t)) });

  it('do not open a second crossing', () => {
    const trace = run(
      '      - { from: A, to: B, when: pressed(hop) }\n      - { from: B, to: C, when: pressed(hop) within 0.2 s }',
      hop(3, 15),
    );
    expect(statesOf(trace).slice(3, 16)).toEqual([...Array.from({ length: 12 }, () => 'B'), 'C']);
  });

  it('still count for a guard that asks for no press', () => {
    const trace = run(
      '      - { from: A, to: B, when: pressed(hop) }\n      - { from: B, to: C, when: not pressed(hop) within 0.1 s }',
      hop(3),
    );
    // Not before the press is 0.1 s ago.
    expect(statesOf(trace).indexOf('C')).toBe(9);
  });

  it('are not used by a part of an `or` that was not needed, nor by a `for`', () => {
    const unneeded = run(
      '      - { from: A, to: B, when: grounded or pressed(hop) within 0.2 s, rank: 1 }\n      - { from: B, to: C, when: pressed(hop) within 0.2 s }',
      hop(0),
    );
    expect(statesOf(unneeded).slice(0, 3)).toEqual(['B', 'C', 'C']);
    const mixed = run(
      '      - { from: A, to: B, when: (grounded or pressed(hop)) within 0.2 s }\n      - { from: B, to: C, when: pressed(hop) within 0.2 s }',
      hop(0),
    );
    expect(statesOf(mixed).slice(0, 2)).toEqual(['B', 'C']);
    const without = run(
      '      - { from: A, to: B, when: not pressed(hop) for 0.1 s }\n      - { from: B, to: C, when: not pressed(hop) for 0.1 s }',
      () => ({}),
    );
    expect(statesOf(without).slice(4, 7)).toEqual(['A', 'B', 'C']);
  });

  it('are seen by every lane and every passing state of their tick', () => {
    const trace = run(
      '      - { from: A, to: P, when: pressed(hop) within 0.1 s }\n      - { from: P, to: B, when: pressed(hop) within 0.1 s }\n      - { from: B, to: C, when: pressed(hop) within 0.1 s }',
      hop(3),
      `  - name: arms
    initial: X
    states: { X: {}, Y: {}, Z: {} }
    crossings:
      - { from: X, to: Y, when: pressed(hop) within 0.1 s }
      - { from: Y, to: Z, when: pressed(hop) within 0.1 s }`,
    );
    expect([statesOf(trace)[3], statesOf(trace, 1)[3]]).toEqual(['B', 'Y']);
    expect([statesOf(trace)[29], statesOf(trace, 1)[29]]).toEqual(['B', 'Y']);
  });
});

describe('lanes that yield', () => {
  const lanes = (first: string, second: string): string =>
    `glenmark: 1
kind: moveset
name: Two
controls: { hop: { button: [Space] } }
body: { stances: { tall: { shape: box, width: 0.7 m, height: 1.7 m }, low: { shape: box, width: 0.7 m, height: 0.8 m } } }
lanes:
  - { name: one, ${first} }
  - { name: two, ${second} }
`;
  const vxOf = (first: string, second: string): number => {
    const trace = both(lanes(first, second), courseOf(FLOOR), 2, 60, () => ({}));
    return trace.records[1]!.body.vx;
  };
  const writing = (effect: string): string => {
    const state = `W${effect.replace(/\W/g, '')}`;
    return `initial: ${state}, states: { ${state}: { each: ["${effect}"] } }`;
  };

  it('leave a channel to the other, whichever comes first', () => {
    const yields = 'yields: [vx], ';
    expect(vxOf(yields + writing('vx := 3 m/s'), writing('vx := 5 m/s'))).toBe(5);
    expect(vxOf(writing('vx := 5 m/s'), yields + writing('vx := 3 m/s'))).toBe(5);
    expect(vxOf(yields + writing('vx += 3 m/s'), writing('vx := 5 m/s'))).toBe(5);
    expect(vxOf(yields + writing('vx += 3 m/s'), writing('vx += 5 m/s'))).toBe(10);
    // Without another writer they have it to themselves.
    expect(vxOf(yields + writing('vx += 3 m/s'), 'initial: T, states: { T: {} }')).toBe(6);
    const pushed = 'initial: T, states: { T: { motion: { push: { downhill: 9 m/s2 } } } }';
    expect(vxOf(yields + writing('vx := 3 m/s'), pushed)).toBe(0);
  });

  it('show no lost write, and see a write that changes nothing', () => {
    const trace = both(
      lanes(
        'yields: [facing, vx], initial: S, states: { S: { each: ["face left", "vx := 2 m/s"] } }',
        'initial: T, states: { T: { each: ["face right", "vx := 5 m/s"] } }',
      ),
      courseOf(FLOOR),
      3,
      60,
      () => ({}),
    );
    for (const { facing, writes } of trace.records) {
      expect(facing).toBe(1);
      expect(writes.filter((w) => w.author.lane === 0)).toEqual([]);
    }
  });

  it('the last lane that names a stance has it, unless it yields', () => {
    const stance = (first: string, second: string): string => {
      const trace = both(lanes(first, second), courseOf(FLOOR), 3, 60, () => ({}));
      return trace.machine.stances[trace.records[2]!.stance]!.name;
    };
    const [tall, low] = [
      'initial: S, states: { S: { stance: tall } }',
      'initial: T, states: { T: { stance: low } }',
    ];
    expect(stance(tall, low)).toBe('low');
    expect(stance(tall, `yields: [stance], ${low}`)).toBe('tall');
    expect(stance('initial: S, states: { S: {} }', `yields: [stance], ${low}`)).toBe('low');
  });
});

describe('smaller rules', () => {
  it('a right side may begin with a parenthesis', () => {
    const trace = both(oneState('enter: ["vx := (1 + 2) * 3 m/s"]'), courseOf(FLOOR), 1, 60, () => ({}));
    expect(trace.records[0]!.body.vx).toBe(9);
    const { diagnostics } = readMoveset(oneState('enter: ["vx := (1 + wrong) * 3 m/s"]'));
    expect(diagnostics[0]!.message).toContain("unknown name 'wrong'");
  });

  it('memories see the counts that the lanes see', () => {
    const text = movesetText({
      states: '      A: { enter: [spend n] }\n      B: {}',
      crossings: '      - { from: A, to: B, when: n > 0 and (n = 0 for 0.1 s) }',
      extra: 'variables: { n: { count: 1, max: 1, refill: pressed(hop) } }',
      initial: 'A',
    });
    const trace = both(text, courseOf(FLOOR), 20, 60, (t) => ({ hop: Number(t === 12) }));
    expect(statesOf(trace)).not.toContain('B');
  });

  it('a timer runs by what is so in one tick', () => {
    const text = movesetText({
      states: '      A: { stance: tall, enter: [start t] }\n      B: {}',
      crossings:
        '      - { from: A, to: B, when: done(t) }\n      - { from: A, to: A, when: pressed(hop), do: ["vy := 5 m/s"] }',
      extra: 'timers: { t: { length: 1 tick, runs: airborne and grounded for 3 ticks } }',
      initial: 'A',
    });
    const trace = both(text, courseOf(FLOOR), 60, 60, (t) => ({ hop: Number(t === 12) }));
    expect(trace.records.some((r) => !r.grounded)).toBe(true);
    expect(statesOf(trace)).not.toContain('B');
  });

  it('any axis that steers pushes, and no other does', () => {
    const wall = courseOf(`${FLOOR}\n  - { box: [[1 m, 0 m], [2 m, 4 m]] }`);
    const machine = (axes: string, to: string): string =>
      oneState(`motion: { drive: { to: axis(${to}) * 5 m/s, gain: 90 m/s2 } }`).replace(
        '  hop:',
        `  ${axes}: { axis: { negative: [KeyS], positive: [KeyW] } }\n  hop:`,
      );
    const pushes = (text: string, control: string): boolean => {
      const trace = both(text, wall, 40, 60, (t) => ({
        [control]: Number(t > 20),
        ...(t <= 20 ? { move: 1, side: 1 } : {}),
      }));
      return trace.records[39]!.facts[slotOf(trace.machine.facts, 'pushing')] === 1;
    };
    expect(pushes(machine('side', 'side'), 'side')).toBe(true);
    expect(pushes(machine('side', 'side'), 'move')).toBe(false);
    expect(pushes(machine('side', 'move'), 'move')).toBe(true);
  });

  it('cramped is true only where there is no room, not on the way to a smaller stance', () => {
    const text = movesetText({
      states:
        '      A: { stance: tall }\n      B: { stance: low }\n      C: { stance: tall, ifBlocked: wait }',
      crossings:
        '      - { from: A, to: B, when: pressed(hop) }\n      - { from: B, to: C, when: pressed(dash) }',
      initial: 'A',
    }).replace('height: 0.8 m', 'height: 0.8 m, blend: 0.2 s');
    const cramped = (course: Course): boolean[] => {
      const trace = both(text, course, 60, 60, (t) => ({ hop: Number(t === 3), dash: Number(t === 30) }));
      return trace.records.map((r) => r.facts[slotOf(trace.machine.facts, 'cramped')] === 1);
    };
    expect(cramped(courseOf(FLOOR))).not.toContain(true);
    const low = courseOf(`${FLOOR}\n  - { box: [[-5 m, 1.75 m], [5 m, 2 m]] }`);
    expect(cramped(low)).not.toContain(true);
  });

  it('a zone that works once lasts for its first visit', () => {
    const course = readCourse(`glenmark: 1
kind: course
name: Zone
solids: [{ box: [[-30 m, -1 m], [30 m, 0 m]] }]
zones: [{ tag: draught, box: [[2 m, 0 m], [6 m, 3 m]], wind: [0 m/s2, 1 m/s2], once: true }]
spawns: { start: { at: [0 m, 0 m] } }
`).course!;
    const text = movesetText({
      states:
        '      S: { stance: tall, motion: { drive: { to: axis(move) * 6 m/s, instant: true } } }\n      T: { stance: tall }',
      crossings: '      - { from: S, to: T, when: "inside(draught) and false" }',
      initial: 'S',
    });
    const trace = both(text, course, 150, 60, (t) => ({ move: t < 75 ? 1 : -1 }));
    const inside = trace.records.map((r) => r.facts[slotOf(trace.machine.facts, 'inside', 'draught')] === 1);
    // The whole way through it the first time, 4.7 m at 6 m/s; and never on the way back.
    expect(inside.filter(Boolean).length).toBeGreaterThan(40);
    expect(inside.lastIndexOf(true)).toBeLessThan(75);
  });

  it('a held vx leaves the other axis to the drive, from above; and what is carried fades', () => {
    const above = (state: string): string =>
      `glenmark: 1
kind: moveset
name: Above
plane: above
controls: { hop: { button: [Space] } }
body: { stances: { round: { shape: capsule, width: 0.7 m, height: 0.7 m } } }
lanes: [{ name: one, initial: S, states: { S: { stance: round, ${state} } } }]
`;
    const far = courseOf('  - { box: [[90 m, 90 m], [91 m, 91 m]] }');
    const held = both(
      above('motion: { hold: { vx: 2 m/s }, drive: { to: 9 m/s, toY: 3 m/s, instant: true } }'),
      far,
      2,
      60,
      () => ({}),
    );
    // Freely it is no faster on a slant than straight: 9 m/s in all, of which 3 parts of √90 go up.
    expect(held.records[1]!.body.vx).toBe(2);
    expect(held.records[1]!.body.vy).toBeCloseTo((3 * 9) / Math.sqrt(90), 9);
    const carried = both(
      above(
        'enter: ["vx := 10 m/s"], motion: { drive: { to: 4 m/s, gain: 60 m/s2, carry: { above: 2 m/s, fade: 6 m/s2 } } }',
      ),
      far,
      30,
      60,
      () => ({}),
    );
    carried.records.forEach(({ body }, t) => expect(body.vx).toBeCloseTo(10 - (6 * (t + 1)) / 60, 9));
  });

  it('directions may be written as a number', () => {
    const { machine } = readMoveset(
      oneState('motion: { drive: { to: 3 m/s, toY: 1 m/s, instant: true }, directions: 4 }').replace(
        'gravity: 30 m/s2',
        'plane: above',
      ),
    );
    expect(machine!.states[0]!.motion.directions).toBe('4');
  });

  it('a charge that a group spends on the way out comes back', () => {
    const text = movesetText({
      states: '      G: { exit: [spend c], initial: A, states: { A: {} } }\n      B: {}',
      crossings:
        '      - { from: G, to: B, when: pressed(hop) }\n      - { from: B, to: G, when: pressed(dash) }',
      extra: 'cooldowns: { c: { recharge: 0.2 s, from: exit } }',
      initial: 'G',
    });
    const trace = both(text, courseOf(FLOOR), 40, 60, (t) => ({ hop: Number(t === 5) }));
    const charges = trace.records.map((r) => r.charges[0]);
    expect(charges.indexOf(0)).toBe(5);
    expect(charges.lastIndexOf(0)).toBe(5 + 12 - 1);
  });

  it('a passing state has been there for no time, in a guard for several states too', () => {
    const text = movesetText({
      states: '      A: {}\n      P: { passing: true }\n      B: {}\n      C: {}',
      crossings: `      - { from: A, to: P, when: pressed(hop) }
      - { from: [P, C], to: B, when: elapsed >= 0.1 s }
      - { from: P, to: C, when: pressed(hop) }`,
      initial: 'A',
    });
    const trace = both(text, courseOf(FLOOR), 40, 60, (t) => ({ hop: Number(t === 20) }));
    expect(statesOf(trace)[20]).toBe('C');
    expect(statesOf(trace).indexOf('B')).toBe(26);
  });

  it('a group that resumes is entered anew at its active member, from inside', () => {
    const text = movesetText({
      states: '      G: { resume: last, initial: A, states: { A: {}, B: {} } }\n      C: {}',
      crossings: `      - { from: A, to: B, when: pressed(hop) }
      - { from: G, to: G, when: pressed(dash), reenter: true }
      - { from: G, to: C, when: axis(move) > 0 }
      - { from: C, to: G, when: axis(move) < 0 }`,
      initial: 'G',
    });
    const trace = both(text, courseOf(FLOOR), 40, 60, (t) => ({
      hop: Number(t === 3),
      dash: Number(t === 9),
      move: Number(t === 20) - Number(t === 30),
    }));
    expect([2, 4, 9, 25, 35].map((t) => statesOf(trace)[t])).toEqual(['A', 'B', 'B', 'C', 'B']);
    expect(trace.records[10]!.facts[slotOf(trace.machine.facts, 'elapsed', 'B')]).toBeCloseTo(1 / 60, 9);
  });

  it('what rounding leaves of a speed or a place is nothing', () => {
    const text = movesetText({
      states:
        '      A: { stance: tall, motion: { drive: { to: axis(move) * 5 m/s, gain: 40 m/s2 } } }\n      B: { stance: tall }',
      crossings:
        '      - { from: A, to: A, when: pressed(hop), do: ["vy := 7.3 m/s"] }\n      - { from: A, to: B, when: "y = 0.1 m and pressed(dash)" }',
      initial: 'A',
    });
    const course = courseOf('  - { box: [[-30 m, -1 m], [30 m, 0.1 m]] }', '[0 m, 0.1 m]');
    const trace = both(text, course, 90, 60, (t) => ({
      hop: Number(t === 5),
      dash: Number(t === 80),
      move: Number(t > 20 && t < 60),
    }));
    expect(statesOf(trace)[80]).toBe('B');
    for (const { body, grounded } of trace.records.slice(60)) if (grounded) expect(body.vy).toBe(0);
  });

  it('a world that was used before is as new', () => {
    const course = readCourse(`glenmark: 1
kind: course
name: Lift
solids: [{ box: [[-30 m, -9 m], [30 m, -8 m]] }]
movers: [{ box: [[-2 m, -1 m], [2 m, 0 m]], path: [[0 m, 0 m], [0 m, -3 m]], period: 3 s }]
spawns: { start: { at: [0 m, 0 m] } }
`).course!;
    const machine = machineOf(oneState('motion: { drive: { to: 1 m/s, gain: 20 m/s2 } }'));
    const tape = readTape(
      'glenmark: 1\nkind: tape\nname: T\ncourse: lift\nspawn: start\nticks: 50\nexpect: [at 0 y > -1 m]\n',
    ).tape!;
    const first = runTape(machine, course, tape);
    const again = runTape(machine, course, { ...tape, start: { x: 0.5, y: 0 } }, first.kept);
    const third = runTape(machine, course, tape, again.kept);
    expect(third.session!.digest).toBe((first.session as Session).digest);
  });
});
