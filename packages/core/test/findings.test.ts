import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  constantWords,
  constantFacts,
  findAll,
  shutGuard,
  structuralFindings,
} from '@glenmark/core/findings';
import { sense, startSituation, tick } from '@glenmark/core/machine';
import { evaluate } from '@glenmark/core/notation';
import { play, readTape, runTape } from '@glenmark/core/run';
import { buildWorld, readCourse } from '@glenmark/core/world';
import { courseOf, FLOOR, machineOf, movesetText, sample } from './helpers.js';

const tapeOn = (tape: string, course = 'mill-yard.yaml') => ({
  tape: readTape(sample(tape)).tape!,
  course: readCourse(sample(course)).course!,
});

describe('the samples', () => {
  it.each([
    ['signal-kite.yaml', ['kite-up.yaml']],
    ['courier.yaml', ['culvert-slide.yaml', 'yard-crossing.yaml']],
  ])('%s is sound, and its tapes meet what they expect at its own rate', (moveset, tapes) => {
    const machine = machineOf(sample(moveset));
    expect(
      findAll(
        machine,
        tapes.map((t) => tapeOn(t)),
      ),
    ).toEqual([]);
    for (const file of tapes) {
      const { tape, course } = tapeOn(file);
      const { session, diagnostics } = runTape(machine, course, tape);
      expect(diagnostics).toEqual([]);
      expect(session!.expectations.filter((e) => !e.passed)).toEqual([]);
    }
  });

  it('what is proved of courier-draft, and what its tape shows', () => {
    const findings = findAll(machineOf(sample('courier-draft.yaml')), [tapeOn('draft-tuck.yaml')]);
    expect(findings.map((f) => `${f.code} ${f.certainty} ${f.state}`).sort()).toEqual([
      'AG1 witnessed Trot',
      'AG2 suspected Rise',
      'AG2 suspected Slide',
      'AG3 proved Free',
      'AG4 witnessed Slack',
      'AG5 suspected Blink',
      'IN1 proved Perch',
      'IN2 proved Glide',
      'IN3 proved Creep',
      'IN5 proved Rise',
      'OUT1 proved Gust',
      'OUT2 proved Kneel',
      'OUT3 suspected Vault',
      'OUT4 proved Lit',
      'OUT5 proved Vault',
      'RK4 proved Slide',
      'TD1 proved ',
      'TD5 proved Trot',
      'TD7 proved ',
    ]);
    const glide = findings.find((f) => f.code === 'IN2')!;
    expect(glide.sentence).toContain('`falling` and `grounded`');
    expect(glide.sentence).not.toContain('held');
  });

  it('mending the guard makes the finding go, and no other changes', () => {
    const draft = sample('courier-draft.yaml');
    const before = structuralFindings(machineOf(draft)).map((f) => f.fingerprint);
    const after = structuralFindings(machineOf(draft.replace('falling and grounded', 'falling'))).map(
      (f) => f.fingerprint,
    );
    expect(after).toEqual(before.filter((f) => !f.startsWith('IN2')));
  });
});

/** A guard over the facts of a small machine, as text: many of them cannot hold, and some only because of a law. */
const guardText: fc.Arbitrary<string> = fc.letrec<{ guard: string }>((tie) => ({
  guard: fc.oneof(
    { depthSize: 'small' },
    fc.constantFrom(
      'grounded',
      'airborne',
      'rising',
      'falling',
      'pressed(hop)',
      'held(hop)',
      'released(hop)',
      'running(t)',
      'done(t)',
      'ready(c)',
      'in(S)',
      'in(T)',
      'wet',
      'false',
      'true',
    ),
    fc
      .tuple(
        fc.constantFrom('vy', 'vx', 'speed'),
        fc.constantFrom('<', '<=', '>', '>=', '=', '!='),
        fc.integer({ min: -2, max: 2 }),
      )
      .map(([f, op, n]) => `${f} ${op} ${n} m/s`),
    fc
      .tuple(
        fc.constantFrom('n', 'charges(c)', 'wall', 'axis(move)'),
        fc.constantFrom('<', '<=', '>', '>=', '=', '!='),
        fc.integer({ min: -1, max: 3 }),
      )
      .map(([f, op, n]) => `${f} ${op} ${n}`),
    fc
      .tuple(
        fc.constantFrom('elapsed', 'left(t)', 'airtime'),
        fc.constantFrom('<', '<=', '>', '>='),
        fc.integer({ min: 0, max: 4 }),
      )
      .map(([f, op, n]) => `${f} ${op} ${n} ticks`),
    fc
      .tuple(fc.integer({ min: 1, max: 3 }), fc.constantFrom('<', '>='), fc.integer({ min: -3, max: 3 }))
      .map(([k, op, n]) => `2 m/s - ${k} * vy ${op} ${n} m/s`),
    fc.tuple(tie('guard'), tie('guard')).map(([a, b]) => `(${a} and ${b})`),
    fc.tuple(tie('guard'), tie('guard')).map(([a, b]) => `(${a} or ${b})`),
    tie('guard').map((a) => `(not ${a})`),
    fc.tuple(tie('guard'), tie('guard'), tie('guard')).map(([a, b, c]) => `(if ${a} then ${b} else ${c})`),
    fc
      .tuple(tie('guard'), fc.constantFrom('within', 'for'), fc.integer({ min: 1, max: 3 }))
      .map(([a, mode, n]) => `((${a}) ${mode} ${n} ticks)`),
  ),
})).guard;

const guarded = (guard: string): string =>
  movesetText({
    states:
      '      S: { stance: tall, motion: { drive: { to: axis(move) * 2 m/s, gain: 30 m/s2 } } }\n      T: { stance: tall, motion: { drive: { to: axis(move) * 2 m/s, gain: 30 m/s2 } } }',
    crossings: `      - { from: S, to: T, when: ${JSON.stringify(guard)} }
      - { from: S, to: T, when: pressed(dash), do: ["vy := 2 m/s", start t, spend c, "wet := true", spend n], rank: -9 }
      - { from: T, to: S, when: pressed(dash) }`,
    extra:
      'timers: { t: { length: 3 ticks } }\ncooldowns: { c: { charges: 2, recharge: 4 ticks } }\nvariables: { n: { count: 2, max: 2, refill: falling }, wet: { flag: false } }',
    initial: 'S',
  });

describe('the guard solver', () => {
  it('never says that what happens cannot: whatever holds in a run may hold', () => {
    const course = courseOf(FLOOR);
    let checked = 0;
    fc.assert(
      fc.property(
        guardText,
        fc.array(fc.tuple(fc.constantFrom(-1, 0, 1), fc.nat(1), fc.nat(1)), { minLength: 20, maxLength: 40 }),
        (guard, inputs) => {
          const machine = machineOf(guarded(guard));
          const crossing = machine.lanes[0]!.crossings[0]!;
          const shut = shutGuard(machine, crossing, constantFacts(machine));
          const world = buildWorld(course, machine.stances);
          const trace = play(machine, world, { x: 0, y: 0.1, facing: 1 }, inputs);
          const held = trace.records.some(
            (r) => r.leavesBefore[0] === 0 && evaluate(crossing.when!, r.facts) !== 0,
          );
          if (held) {
            checked++;
            expect(shut, guard).toBeUndefined();
          }
        },
      ),
      { numRuns: 1500 },
    );
    expect(checked).toBeGreaterThan(200);
  });

  it.each([
    ['falling and grounded', ['falling', 'grounded']],
    ['held(hop) and vx > 3 m/s and vx < 2 m/s and falling', ['vx > 3 m/s', 'vx < 2 m/s']],
    ['pressed(hop) and not held(hop)', ['pressed(hop)', 'not held(hop)']],
    ['rising and vy < -1 m/s', ['rising', 'vy < -1 m/s']],
    ['n > 2', ['n > 2']],
    ['charges(c) < 1 and ready(c)', ['charges(c) < 1', 'ready(c)']],
    ['elapsed > 3 ticks and elapsed < 4 ticks', ['elapsed > 3 ticks', 'elapsed < 4 ticks']],
    ['done(t) and left(t) > 0 s', ['done(t)', 'left(t) > 0 s']],
    ['in(T) and grounded', ['in(T)']],
  ])('%s: the smallest set of terms that exclude each other', (guard, terms) => {
    const machine = machineOf(guarded(guard));
    expect(shutGuard(machine, machine.lanes[0]!.crossings[0]!, constantFacts(machine))?.terms).toEqual(terms);
  });
});

describe('what nobody does', () => {
  const shutBy = (guard: string, extra: string, controls = ''): string[] | undefined => {
    const text = movesetText({
      states: '      S: {}\n      T: {}',
      crossings: `      - { from: S, to: T, when: ${guard} }\n      - { from: T, to: S, when: pressed(hop) }`,
      extra,
      initial: 'S',
    }).replace('  hop:', `${controls}  hop:`);
    const machine = machineOf(text);
    const shut = shutGuard(machine, machine.lanes[0]!.crossings[0]!, constantFacts(machine));
    return shut?.constants.map(constantWords);
  };

  it.each([
    ['wet', 'variables: { wet: { flag: false } }', 'nothing ever sets wet'],
    ['done(t)', 'timers: { t: { length: 1 s } }', 'nothing ever starts t'],
    ['n > 1', 'variables: { n: { count: 1, max: 3 } }', 'nothing ever gives n back'],
  ])('%s is shut: %s', (guard, extra, because) => {
    expect(shutBy(guard, extra)).toEqual([because]);
  });

  it('a control without a key', () => {
    expect(shutBy('axis(lean) > 0', '', '  lean: { axis: {} }\n')).toEqual([
      'the control lean has no key or pad bound to it',
    ]);
  });
});

describe('structure', () => {
  it('sees ways in and out through groups and from everywhere', () => {
    const text = movesetText({
      states: '      A: {}\n      G: { initial: B, states: { B: {}, C: {} } }\n      D: {}',
      crossings:
        '      - { from: A, to: G, when: pressed(hop) }\n      - { from: "*", to: A, when: pressed(dash) }',
      initial: 'A',
    });
    expect(structuralFindings(machineOf(text)).map((f) => `${f.code} ${f.state}`)).toEqual([
      'IN1 C',
      'IN1 D',
    ]);
  });

  it('does not call a final state stuck, nor the only state of a lane', () => {
    expect(
      structuralFindings(
        machineOf(
          movesetText({
            states: '      A: {}\n      B: { final: true }',
            crossings: '      - { from: A, to: B, when: pressed(hop) }',
            initial: 'A',
          }),
        ),
      ),
    ).toEqual([]);
    expect(structuralFindings(machineOf(movesetText({ states: '      A: {}', initial: 'A' })))).toEqual([]);
  });

  it('a state it calls impossible to enter is never entered by random play', () => {
    const machine = machineOf(sample('courier-draft.yaml'));
    const shut = structuralFindings(machine)
      .filter((f) => /^IN[123]$/.test(f.code))
      .map((f) => f.state);
    const stuck = structuralFindings(machine)
      .filter((f) => f.code.startsWith('OUT'))
      .map((f) => f.state);
    const course = readCourse(sample('mill-yard.yaml')).course!;
    const world = buildWorld(course, machine.stances);
    fc.assert(
      fc.property(
        fc.constantFrom(...course.spawns),
        fc.array(fc.tuple(fc.constantFrom(-1, 0, 1), fc.nat(1), fc.nat(1), fc.nat(1), fc.nat(1)), {
          minLength: 60,
          maxLength: 120,
        }),
        (spawn, inputs) => {
          const s = startSituation(machine, world, spawn);
          let before = '';
          for (const input of inputs) {
            tick(machine, world, s, input);
            const name = machine.states[s.leaves[0]!]!.name;
            expect(shut).not.toContain(name);
            if (stuck.includes(before)) expect(name).toBe(before);
            before = name;
          }
          expect(() =>
            sense(machine, world, s, inputs[0]!, new Float64Array(machine.facts.refs.length)),
          ).not.toThrow();
        },
      ),
      { numRuns: 60 },
    );
  });
});
