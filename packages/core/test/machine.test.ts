import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { authorText, type Machine, readMoveset, startSituation, tick } from '@glenmark/core/machine';
import type { play } from '@glenmark/core/run';
import { buildWorld } from '@glenmark/core/world';
import { courseOf, FLOOR, machineOf, movesetText, playInputs, statesOf } from './helpers.js';

const floor = courseOf(FLOOR);

/** A variable's value after each tick. */
const valuesOf = (machine: Machine, trace: ReturnType<typeof play>, name: string): number[] => {
  const index = machine.variables.findIndex((v) => v.name === name);
  return trace.records.map((r) => r.variables[index]!);
};

describe('deciding', () => {
  const two = (rankA: number, rankB: number): string =>
    movesetText({
      states: '      S: {}\n      A: {}\n      B: {}',
      crossings: `      - { from: S, to: A, when: pressed(hop), rank: ${rankA} }\n      - { from: S, to: B, when: pressed(hop), rank: ${rankB} }`,
      initial: 'S',
    });

  it.each([
    [0, 0, 'A', 1],
    [0, 1, 'B', 0],
    [1, 0, 'A', 0],
  ])('ranks %i and %i take %s, and tie %i times', (a, b, taken, ties) => {
    const trace = playInputs(machineOf(two(a, b)), floor, 3, () => ({ hop: 1 }));
    expect(statesOf(trace)).toEqual([taken, taken, taken]);
    expect(trace.records.flatMap((r) => r.ties)).toHaveLength(ties);
  });

  it('asks the inner state before its groups, whatever the rank', () => {
    const text = movesetText({
      states: '      G:\n        initial: S\n        states: { S: {}, T: {} }\n      Out: {}',
      crossings:
        '      - { from: G, to: Out, when: pressed(hop), rank: 9 }\n      - { from: S, to: T, when: pressed(hop) }',
      initial: 'G',
    });
    expect(statesOf(playInputs(machineOf(text), floor, 4, (t) => ({ hop: Number(t !== 1) })))).toEqual([
      'T',
      'T',
      'Out',
      'Out',
    ]);
  });

  it('does not take a crossing from everywhere or a group back to where it is, unless it says reenter', () => {
    const text = (reenter: boolean): string =>
      movesetText({
        states: '      S: { enter: [visits += 1] }\n      T: {}',
        crossings: `      - { from: "*", to: S, when: held(hop), reenter: ${reenter} }`,
        extra: 'variables: { visits: { number: 0 } }',
        initial: 'T',
      });
    const visits = (reenter: boolean): number => {
      const machine = machineOf(text(reenter));
      return valuesOf(
        machine,
        playInputs(machine, floor, 5, () => ({ hop: 1 })),
        'visits',
      )[4]!;
    };
    expect(visits(false)).toBe(1);
    expect(visits(true)).toBe(5);
  });

  it('lets lanes decide on one snapshot, and events be seen in the next tick', () => {
    const text = movesetText({
      states: '      S: {}\n      A: { enter: [raise called] }',
      crossings: '      - { from: S, to: A, when: pressed(hop) }',
      initial: 'S',
      lanes: `  - name: other
    initial: Wait
    states: { Wait: {}, Heard: {}, Saw: {} }
    crossings:
      - { from: Wait, to: Heard, when: event(called) }
      - { from: Wait, to: Saw, when: in(A), rank: 1 }`,
    });
    const trace = playInputs(machineOf(text), floor, 4, (t) => ({ hop: Number(t === 1) }));
    expect(statesOf(trace)).toEqual(['S', 'A', 'A', 'A']);
    expect(statesOf(trace, 1)).toEqual(['Wait', 'Wait', 'Saw', 'Saw']);
  });

  it('refuses a crossing into a stance that does not fit, or enters and waits when told to', () => {
    const roofed = courseOf(`${FLOOR}\n  - { box: [[2 m, 1 m], [6 m, 3 m]] }`);
    const text = (policy: string): string =>
      movesetText({
        states: `      Low: { stance: low, motion: { drive: { to: 4 m/s, instant: true } } }\n      Tall: { stance: tall, ifBlocked: ${policy}, motion: { drive: { to: 4 m/s, instant: true } } }`,
        crossings: '      - { from: Low, to: Tall, when: pressed(hop) within 10 s }',
        initial: 'Low',
      });
    const at = { x: 3, y: 0, facing: 1 as const };
    const refused = playInputs(machineOf(text('refuse')), roofed, 90, (t) => ({ hop: Number(t === 0) }), at);
    const waited = playInputs(machineOf(text('wait')), roofed, 90, (t) => ({ hop: Number(t === 0) }), at);
    // Out from under the roof when the feet are 0.35 m past its end at 6 m: after 3.35 m at 4 m/s.
    const out = Math.ceil((3.35 / 4) * 60);
    expect(statesOf(refused).indexOf('Tall')).toBeGreaterThanOrEqual(out - 1);
    expect(statesOf(refused).indexOf('Tall')).toBeLessThanOrEqual(out + 2);
    expect(statesOf(waited)[0]).toBe('Tall');
    expect(waited.records[0]!.stance).not.toBe(waited.records[0]!.wanted);
    const grown = waited.records.findIndex((r) => r.stance === r.wanted);
    expect(Math.abs(grown - out)).toBeLessThanOrEqual(2);
  });

  it('does not offer a crossing whose ability is locked, until something unlocks it', () => {
    const text = movesetText({
      states: '      S: {}\n      T: {}',
      crossings: '      - { from: S, to: T, when: held(hop), ability: gliding }',
      extra: 'abilities: { gliding: { locked: true } }',
      initial: 'S',
      lanes: `  - name: keys
    initial: Shut
    states: { Shut: {}, Open: { enter: [unlock gliding] } }
    crossings: [{ from: Shut, to: Open, when: pressed(dash) }]`,
    });
    const trace = playInputs(machineOf(text), floor, 8, (t) => ({ hop: 1, dash: Number(t === 4) }));
    expect(statesOf(trace)).toEqual(['S', 'S', 'S', 'S', 'S', 'T', 'T', 'T']);
  });
});

describe('acting', () => {
  it('exits inner to outer, does, enters outer to inner', () => {
    const mark = (digit: number): string => `[order := order * 10 + ${digit}]`;
    const text = movesetText({
      states: `      G: { initial: A, exit: ${mark(2)}, states: { A: { exit: ${mark(1)} } } }\n      H: { initial: B, enter: ${mark(4)}, states: { B: { enter: ${mark(5)} } } }`,
      crossings: `      - { from: A, to: H, when: pressed(hop), do: ${mark(3)} }`,
      extra: 'variables: { order: { number: 0 } }',
      initial: 'G',
    });
    const machine = machineOf(text);
    expect(
      valuesOf(
        machine,
        playInputs(machine, floor, 2, (t) => ({ hop: Number(t === 1) })),
        'order',
      )[1],
    ).toBe(12345);
  });

  it('enters the initial states before the first tick', () => {
    const machine = machineOf(
      movesetText({
        states: '      S: { enter: [n := 7] }',
        extra: 'variables: { n: { number: 0 } }',
        initial: 'S',
      }),
    );
    expect(
      valuesOf(
        machine,
        playInputs(machine, floor, 1, () => ({})),
        'n',
      ),
    ).toEqual([7]);
  });

  it('leaves passing states in the same tick, at most eight in a row', () => {
    const chain = Array.from({ length: 12 }, (_, i) => `      P${i}: { passing: true }`).join('\n');
    const crossings = Array.from({ length: 11 }, (_, i) => `      - { from: P${i}, to: P${i + 1} }`).join(
      '\n',
    );
    const trace = playInputs(
      machineOf(
        movesetText({
          states: `      S: {}\n${chain}`,
          crossings: `      - { from: S, to: P0, when: pressed(hop) }\n${crossings}`,
          initial: 'S',
        }),
      ),
      floor,
      1,
      () => ({ hop: 1 }),
    );
    expect(statesOf(trace)).toEqual(['P7']);
    expect(trace.records[0]!.taken).toHaveLength(8);
  });

  it('goes back to the last state of a group that resumes', () => {
    const text = movesetText({
      states: '      G: { initial: A, resume: last, states: { A: {}, B: {} } }\n      Out: {}',
      crossings:
        '      - { from: A, to: B, when: pressed(hop) }\n      - { from: G, to: Out, when: pressed(dash) }\n      - { from: Out, to: G, when: released(dash) }',
      initial: 'G',
    });
    expect(
      statesOf(
        playInputs(machineOf(text), floor, 4, (t) => ({
          hop: Number(t === 0),
          dash: Number(t === 1 || t === 2),
        })),
      ),
    ).toEqual(['B', 'Out', 'Out', 'B']);
  });

  it('spends a press: it opens no second crossing through within', () => {
    const text = (spentBy: string): string =>
      movesetText({
        states: '      A: {}\n      B: {}\n      C: {}',
        crossings: `      - { from: A, to: B, when: ${spentBy} }\n      - { from: B, to: C, when: pressed(hop) within 0.5 s }`,
        initial: 'A',
      });
    const end = (spentBy: string): string =>
      statesOf(playInputs(machineOf(text(spentBy)), floor, 10, (t) => ({ hop: Number(t === 2) })))[9]!;
    expect(end('pressed(hop)')).toBe('B');
    expect(end('pressed(hop) within 0.2 s')).toBe('B');
    expect(end('held(hop)')).toBe('C');
  });

  it('records who wrote a channel, and which write was lost', () => {
    const text = movesetText({
      states:
        '      S: { motion: { drive: { to: 3 m/s, instant: true } } }\n      T: { enter: [vx := 9 m/s], motion: { hold: { vx: 1 m/s } } }',
      crossings: '      - { from: S, to: T, when: pressed(hop) }',
      initial: 'S',
    });
    const machine = machineOf(text);
    const trace = playInputs(machine, floor, 2, (t) => ({ hop: Number(t === 1) }));
    expect(
      trace.records[1]!.writes.filter((w) => w.channel === 'vx').map((w) => [
        authorText(machine, w.author),
        w.replaces,
        w.value,
      ]),
    ).toEqual([
      ['T enter', true, 9],
      ['T hold', true, 1],
    ]);
  });
});

describe('clocks', () => {
  const timed = (timer: string, again = ''): string =>
    movesetText({
      states: '      S: {}\n      T: { each: [spins += 1] }',
      crossings: `      - { from: S, to: T, when: pressed(hop), do: [start t] }\n      - { from: T, to: T, when: pressed(hop), do: [start t] }\n      - { from: T, to: S, when: done(t) }`,
      extra: `timers: { t: { length: ${timer}${again} } }\nvariables: { spins: { number: 0 } }`,
      initial: 'S',
    });

  it('a timer of n ticks is done n ticks after it was started, at every rate', () => {
    fc.assert(
      fc.property(fc.constantFrom(30, 50, 60, 120, 144), fc.integer({ min: 1, max: 60 }), (rate, n) => {
        const trace = playInputs(machineOf(timed(`${n} ticks`), rate), floor, n + 5, (t) => ({
          hop: Number(t === 2),
        }));
        expect(statesOf(trace).filter((s) => s === 'T')).toHaveLength(n);
      }),
      { numRuns: 40 },
    );
  });

  it.each([
    ['restart', 20 + 30],
    ['ignore', 30],
    ['extend', 60],
  ])('started again after 20 of 30 ticks, %s', (again, lasts) => {
    const trace = playInputs(machineOf(timed('30 ticks', `, again: ${again}`)), floor, 80, (t) => ({
      hop: Number(t === 0 || t === 20),
    }));
    expect(statesOf(trace).filter((s) => s === 'T')).toHaveLength(lasts);
  });

  it('stands still while runs is false', () => {
    const trace = playInputs(machineOf(timed('10 ticks', ', runs: not held(dash)')), floor, 60, (t) => ({
      hop: Number(t === 0),
      dash: Number(t >= 5 && t < 12),
    }));
    expect(statesOf(trace).filter((s) => s === 'T')).toHaveLength(17);
  });

  const cooled = (cooldown: string): Machine =>
    machineOf(
      movesetText({
        states: '      S: {}\n      D: {}',
        crossings:
          '      - { from: S, to: D, when: pressed(dash) and ready(c), do: [spend c] }\n      - { from: D, to: S, when: elapsed >= 4 ticks }',
        extra: `cooldowns: { c: { ${cooldown} } }`,
        initial: 'S',
      }),
    );
  const chargesOf = (cooldown: string, dashes: number[], ticks: number): number[] =>
    playInputs(cooled(cooldown), floor, ticks, (t) => ({ dash: Number(dashes.includes(t)) })).records.map(
      (r) => r.charges[0]!,
    );

  it('recharges one by one', () => {
    const charges = chargesOf('charges: 2, recharge: 20 ticks', [0, 10], 60);
    expect([charges[0], charges[10], charges[19], charges[20], charges[39], charges[40]]).toEqual([
      1, 0, 0, 1, 1, 2,
    ]);
  });

  it('recharges together', () => {
    const charges = chargesOf('charges: 2, recharge: 20 ticks, order: together', [0, 10], 60);
    expect([charges[10], charges[19], charges[20]]).toEqual([0, 0, 2]);
  });

  it('starts recharging when the state that spent is left', () => {
    const charges = chargesOf('recharge: 20 ticks, from: exit', [0], 40);
    expect(charges.indexOf(1)).toBe(24);
  });

  it('is refilled while its condition holds', () => {
    expect(chargesOf('charges: 2, recharge: 5 s, refill: grounded', [0], 3)).toEqual([1, 2, 2]);
  });

  it('refills a count on the ground and never lets it go below zero', () => {
    const text = movesetText({
      states: '      S: { each: [spend n] }',
      extra: 'variables: { n: { count: 3, max: 3 } }',
      initial: 'S',
    });
    const machine = machineOf(text);
    expect(
      valuesOf(
        machine,
        playInputs(machine, floor, 5, () => ({})),
        'n',
      ),
    ).toEqual([2, 1, 0, 0, 0]);
  });

  it('within and for look back over whole ticks', () => {
    const text = (guard: string): string =>
      movesetText({
        states: '      S: {}\n      T: {}',
        crossings: `      - { from: S, to: T, when: ${guard} }`,
        initial: 'S',
      });
    const entered = (guard: string): number =>
      statesOf(
        playInputs(machineOf(text(guard)), floor, 40, (t) => ({
          hop: Number(t >= 3 && t < 12),
          dash: Number(t === 14),
        })),
      ).indexOf('T');
    expect(entered('held(hop) for 5 ticks')).toBe(7);
    expect(entered('held(hop) for 10 ticks')).toBe(-1);
    expect(entered('held(dash) and held(hop) within 4 ticks')).toBe(14);
    expect(entered('held(dash) and held(hop) within 3 ticks')).toBe(-1);
    expect(entered('not held(hop) for 4 ticks')).toBe(15);
  });
});

describe('errors in meaning', () => {
  const base = { states: '      S: {}', initial: 'S' };
  it.each([
    [
      'a group without members',
      { states: '      S: {}\n      G: { initial: S, states: {} }', initial: 'S' },
      /without members/,
    ],
    [
      'a group that does not say where it starts',
      { states: '      G: { states: { S: {} } }', initial: 'G' },
      /does not say 'initial'/,
    ],
    [
      'two states of one name',
      { states: '      S: {}\n      G: { initial: S, states: { S: {} } }', initial: 'S' },
      /a second state is called 'S'/,
    ],
    [
      'a stance that is not there',
      { states: '      S: { stance: tal }', initial: 'S' },
      /no stance is called 'tal', did you mean 'tall'/,
    ],
    [
      'an effect that is not there',
      { states: '      S: { enter: [strat t] }', initial: 'S' },
      /no effect is called 'strat', did you mean 'start'/,
    ],
    [
      'a drive without a gain',
      { states: '      S: { motion: { drive: { to: 3 m/s } } }', initial: 'S' },
      /'gain' is missing/,
    ],
    ['a name of the notation', { ...base, extra: 'dials: { grounded: 3 m/s }' }, /a word of the notation/],
    [
      'a count above its max',
      { ...base, extra: 'variables: { n: { count: 5, max: 3 } }' },
      /at most its max/,
    ],
    ['a timer of no time', { ...base, extra: 'timers: { t: { length: 0 s } }' }, /expected at least one/],
    [
      'a walkable angle beyond a wall',
      { states: '      S: { motion: { ground: { walkable: 85 deg } } }', initial: 'S' },
      /at most 80 deg/,
    ],
    [
      'an initial state that is not there',
      { states: '      S: {}', initial: 'T' },
      /no state here is called 'T'/,
    ],
    [
      'a write to a fact',
      { states: '      S: { enter: ["height := 3 m"] }', initial: 'S' },
      /cannot be written/,
    ],
  ])('%s', (_, parts, message) => {
    const { machine, diagnostics } = readMoveset(movesetText(parts));
    expect(machine).toBeUndefined();
    expect(diagnostics.map((d) => d.message).join('\n')).toMatch(message);
    expect(diagnostics[0]!.line).toBeGreaterThan(1);
  });
});

describe('determinism', () => {
  it('the same situation and input give the same tick, bit for bit, also from a copy', () => {
    const machine = machineOf(
      movesetText({
        states:
          '      Walk: { stance: tall, each: [face move], motion: { drive: { to: axis(move) * 6 m/s, gain: 60 m/s2 } } }\n      Rise: { stance: low, motion: { drive: { to: facing * 6 m/s, gain: 30 m/s2 } } }',
        crossings:
          '      - { from: Walk, to: Rise, when: pressed(hop) within 3 ticks and ready(c), do: ["vy := 8 m/s", spend c] }\n      - { from: Rise, to: Walk, when: grounded }',
        extra: 'cooldowns: { c: { charges: 2, recharge: 0.3 s } }',
        initial: 'Walk',
      }),
    );
    const world = buildWorld(floor, machine.stances);
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.constantFrom(-1, 0, 1), fc.nat(1), fc.nat(1)), { minLength: 1, maxLength: 80 }),
        (inputs) => {
          let a = startSituation(machine, world, floor.spawns[0]!);
          for (const input of inputs) {
            const b = structuredClone(a);
            const first = tick(machine, world, a, input);
            const second = tick(machine, world, b, input);
            expect(b).toEqual(a);
            expect(second.facts).toEqual(first.facts);
            a = b;
          }
        },
      ),
      { numRuns: 40 },
    );
  });
});
