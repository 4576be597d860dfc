import { describe, expect, it } from 'vitest';
import { readMoveset, slotOf } from '@glenmark/core/machine';
import { type Session, readTape, runTape } from '@glenmark/core/run';
import { type Course, readCourse } from '@glenmark/core/world';
import { courseOf, FLOOR, machineOf, movesetText, statesOf } from '../helpers.js';
import { oneState, both } from './play.js';

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
