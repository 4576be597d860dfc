import { describe, expect, it } from 'vitest';
import { movesetText } from '../helpers.js';
import { faultsOf, itFinds } from './fault.js';

const hops = (extra: string, effect: string, guard: string): string =>
  movesetText({
    states: `      A: {}\n      B: { enter: [${effect}] }\n      C: {}`,
    crossings: `      - { from: A, to: B, when: pressed(hop) and ${guard} }
      - { from: B, to: A, when: pressed(dash) }
      - { from: A, to: C, when: pressed(dash) }
      - { from: C, to: A, when: pressed(dash) }`,
    extra: `variables: { ${extra} }`,
    initial: 'A',
  });

describe('variables that their writes lock', () => {
  itFinds('a number that only grows and is asked to be small', {
    text: hops('n: { number: 0 }', '"n += 1"', 'n < 3'),
    edits: { 'number: 0': 'number: 0, reset: grounded' },
    code: 'OUT5',
    says: ['n is 3 for good', 'the crossing from A to B never opens again', 'entering B'],
  });

  itFinds('a count that only grows and is asked to be small', {
    text: hops('n: { count: 0, max: 9 }', '"n += 1"', 'n < 3'),
    edits: { '"n += 1"': '"n := 1"' },
    code: 'OUT5',
    says: ['after 3 uses n is 3 for good'],
  });

  itFinds('a count that loses two at a time: three uses, not six', {
    text: hops('n: { count: 6, max: 6 }', '"n -= 2"', 'n > 0'),
    edits: { 'max: 6': 'max: 6, refill: grounded' },
    code: 'OUT5',
    says: ['n runs dry: after 3 uses nothing gives it back'],
  });

  itFinds('a flag that is set once and never cleared', {
    text: hops('used: { flag: false }', '"used := true"', 'not used'),
    edits: { 'flag: false': 'flag: false, reset: grounded' },
    code: 'OUT5',
    says: ['used locks itself: after one use used is set for good'],
  });

  itFinds('a number that only falls, read by a guard that asks for much', {
    text: hops('heat: { number: 5 m/s }', '"heat -= 2 m/s"', 'heat >= 4 m/s'),
    edits: { '"heat -= 2 m/s"': '"heat := 4 m/s"' },
    code: 'OUT5',
    says: ['heat is below 4 m/s for good'],
  });

  itFinds('a number that is never as large as it is asked to be', {
    text: hops('heat: { number: 0 m/s }', '"heat := clamp(speed, 0 m/s, 3 m/s)"', 'heat > 4 m/s'),
    edits: { '{ number: 0 m/s }': '{ number: 5 m/s, reset: grounded }' },
    code: 'IN2',
    says: ['heat'],
  });

  itFinds('a large count that is never as large as it is asked to be', {
    text: hops('n: { count: 30, max: 90 }', 'spend n', 'n > 40'),
    edits: { 'n > 40': 'n >= 0' },
    code: 'IN2',
    says: ['n'],
  });

  it('says nothing of a way out of a group that one of its states loses and another one keeps', () => {
    // Once n is 3, B always goes on to C before it can leave; from C the way out is open as before.
    const text = movesetText({
      states: '      A: {}\n      G: { initial: B, states: { B: {}, C: {} } }',
      crossings: `      - { from: A, to: G, when: pressed(hop), do: ["n += 1"] }
      - { from: B, to: C, when: n >= 3 }
      - { from: G, to: A, when: pressed(dash) }`,
      extra: 'variables: { n: { number: 0 } }',
      initial: 'A',
    });
    expect(faultsOf(text).map((f) => f.sentence)).toEqual([]);
  });
});
