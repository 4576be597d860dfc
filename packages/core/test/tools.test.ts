import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { tidyFindings } from '@glenmark/core/findings';
import { findUses, readMoveset, rename, unitVector } from '@glenmark/core/machine';
import { complete, type SymbolKind, type Scope, SPEED, TRUTH } from '@glenmark/core/notation';
import { play } from '@glenmark/core/run';
import { buildWorld, readCourse } from '@glenmark/core/world';
import { courseOf, FLOOR, machineOf, movesetText, playInputs, sample, statesOf } from './helpers.js';

const courier = sample('courier.yaml');
const machine = machineOf(courier);

describe('rename and uses', () => {
  const things: [SymbolKind, string][] = [
    ['state', 'Slide'],
    ['state', 'Aloft'],
    ['state', 'Trot'],
    ['stance', 'upright'],
    ['dial', 'trotSpeed'],
    ['dial', 'hopSpeed'],
    ['variable', 'hopsLeft'],
    ['timer', 'slideTime'],
    ['cooldown', 'gusts'],
    ['ability', 'parasol'],
    ['button', 'hop'],
    ['axis', 'move'],
  ];

  it.each(things)(
    'the %s %s under another name loads, runs the same, and can be renamed back',
    (kind, name) => {
      const renamed = rename(courier, machine, kind, name, 'Zeta9');
      const { machine: after, diagnostics } = readMoveset(renamed);
      expect(diagnostics.filter((d) => d.severity === 'error')).toEqual([]);
      expect(findUses(after!, kind, 'Zeta9')).toHaveLength(findUses(machine, kind, name).length);
      expect(findUses(after!, kind, name)).toEqual([]);
      expect(rename(renamed, after!, kind, 'Zeta9', name)).toBe(
        rename(courier, machine, 'event', 'none', 'none'),
      );
      const course = readCourse(sample('mill-yard.yaml')).course!;
      const inputs = Array.from({ length: 120 }, (_, t) => [
        1,
        Number(t % 40 < 8),
        Number(t > 60),
        Number(t % 50 === 20),
      ]);
      const traceOf = (m: typeof machine) =>
        play(m, buildWorld(course, m.stances), course.spawns[0]!, inputs).records.map((r) => r.body);
      expect(traceOf(after!)).toEqual(traceOf(machine));
    },
  );

  it('finds uses where they are', () => {
    const uses = findUses(machine, 'timer', 'slideTime').map(
      ({ path, span }) => `${path.join('.')}${span === undefined ? '' : `:${span.start}`}`,
    );
    expect(uses).toEqual([
      'lanes.0.states.Slide.motion.drive.to:21',
      'lanes.0.states.Slide.enter.0:6',
      'lanes.0.crossings.7.when:5',
    ]);
  });
});

describe('completion', () => {
  const names: Record<string, string[]> = { button: ['hop', 'tuck'], timer: ['slideTime'], state: ['Trot'] };
  const scope: Scope = {
    rate: 60,
    pixel: undefined,
    constant: (name) => (name === 'trotSpeed' ? { dimension: SPEED, value: 6 } : undefined),
    variable: () => undefined,
    things: (kind) => names[kind] ?? [],
    names: () => ['trotSpeed'],
    slot: () => 0,
    memory: () => 0,
    elapsed: { fact: 'elapsed' },
  };
  const at = (marked: string, wanted = TRUTH): string[] =>
    complete(marked.replace('|', ''), marked.indexOf('|'), scope, wanted).items.map((i) => i.text);

  it('knows the place: things inside a fact, units after a number, values elsewhere', () => {
    expect(at('pressed(|)')).toEqual(['hop', 'tuck']);
    expect(at('vx > 3 |')).toContain('m/s');
    expect(at('gro|')).toEqual(['grounded']);
    expect(at('vx > tr|', SPEED)).toEqual(['trotSpeed', 'true']);
    expect(at('held(hop) and pre|')).toEqual(['pressed(hop)', 'pressed(tuck)']);
  });

  it('puts what has the wanted dimension first', () => {
    const items = complete('', 0, scope, SPEED).items;
    expect(
      items
        .slice(0, 4)
        .map((i) => i.text)
        .sort(),
    ).toEqual(['speed', 'trotSpeed', 'vx', 'vy']);
  });

  it('says which word it replaces', () => {
    expect(complete('vx > trotSp and x', 9, scope)).toMatchObject({ start: 5, end: 11 });
  });
});

describe('the rest of the format', () => {
  it('an aim points, to the last place of a double', () => {
    fc.assert(
      fc.property(fc.double({ min: -180, max: 180, noNaN: true }), (degrees) => {
        const { x, y } = unitVector(degrees);
        expect(x).toBeCloseTo(Math.cos((degrees * Math.PI) / 180), 14);
        expect(y).toBeCloseTo(Math.sin((degrees * Math.PI) / 180), 14);
      }),
    );
    expect(unitVector(90)).toEqual({ x: -0, y: 1 });
  });

  it('a blend grows step by step, and waits where there is no room for the next', () => {
    const text = movesetText({
      states: '      Low: { stance: low }\n      Tall: { stance: tall, ifBlocked: wait }',
      crossings: '      - { from: Low, to: Tall, when: pressed(hop) }',
      initial: 'Low',
    }).replace('height: 1.7 m }', 'height: 1.7 m, blend: 10 ticks }');
    const heights = (solids: string): number[] => {
      const m = machineOf(text);
      return playInputs(m, courseOf(solids), 14, (t) => ({ hop: Number(t === 1) })).records.map((r) =>
        Number(m.stances[r.stance]!.top.toFixed(6)),
      );
    };
    expect(heights(FLOOR)).toEqual([
      0.8, 0.89, 0.98, 1.07, 1.16, 1.25, 1.34, 1.43, 1.52, 1.61, 1.7, 1.7, 1.7, 1.7,
    ]);
    const roofed = heights(`${FLOOR}\n  - { box: [[-2 m, 1.2 m], [2 m, 3 m]] }`);
    expect(roofed[13]).toBe(1.16);
  });

  it('a tag changes with the time in a state, and is inherited', () => {
    const m = machineOf(
      movesetText({
        states:
          '      G:\n        initial: S\n        tag: [{ tag: launch, until: 0.1 s }, { tag: rise }]\n        states: { S: {}, T: { tag: other } }',
        initial: 'G',
      }),
    );
    expect(m.states.find((s) => s.name === 'S')!.tags).toEqual([
      { tag: 'launch', until: 6 },
      { tag: 'rise', until: Infinity },
    ]);
    expect(m.states.find((s) => s.name === 'T')!.tags).toEqual([{ tag: 'other', until: Infinity }]);
  });

  it('a lane leaves to others what it yields, and only while they write it', () => {
    const text = (yields: string): string =>
      movesetText({
        states: '      S: { motion: { drive: { to: 3 m/s, instant: true } } }',
        initial: 'S',
        lanes: `  - name: wind
    initial: Calm
    states: { Calm: {}, Gale: { motion: { hold: { vx: 9 m/s } } } }
    crossings: [{ from: Calm, to: Gale, when: held(dash) }, { from: Gale, to: Calm, when: not held(dash) }]`,
      }).replace('    initial: S\n', `    initial: S\n${yields}`);
    const speeds = (yields: string): number[] =>
      playInputs(machineOf(text(yields)), courseOf(FLOOR), 6, (t) => ({
        dash: Number(t === 2 || t === 3),
      })).records.map((r) => r.body.vx);
    expect(speeds('    yields: [vx]\n')).toEqual([3, 3, 9, 9, 3, 3]);
    const writers = (yields: string): number =>
      playInputs(machineOf(text(yields)), courseOf(FLOOR), 3, () => ({ dash: 1 })).records[2]!.writes.filter(
        (w) => w.channel === 'vx',
      ).length;
    expect([writers(''), writers('    yields: [vx]\n')]).toEqual([2, 1]);
  });

  it('parts that a state switches off are off, and at least one must stay', () => {
    const text = (without: string): string =>
      movesetText({ states: `      S: { stance: split, without: ${without} }`, initial: 'S' }).replace(
        '    low:',
        '    split: { parts: { legs: { shape: box, width: 1 m, height: 1 m }, head: { shape: box, width: 1 m, height: 1 m, offset: [0 m, 1 m] } } }\n    low:',
      );
    const m = machineOf(text('head'));
    expect(m.stances[m.states[0]!.stance]).toMatchObject({ name: 'split without head', top: 1 });
    expect(readMoveset(text('[head, legs]')).diagnostics[0]!.message).toMatch(
      /at least one that stays solid/,
    );
    expect(readMoveset(text('hat')).diagnostics[0]!.message).toMatch(
      /has no part 'hat', did you mean 'head'/,
    );
  });

  it('what is declared and never used loads all the same, and is told', () => {
    const { machine: m, diagnostics } = readMoveset(
      movesetText({
        states: '      S: {}',
        initial: 'S',
        extra: 'cooldowns: { c: { recharge: 1 s } }\ntimers: { t: { length: 1 s } }\nabilities: { a: {} }',
      }),
    );
    expect(m).toBeDefined();
    expect(diagnostics).toEqual([]);
    expect(tidyFindings(m!).map((f) => f.fingerprint)).toEqual(
      expect.arrayContaining([
        'TD1/timer/t',
        'TD1/cooldown/c',
        'TD1/ability/a',
        'TD1/control/hop',
        'TD2/timer/t',
        'TD2/cooldown/c',
      ]),
    );
  });

  it('a probe tells what it hits by its tag', () => {
    const text = movesetText({
      states:
        '      S: { stance: tall, motion: { drive: { to: 6 m/s, instant: true } } }\n      T: { stance: tall }\n      U: { stance: tall }',
      crossings:
        '      - { from: S, to: T, when: "hits(brow, straw)" }\n      - { from: S, to: U, when: "hits(brow,stone)" }',
      initial: 'S',
    }).replace(/( {4}low: .*\n)/, '$1  probes:\n    brow: { from: [0 m, 1 m], toward: ahead, reach: 1 m }\n');
    const end = (tag: string): string =>
      statesOf(
        playInputs(
          machineOf(text),
          courseOf(`${FLOOR}\n  - { box: [[5 m, 0 m], [6 m, 3 m]], tag: ${tag} }`),
          60,
          () => ({}),
        ),
      )[59]!;
    expect([end('straw'), end('stone'), end('plank')]).toEqual(['T', 'U', 'S']);
    expect(readMoveset(text.replace('hits(brow, straw)', 'hits(brow)')).diagnostics[0]!.message).toMatch(
      /found 1 argument, expected a probe and a tag/,
    );
    expect(readMoveset(rename(text, machineOf(text), 'probe', 'brow', 'eye')).machine).toBeDefined();
  });

  it('memories work in the conditions of clocks too', () => {
    const text = movesetText({
      states: '      S: {}\n      T: {}',
      crossings:
        '      - { from: S, to: T, when: n > 0 }\n      - { from: T, to: S, when: pressed(dash), do: [spend n] }',
      initial: 'S',
      extra: 'variables: { n: { count: 0, max: 1, refill: held(hop) for 4 ticks } }',
    });
    expect(statesOf(playInputs(machineOf(text), courseOf(FLOOR), 8, () => ({ hop: 1 }))).indexOf('T')).toBe(
      3,
    );
  });
});
