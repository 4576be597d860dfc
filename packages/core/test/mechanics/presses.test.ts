import { describe, expect, it } from 'vitest';
import type { Trace } from '@glenmark/core/run';
import { courseOf, FLOOR, movesetText, statesOf } from '../helpers.js';
import { both } from './play.js';

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
