import { describe, expect, it } from 'vitest';
import { type Finding, findAll, repairsOf, triedRepairs } from '@glenmark/core/findings';
import { readTape } from '@glenmark/core/run';
import { courseOf, FLOOR, machineOf, movesetText } from './helpers.js';

const course = courseOf(FLOOR);

/** What might mend a fault, and what is offered after it was tried. */
function repairs(text: string, code: Finding['code'], tape?: string): { might: string[]; offered: string[] } {
  const machine = machineOf(text);
  const finding = findAll(machine, []).find((f) => f.code === code)!;
  const tapes = tape === undefined ? [] : [{ tape: readTape(tape).tape!, course }];
  return {
    might: repairsOf(machine, finding).map((r) => r.title),
    offered: triedRepairs(finding, { text, machine, tapes, courses: [course] }).map((r) => r.title),
  };
}

describe('a repair is offered only after it was tried', () => {
  const braced = (target: string): string =>
    movesetText({
      states: `      A: {}\n      B: ${target}`,
      crossings: `      - { from: A, to: B, when: grounded and pressed(hop), do: ["vy := 10 m/s"] }
      - { from: B, to: A, when: grounded for 0.05 s }`,
      initial: 'A',
      lanes: `  - name: arms
    initial: Brace
    states: { Brace: { motion: { hold: { vy: 0 m/s } } }, Free: {} }
    crossings:
      - { from: Brace, to: Free, when: pressed(dash) }
      - { from: Free, to: Brace, when: released(dash) }`,
    });

  it('not a lane that yields and undoes the launch one tick later', () => {
    const yields = 'Let the lane arms leave vy to the others';
    expect(repairs(braced('{}'), 'AG2')).toEqual({ might: [yields], offered: [] });
    // Where the entered state itself moves the body, yielding does mend it.
    expect(repairs(braced('{ motion: { push: { y: 5 m/s2 } } }'), 'AG2').offered).toEqual([yields]);
  });

  it('not a rank that cannot help, for the other crossing is listed further in', () => {
    const text = movesetText({
      states: '      A: {}\n      G: { initial: X, states: { X: {}, Y: {} } }\n      W: {}',
      crossings: `      - { from: A, to: G, when: pressed(hop) }
      - { from: X, to: Y, when: grounded or airborne }
      - { from: Y, to: A, when: grounded or airborne }
      - { from: G, to: W, when: pressed(hop) }
      - { from: W, to: A, when: pressed(dash) }`,
      initial: 'A',
    });
    const { might, offered } = repairs(text, 'IN3');
    expect(might).toHaveLength(1);
    expect(offered).toEqual([]);
  });

  it('a rank that makes no other tie', () => {
    const text = movesetText({
      states: '      A: {}\n      B: {}\n      C: {}\n      D: {}',
      crossings: `      - { from: A, to: B, when: pressed(hop) and speed > 1 m/s }
      - { from: A, to: C, when: pressed(hop) and grounded }
      - { from: A, to: D, when: pressed(hop) and wall != 0, rank: 1 }
      - { from: [B, C, D], to: A, when: pressed(dash) }`,
      initial: 'A',
    });
    expect(repairs(text, 'AG1').offered).toEqual(['Raise the rank of the crossing to B to 2']);
  });

  it('none that a tape of the author speaks against', () => {
    const text = movesetText({
      states: '      A: {}\n      B: { enter: [spend n] }\n      C: {}',
      crossings: `      - { from: A, to: B, when: pressed(hop) and n > 0 }
      - { from: B, to: A, when: pressed(dash) }
      - { from: A, to: C, when: pressed(dash) }
      - { from: C, to: A, when: pressed(dash) }`,
      extra: 'variables: { n: { count: 1, max: 1 } }',
      initial: 'A',
    });
    const tape = `glenmark: 1
kind: tape
name: Once
moveset: test
course: test
spawn: start
ticks: 30
inputs:
  hop: ["2 for 2", "20 for 2"]
  dash: ["8 for 2"]
expect:
  - EXPECTED
`;
    const refill = 'Refill n on the ground';
    expect(repairs(text, 'OUT5', tape.replace('EXPECTED', 'at 6 in B')).offered).toEqual([refill]);
    // Whoever expects that it is used up does not want it refilled.
    expect(repairs(text, 'OUT5', tape.replace('EXPECTED', 'at 25 in A'))).toEqual({
      might: [refill],
      offered: [],
    });
  });
});
