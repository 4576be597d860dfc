import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  type Clock,
  explore,
  findAll,
  projectionOf,
  proveAll,
  scoutAll,
  skeletonFindings,
  sliceOf,
  type Finding,
  questionOf,
  structuralFindings,
} from '@glenmark/core/findings';
import {
  isWithin,
  type Layout,
  createFast,
  type Machine,
  readMoveset,
  startFast,
  step,
} from '@glenmark/core/machine';
import { buildWorld, readCourse } from '@glenmark/core/world';
import { courseOf, FLOOR, machineOf, movesetText, sample } from './helpers.js';
import { randomCase } from './random-moveset.js';

/** What is found of a moveset, but for what is only untidy. */
const foundIn = (text: string): Finding[] =>
  findAll(machineOf(text), []).filter((f) => questionOf(f.code) !== 'tidy');

const codesOf = (text: string): string[] => foundIn(text).map((f) => `${f.code} ${f.certainty} ${f.state}`);

/** What a clock shows after a tick; undefined for one that stands still. */
function ticksOf(machine: Machine, layout: Layout, s: Float64Array, clock: Clock): number | undefined {
  // A situation begins with the number of ticks that are over.
  const entered = (state: number): number => s[0]! - 1 - s[layout.entered + state]!;
  switch (clock.kind) {
    case 'leaf':
      return entered(s[layout.leaves + clock.lane]!);
    case 'group': {
      const isIn = machine.lanes.some((_, i) => isWithin(machine, s[layout.leaves + i]!, clock.state));
      return isIn ? entered(clock.state) : undefined;
    }
    case 'airtime':
      return undefined;
    case 'timer':
      return s[layout.timers + clock.timer]! > 0 ? -s[layout.timers + clock.timer]! : undefined;
    case 'recharge':
      return s[layout.clocks + clock.cooldown]! > 0 ? -s[layout.clocks + clock.cooldown]! : undefined;
  }
}

describe('the skeleton', () => {
  it('holds everything that happens: no random run leaves it, and nothing proved is ever seen to be otherwise', () => {
    let ticks = 0;
    let timed = 0;
    let proved = 0;
    fc.assert(
      fc.property(randomCase, ({ moveset, course: courseText, inputs }) => {
        const { machine } = readMoveset(moveset);
        const { course } = readCourse(courseText);
        if (machine === undefined || course === undefined) return;
        const world = buildWorld(course, machine.stances, machine.casts);
        const fast = createFast(machine, world);
        const skeletons = machine.lanes.map((lane) => {
          const slice = sliceOf(machine, lane.index, 1000);
          const skeleton = explore(machine, slice, { situations: 2000, steps: 50_000 });
          return { skeleton, project: projectionOf(slice.digits, fast.layout), values: [] as number[] };
        });
        const structure = structuralFindings(machine);
        const { findings } = skeletonFindings(machine, structure, {
          product: 1000,
          situations: 2000,
          steps: 50_000,
        });
        const all = [...structure, ...findings].filter((f) => f.certainty === 'proved');
        proved += findings.length;
        const shut = all.filter((f) => f.code === 'IN1' || f.code === 'IN2' || f.code === 'IN3');
        const dead = all.filter((f) => f.code === 'IN5');
        const sealed = all.filter((f) => f.code === 'OUT1' || f.code === 'OUT2');
        const s = startFast(fast, course.spawns[0]!);
        for (const input of inputs) {
          step(fast, s, input);
          ticks++;
          for (const { skeleton, project, values } of skeletons) {
            if (skeleton.isPartial) continue;
            project(s, values);
            const { timing } = skeleton;
            if (timing !== undefined) {
              timed++;
              expect(
                timing.holdsAfter(values, (clock) => ticksOf(machine, fast.layout, s, clock)),
                `the clocks of ${skeleton.slice.digits.map((d, i) => `${d.name} ${values[i]}`).join()} in ${moveset}`,
              ).toBe(true);
            }
            expect(
              skeleton.find(values),
              `${skeleton.slice.digits.map((d, i) => `${d.name} ${values[i]}`).join()} in ${moveset}`,
            ).toBeDefined();
          }
          for (let i = 0; i < fast.takenCount; i++) {
            const [lane, crossing, from, to] = fast.taken.slice(4 * i, 4 * i + 4) as [
              number,
              number,
              number,
              number,
            ];
            expect(shut.map((f) => f.state)).not.toContain(machine.states[to]!.name);
            expect(
              dead.filter((f) => f.lane === machine.lanes[lane]!.name).map((f) => f.crossing!.index),
            ).not.toContain(crossing);
            if (from !== to) expect(sealed.map((f) => f.state)).not.toContain(machine.states[from]!.name);
          }
        }
      }),
      // A case as it was found says enough; to shrink it would take minutes.
      { numRuns: 150, endOnFailure: true },
    );
    expect(ticks).toBeGreaterThan(2000);
    expect(timed).toBeGreaterThan(1000);
    expect(proved).toBeGreaterThan(20);
  });

  it('finds nothing in the sound samples', () => {
    for (const file of ['marram.yaml', 'courier.yaml', 'signal-kite.yaml', 'lock-keeper.yaml'])
      expect(
        findAll(machineOf(sample(file)), []).filter((f) => f.accepted === undefined),
        file,
      ).toEqual([]);
  });

  it('says what it left free when a lane is too large for it', () => {
    const { findings, undecided } = skeletonFindings(machineOf(sample('marram.yaml')), [], {
      product: 100,
      situations: 1000,
      steps: 50_000,
    });
    expect(findings).toEqual([]);
    expect(undecided[0]).toMatchObject({ lane: 'legs', why: 'apart' });
    expect(undecided[0]!.sentence).toMatch(/In the lane legs, .*kicksLeft.* could not be followed together/);
  });
});

/** Dash works only while a timer runs that is started once. */
const LOST_IN_TIME = movesetText({
  states: '      Begin: { exit: [start t] }\n      A: {}\n      B: {}\n      C: {}',
  crossings: `      - { from: Begin, to: A }
      - { from: A, to: C, when: pressed(dash) and running(t), rank: 1 }
      - { from: C, to: A, when: pressed(hop) }
      - { from: A, to: B, when: pressed(hop) }
      - { from: B, to: A, when: pressed(hop) }`,
  extra: 'timers: { t: { length: 1 s } }',
  initial: 'Begin',
});

describe('what only the skeleton sees', () => {
  const states = '      A: {}\n      B: {}\n      C: {}';
  it('a flag that is set only where it is too late', () => {
    const text = movesetText({
      states,
      crossings: `      - { from: A, to: B, when: pressed(hop) }
      - { from: B, to: A, when: pressed(hop) }
      - { from: A, to: C, when: wet }
      - { from: C, to: A, when: pressed(hop), do: ["wet := true"] }`,
      extra: 'variables: { wet: { flag: false } }',
      initial: 'A',
    });
    expect(codesOf(text)).toEqual(['IN2 proved C']);
    const [finding] = findAll(machineOf(text), []);
    expect(finding!.sentence).toContain('asks for `wet`, but wet is always clear');
    expect(finding!.reason).toContain('wet is written only by the crossing from C to A.');
  });

  it('a ring of states that leads only round', () => {
    const text = movesetText({
      states,
      crossings: `      - { from: A, to: A, when: pressed(hop), reenter: true }
      - { from: B, to: C, when: pressed(hop) }
      - { from: C, to: B, when: pressed(hop) }
      - { from: B, to: A, when: pressed(dash) }`,
      initial: 'A',
    });
    expect(foundIn(text).map((f) => f.sentence)).toEqual([
      'A can never be left: no crossing leads out of it, and it is not final.',
      'B, C can never be entered: they lead only to each other.',
    ]);
  });

  it('a count that is spent on the way in and asked for on the way out', () => {
    const text = movesetText({
      states: '      A: {}\n      B: { enter: [spend n] }',
      crossings: `      - { from: A, to: B, when: pressed(hop) }
      - { from: B, to: A, when: n > 0 }`,
      extra: 'variables: { n: { count: 1, max: 1, refill: in(A) } }',
      initial: 'A',
    });
    expect(codesOf(text)).toEqual(['OUT2 proved B']);
  });

  it('a trap that only the second visit springs is suspected, until a run comes there', () => {
    const text = movesetText({
      states: '      A: {}\n      B: { enter: [spend n] }',
      crossings: `      - { from: A, to: B, when: pressed(hop) }
      - { from: B, to: A, when: n > 0 }`,
      extra: 'variables: { n: { count: 2, max: 2 } }',
      initial: 'A',
    });
    expect(codesOf(text)).toEqual(['OUT3 suspected B', 'OUT5 proved B']);
    const trap = findAll(machineOf(text), []).find((f) => f.code === 'OUT3')!;
    expect(trap.sentence).toContain('while n is 0');
  });

  it('a home that is lost without being stuck', () => {
    const text = movesetText({
      states: '      A: { home: true }\n      B: {}\n      C: {}',
      crossings: `      - { from: A, to: B, when: pressed(hop) }
      - { from: B, to: C, when: pressed(hop) }
      - { from: C, to: B, when: pressed(hop) }
      - { from: B, to: A, when: lit }`,
      extra: 'variables: { lit: { flag: false } }',
      initial: 'A',
    });
    expect(codesOf(text)).toContain('OUT4 proved B');
  });

  it('a control that does nothing any more, after a state or while something is so', () => {
    const leaving = movesetText({
      states,
      crossings: `      - { from: A, to: B, when: pressed(dash) }
      - { from: A, to: C, when: pressed(hop), rank: 1 }
      - { from: B, to: A, when: pressed(hop) }
      - { from: C, to: C, when: pressed(hop), reenter: true }
      - { from: C, to: A, when: wet }`,
      extra: 'variables: { wet: { flag: false } }',
      initial: 'A',
    });
    // Who is stuck is told to be stuck, and not that the controls are lost too.
    expect(codesOf(leaving)).toEqual(['OUT2 proved C']);
    const spent = (once: string): string =>
      movesetText({
        states,
        crossings: `      - { from: A, to: B, when: pressed(hop) }
      - { from: B, to: A, when: pressed(hop) }
      - { from: A, to: C, when: pressed(dash) and not spent, rank: 1 }
      - { from: C, to: A, when: pressed(hop), do: [${once}] }`,
        extra: 'variables: { spent: { flag: false } }',
        initial: 'A',
      });
    expect(codesOf(spent('"spent := false"'))).toEqual([]);
    // A variable that closes what asks for a control says more than that the control is lost.
    expect(foundIn(spent('"spent := true"')).map((f) => f.sentence)).toEqual([
      'spent locks itself: in the end spent is set for good, and the crossing from A to C never opens again.',
    ]);
    const [lost] = foundIn(LOST_IN_TIME);
    expect(lost).toMatchObject({ code: 'OUT4', certainty: 'suspected', fingerprint: 'OUT4/dash' });
    expect(lost!.sentence).toBe(
      'dash may be lost: in A, while t is done, it no longer does anything, there or later.',
    );
    expect(lost!.reason[0]).toBe('dash is listened to in A; none of that can come about again.');
  });

  it('a control that is lost is witnessed when a run comes there', async () => {
    const machine = machineOf(LOST_IN_TIME);
    const { findings: told, traps } = proveAll(machine);
    const { findings } = await scoutAll(
      machine,
      [courseOf(FLOOR)],
      { findings: told, traps },
      {
        seed: 1,
        situations: 400,
      },
    );
    const lost = findings.find((f) => f.code === 'OUT4')!;
    expect(lost.certainty).toBe('witnessed');
    expect(lost.sentence).toMatch(/^dash is lost: in A, while t is done/);
    expect(lost.reason[0]).toContain('from here on dash does nothing, whatever else is pressed');
  });

  it('ties, writes that would be lost, and passing states that lead round, before any run', () => {
    const text = movesetText({
      states:
        '      A: {}\n      B: {}\n      C: { enter: ["vx := 9 m/s"] }\n      P: { passing: true }\n      Q: { passing: true }',
      crossings: `      - { from: A, to: B, when: pressed(hop) and airborne }
      - { from: A, to: C, when: pressed(hop) and vx > 0 m/s }
      - { from: A, to: P, when: pressed(dash), rank: 1 }
      - { from: P, to: Q, when: held(dash) }
      - { from: Q, to: P, when: held(hop) }
      - { from: [B, C, P, Q], to: A, when: not held(hop) and not held(dash) }`,
      initial: 'A',
      lanes: `  - name: hands
    initial: X
    states: { X: {}, Y: { motion: { hold: { vx: 2 m/s } } } }
    crossings:
      - { from: X, to: Y, when: pressed(dash) }
      - { from: Y, to: X, when: pressed(dash) }`,
    });
    expect(
      foundIn(text)
        .map((f) => `${f.certainty} ${f.fingerprint}`)
        .sort(),
    ).toEqual(['suspected AG1/legs/A/B+C', 'suspected AG2/vx/C enter/Y hold', 'suspected AG5/legs/P+Q']);
    // A rank, a lane that holds something else, and guards that exclude each other make an end of them.
    const mended = text
      .replace('when: pressed(hop) and vx > 0 m/s }', 'when: pressed(hop) and vx > 0 m/s, rank: 2 }')
      .replace('hold: { vx: 2 m/s }', 'hold: { vy: 2 m/s }')
      .replace('to: P, when: held(hop) }', 'to: P, when: held(hop) and not held(dash) }');
    expect(foundIn(mended)).toEqual([]);
    const endless = text
      .replace('to: Q, when: held(dash) }', 'to: Q }')
      .replace('to: P, when: held(hop) }', 'to: P }');
    expect(foundIn(endless).find((f) => f.code === 'AG5')).toMatchObject({ certainty: 'proved' });
  });

  it('two lanes that wait for each other', () => {
    const text = movesetText({
      states,
      crossings: `      - { from: A, to: B, when: in(Y) }
      - { from: B, to: A, when: pressed(hop) }
      - { from: A, to: C, when: pressed(dash) }
      - { from: C, to: A, when: pressed(dash) }`,
      initial: 'A',
      lanes: `  - name: hands
    initial: X
    states: { X: {}, Y: {} }
    crossings:
      - { from: X, to: Y, when: in(B) }
      - { from: Y, to: X, when: pressed(hop) }`,
    });
    expect(codesOf(text)).toEqual(['IN2 proved B']);
  });
});

describe('a control that is proved to do nothing any more', () => {
  const NAMES = ['A', 'B', 'C', 'D'];
  const crossing = fc
    .tuple(
      fc.nat(3),
      fc.nat(3),
      fc.constantFrom(
        'pressed(hop)',
        'pressed(dash)',
        'pressed(hop) and wet',
        'pressed(dash) and not wet',
        'elapsed >= 0.1 s',
      ),
      fc.constantFrom('', ', do: ["wet := true"]', ', do: ["wet := false"]'),
    )
    .filter(([from, to]) => from !== to)
    .map(
      ([from, to, when, act]) => `      - { from: ${NAMES[from]}, to: ${NAMES[to]}, when: ${when}${act} }`,
    );
  const inputs = fc.array(fc.tuple(fc.nat(1), fc.nat(1)), { minLength: 60, maxLength: 60 });

  it('is missed by no random play: from there on, runs with it and without it are in the same states', () => {
    let compared = 0;
    const course = courseOf(FLOOR);
    fc.assert(
      fc.property(fc.array(crossing, { minLength: 4, maxLength: 9 }), inputs, (crossings, presses) => {
        const machine = machineOf(
          movesetText({
            states: NAMES.map((name) => `      ${name}: {}`).join('\n'),
            crossings: crossings.join('\n'),
            initial: 'A',
            extra: 'variables: { wet: { flag: false } }',
          }),
        );
        const { findings } = skeletonFindings(machine, structuralFindings(machine));
        const fast = createFast(machine, buildWorld(course, machine.stances, machine.casts));
        for (const { state, fingerprint, certainty } of findings) {
          const control = machine.controls.findIndex((c) => fingerprint === `OUT4/${c.name}`);
          if (control < 0 || certainty !== 'proved') continue;
          const leaf = machine.states.find((s) => s.name === state)!.index;
          const s = startFast(fast, course.spawns[0]!);
          let without: Float64Array | undefined;
          for (const [hop, dash] of presses) {
            const input = [0, hop, dash];
            if (without !== undefined) {
              step(fast, without, input.with(control, 0));
              compared++;
            }
            step(fast, s, input);
            if (without !== undefined)
              expect(without[fast.layout.leaves], crossings.join('\n')).toBe(s[fast.layout.leaves]);
            else if (s[fast.layout.leaves] === leaf) without = s.slice();
          }
        }
      }),
      { numRuns: 300 },
    );
    expect(compared).toBeGreaterThan(50);
  });
});
