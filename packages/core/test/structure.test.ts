import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { structuralFindings } from '@glenmark/core/findings';
import { createFast, startFast, step } from '@glenmark/core/machine';
import { buildWorld, readCourse } from '@glenmark/core/world';
import { machineOf, movesetText } from './helpers.js';
import { randomCase } from './random-moveset.js';

const findingsOf = (crossings: string, extra = '', states = '') =>
  structuralFindings(
    machineOf(
      movesetText({
        states: `      A: { stance: tall }\n      B: { stance: tall }\n      C: { stance: tall }\n${states}`,
        crossings: `${crossings}\n      - { from: [B, C], to: A, when: not held(hop) }`,
        initial: 'A',
        extra,
      }),
    ),
  );
const told = (crossings: string, extra = '', states = ''): string[] =>
  findingsOf(crossings, extra, states).map((f) => `${f.code} ${f.state}`);

describe('a crossing that always loses', () => {
  const first = '      - { from: A, to: B, when: pressed(hop), rank: 1 }\n';

  it('makes a state that has no other way in overshadowed', () => {
    const findings = findingsOf(`${first}      - { from: A, to: C, when: pressed(hop) and held(dash) }`);
    expect(findings).toMatchObject([{ code: 'IN3', certainty: 'proved', state: 'C' }]);
    expect(findings[0]!.sentence).toContain('always loses to the crossing to B');
    expect(findings[0]!.reason[0]).toContain('`pressed(hop)`');
  });

  it('is a dead crossing when the state has another way in', () => {
    expect(
      told(
        `${first}      - { from: A, to: C, when: pressed(hop) and vx > 0 }\n      - { from: B, to: C, when: held(hop) }`,
      ),
    ).toEqual(['IN5 C']);
  });

  it('loses to several that together are always open when it is', () => {
    expect(
      told(
        '      - { from: A, to: B, when: held(dash) and vx > 1 m/s, rank: 1 }\n      - { from: A, to: A, when: held(dash) and vx <= 1 m/s, rank: 1 }\n      - { from: A, to: C, when: held(dash) and grounded }',
      ),
    ).toEqual(['IN3 C']);
  });

  it('loses by the order of lines alone, too', () => {
    expect(
      told('      - { from: A, to: B, when: held(hop) }\n      - { from: A, to: C, when: held(hop) }'),
    ).toEqual(['IN3 C']);
  });

  it.each([
    ['a higher rank', `${first}      - { from: A, to: C, when: pressed(hop), rank: 2 }`, ['IN3 B']],
    ['a guard that is wider', `${first}      - { from: A, to: C, when: held(hop) }`, []],
    [
      'a winner that may be locked',
      '      - { from: A, to: B, when: pressed(hop), rank: 1, ability: skill }\n      - { from: A, to: C, when: pressed(hop) }',
      [],
    ],
    [
      'a winner that may lack room',
      '      - { from: A, to: B, when: pressed(hop), rank: 1 }\n      - { from: A, to: D, when: pressed(hop) }\n      - { from: D, to: C, when: held(dash) }\n      - { from: D, to: A, when: not held(hop) }',
      [],
    ],
    ['another state to come from', `${first}      - { from: [A, B], to: C, when: pressed(hop) }`, []],
  ])('but not with %s', (_, crossings, expected) => {
    expect(
      told(crossings, 'abilities: { skill: { locked: false } }', '      D: { stance: low }\n').filter(
        (t) => !t.endsWith(' D'),
      ),
    ).toEqual(expected);
  });
});

describe('a state whose every way out is shut', () => {
  const into =
    '      - { from: A, to: B, when: pressed(hop) }\n      - { from: A, to: C, when: pressed(dash) }\n';
  const sealed = (ways: string, extra = ''): { code: string; state: string; sentence: string }[] =>
    structuralFindings(
      machineOf(
        movesetText({
          states: '      A: { stance: tall }\n      B: { stance: tall }\n      C: { stance: tall }',
          crossings: `${into}      - { from: C, to: A, when: held(hop) }\n${ways}`,
          initial: 'A',
          extra,
        }),
      ),
    );

  it('is sealed: nobody starts the timer that it waits for', () => {
    const findings = sealed(
      '      - { from: B, to: A, when: done(nap) }',
      'timers: { nap: { length: 1 s } }',
    );
    expect(findings.map((f) => `${f.code} ${f.state}`)).toEqual(['OUT2 B']);
    expect(findings[0]!.sentence).toContain('nothing ever starts nap');
  });

  it('is not, with one way that may open, or one that only loses to another way out', () => {
    const shut = '      - { from: B, to: A, when: grounded and airborne }\n';
    expect(sealed(`${shut}      - { from: B, to: C, when: held(dash) }`).map((f) => f.code)).toEqual(['IN5']);
    expect(
      sealed('      - { from: B, to: C, when: held(hop) }\n      - { from: B, to: A, when: held(hop) }').map(
        (f) => f.code,
      ),
    ).toEqual(['IN5']);
  });
});

describe('what is proved without running', () => {
  /** Random play is the judge: nothing that was proved impossible may happen, on any course. */
  it('never happens in random play', { timeout: 120_000 }, () => {
    let proved = 0;
    fc.assert(
      fc.property(randomCase, ({ moveset, course, inputs }) => {
        const machine = machineOf(moveset);
        const built = readCourse(course).course!;
        const findings = structuralFindings(machine);
        proved += findings.length;
        const closed = new Set(findings.filter((f) => /^IN[123]$/.test(f.code)).map((f) => f.state));
        const sealed = new Set(findings.filter((f) => f.code.startsWith('OUT')).map((f) => f.state));
        const dead = findings.filter((f) => f.code === 'IN5');
        const fast = createFast(machine, buildWorld(built, machine.stances, machine.casts));
        const s = startFast(fast, built.spawns[0]!);
        for (const input of inputs) {
          step(fast, s, input);
          for (let i = 0; i < 4 * fast.takenCount; i += 4) {
            const [lane, index, from, to] = fast.taken.slice(i, i + 4) as [number, number, number, number];
            expect(closed).not.toContain(machine.states[to]!.name);
            if (from !== to) expect(sealed).not.toContain(machine.states[from]!.name);
            expect(
              dead.filter((f) => f.lane === machine.lanes[lane]!.name && f.crossing!.index === index),
            ).toEqual([]);
          }
        }
      }),
      { numRuns: 200 },
    );
    expect(proved).toBeGreaterThan(50);
  });
});
