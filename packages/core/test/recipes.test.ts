import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { slotOf } from '@glenmark/core/machine';
import { evaluate } from '@glenmark/core/notation';
import { recipesOf } from '../src/scout/recipes.js';
import { machineOf, movesetText } from './helpers.js';

const asking = (guard: string, extra?: string) =>
  machineOf(
    movesetText({
      states: '      A: {}\n      B: {}',
      crossings: `      - { from: A, to: B, when: "${guard}" }\n      - { from: B, to: A }`,
      ...(extra === undefined ? {} : { extra }),
      initial: 'A',
    }),
  );

/** The recipes of the way from A to B, by the names of the controls. */
function recipes(guard: string, extra?: string): string[] {
  const machine = asking(guard, extra);
  return recipesOf(machine)[0]!.map(({ controls, ticks }) =>
    [...controls.map((c) => `${machine.controls[c.control]!.name} ${c.value}`), `${ticks} ticks`].join(', '),
  );
}

/** Guards about controls alone. */
const guard: fc.Arbitrary<string> = fc.letrec<{ all: string }>((tie) => ({
  all: fc.oneof(
    { maxDepth: 3 },
    fc.constantFrom(
      'held(hop)',
      'held(dash)',
      'pressed(hop)',
      'axis(move) > 0',
      'axis(move) < 0',
      'axis(move) = 0',
    ),
    fc.tuple(tie('all'), tie('all')).map(([a, b]) => `(${a} and ${b})`),
    fc.tuple(tie('all'), tie('all')).map(([a, b]) => `(${a} or ${b})`),
    fc.constantFrom('held(hop)', 'held(dash)').map((a) => `not ${a}`),
  ),
})).all;

describe('what a guard asks for', () => {
  it('is what its terms say: held, let go, pressed, and for how long', () => {
    expect(recipes('held(hop) and not held(dash)')).toEqual(['hop 1, dash 0, 0 ticks']);
    expect(recipes('pressed(hop) or released(dash)')).toEqual(['hop 1, 0 ticks', 'dash 0, 0 ticks']);
    expect(recipes('(held(hop) and grounded) for 0.2 s')).toEqual(['hop 1, 12 ticks']);
    expect(recipes('elapsed >= 0.5 s and axis(move) < 0')).toEqual(['move -1, 30 ticks']);
    expect(recipes('done(t)', 'timers: { t: { length: 0.1 s } }')).toEqual(['6 ticks']);
    expect(recipes('not (held(hop) or held(dash))')).toEqual(['hop 0, dash 0, 0 ticks']);
    expect(recipes('grounded and speed > 2 m/s')).toEqual([]);
  });

  it('makes a guard about controls hold, from controls that were all let go', () => {
    let held = 0;
    fc.assert(
      fc.property(guard, (text) => {
        const machine = asking(text);
        const when = machine.lanes[0]!.crossings[0]!.when!;
        for (const { controls } of recipesOf(machine)[0]!) {
          const input = machine.controls.map(() => 0);
          const isTwofold = controls.some((a) =>
            controls.some((b) => a.control === b.control && a.value !== b.value),
          );
          if (isTwofold) continue;
          for (const { control, value } of controls) input[control] = value;
          const facts = new Float64Array(machine.facts.refs.length);
          machine.controls.forEach(({ name, kind }, c) => {
            const put = (fact: 'held' | 'pressed' | 'axis', value: number): void => {
              facts[slotOf(machine.facts, fact, name)] = value;
            };
            if (kind === 'axis') put('axis', input[c]!);
            else {
              put('held', input[c]!);
              put('pressed', input[c]!);
            }
          });
          expect(evaluate(when, facts), text).toBe(1);
          held++;
        }
      }),
      { numRuns: 300 },
    );
    expect(held).toBeGreaterThan(200);
  });
});
