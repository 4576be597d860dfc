import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { courseOf, FLOOR, machineOf, movesetText, playInputs, statesOf } from './helpers.js';

const floor = courseOf(FLOOR);

describe('what is remembered alike', () => {
  /** A to B and back on the same memory; `again` is how it is written the second time. */
  const text = (memory: string, again: string): string =>
    movesetText({
      states: '      A: {}\n      B: {}',
      crossings: `      - { from: A, to: B, when: ${memory} }\n      - { from: B, to: A, when: ${again} }`,
      initial: 'A',
    });

  it('is remembered once, wherever it is written', () => {
    const count = (memory: string, again: string): number => machineOf(text(memory, again)).memories.length;
    expect(count('held(hop) for 0.1 s', 'held(hop) for 6 ticks and grounded')).toBe(1);
    expect(count('held(hop) for 0.1 s', 'not (held(hop) for 0.1 s)')).toBe(1);
    expect(count('held(hop) for 0.1 s', 'held(hop) for 0.2 s')).toBe(2);
    expect(count('held(hop) for 0.1 s', 'held(hop) within 0.1 s')).toBe(2);
    expect(count('held(hop) for 0.1 s', 'held(dash) for 0.1 s')).toBe(2);
    // The one is used up by a crossing, the other asks for no press.
    expect(count('pressed(hop) within 0.1 s', 'not (pressed(hop) within 0.1 s)')).toBe(2);
  });

  it('does what two would do', () => {
    const memories = [
      'held(hop) for 3 ticks',
      'held(hop) within 3 ticks',
      'pressed(hop) within 4 ticks',
      '(held(hop) for 2 ticks) within 5 ticks',
    ];
    const held = fc.array(fc.boolean(), { minLength: 30, maxLength: 30 });
    fc.assert(
      fc.property(fc.constantFrom(...memories), held, (memory, pressed) => {
        const inputs = (t: number) => ({ hop: Number(pressed[t]) });
        // Written otherwise it is another memory that counts the same.
        const twice = memory.replace(/(held|pressed)\(hop\)/, '($1(hop) and $1(hop))');
        const [one, two] = [memory, twice].map((again) => machineOf(text(memory, again)));
        expect(two!.memories.length).toBeGreaterThan(one!.memories.length);
        expect(statesOf(playInputs(one!, floor, 30, inputs))).toEqual(
          statesOf(playInputs(two!, floor, 30, inputs)),
        );
      }),
    );
  });
});
