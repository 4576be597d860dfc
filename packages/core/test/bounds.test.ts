import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { evaluate, type Expression, idOfRef } from '@glenmark/core/notation';
import { boundsOf, domainOf } from '@glenmark/core/solver';
import { machineOf, movesetText } from './helpers.js';

/** A number without a dimension, over an axis, a count and the facing. */
const { number } = fc.letrec<{ number: string }>((tie) => ({
  number: fc.oneof(
    { depthSize: 'small' },
    fc.constantFrom('axis(move)', 'n', 'facing', '0', '1', '-2', '0.5', '3'),
    fc
      .tuple(tie('number'), fc.constantFrom('+', '-', '*'), tie('number'))
      .map(([a, op, b]) => `(${a} ${op} ${b})`),
    // Nothing is divided by what is plainly zero: the notation refuses it.
    fc.tuple(tie('number'), fc.constantFrom('axis(move)', 'n', '2', '-0.5')).map(([a, b]) => `(${a} / ${b})`),
    fc
      .tuple(fc.constantFrom('min', 'max'), tie('number'), tie('number'))
      .map(([f, a, b]) => `${f}(${a}, ${b})`),
    tie('number').map((a) => `abs(${a})`),
    tie('number').map((a) => `sign(${a})`),
    tie('number').map((a) => `(-${a})`),
    fc.tuple(tie('number'), tie('number'), tie('number')).map(([a, b, c]) => `clamp(${a}, ${b}, ${c})`),
    fc.tuple(tie('number'), tie('number'), tie('number')).map(([a, b, c]) => `approach(${a}, ${b}, ${c})`),
    fc.tuple(tie('number'), tie('number')).map(([a, b]) => `lerp(${a}, ${b}, 0.25)`),
    fc.tuple(tie('number'), tie('number')).map(([a, b]) => `(if grounded then ${a} else ${b})`),
  ),
}));

const machineWith = (expression: string) =>
  machineOf(
    movesetText({
      states: '      A: {}\n      B: {}',
      crossings: `      - { from: A, to: B, when: "(${expression}) > n - 7" }\n      - { from: B, to: A, when: grounded }`,
      extra: 'variables: { n: { count: 2, max: 5 } }',
      initial: 'A',
    }),
  );

describe('between what an expression always is', () => {
  it('lies whatever it evaluates to, for all facts that can occur', () => {
    let bounded = 0;
    fc.assert(
      fc.property(
        number,
        fc.array(fc.double({ min: 0, max: 1, noNaN: true }), { minLength: 40, maxLength: 40 }),
        (text, draws) => {
          const machine = machineWith(text);
          const { when } = machine.lanes[0]!.crossings[0]!;
          const { left } = when as Extract<Expression, { kind: 'compare' }>;
          const [low, high] = boundsOf(machine, left);
          if (Number.isFinite(low) && Number.isFinite(high)) bounded++;
          const facts = Float64Array.from(machine.facts.refs, (ref, slot) => {
            const draw = draws[slot % draws.length]!;
            const domain = domainOf(machine, idOfRef(ref!));
            if (!Number.isFinite(domain.low) || !Number.isFinite(domain.high)) return Math.round(draw);
            const value = domain.low + draw * (domain.high - domain.low);
            return domain.whole ? Math.round(value) : value;
          });
          const value = evaluate(left, facts);
          // A rounding apart, where an end is worked out in another order.
          const slack = 1e-9 * Math.max(1, Math.abs(value));
          expect(value).toBeGreaterThanOrEqual(low - slack);
          expect(value).toBeLessThanOrEqual(high + slack);
        },
      ),
      { numRuns: 400, endOnFailure: true },
    );
    expect(bounded).toBeGreaterThan(200);
  });

  it('is as narrow as the parts are, and open where nothing limits it', () => {
    const of = (text: string) => {
      const machine = machineWith(text);
      const { when } = machine.lanes[0]!.crossings[0]!;
      return boundsOf(machine, (when as Extract<Expression, { kind: 'compare' }>).left);
    };
    expect(of('axis(move) * 4')).toEqual([-4, 4]);
    expect(of('max(n, 2) - 1')).toEqual([1, 4]);
    expect(of('1 / axis(move)')).toEqual([-Infinity, Infinity]);
    expect(of('if grounded then 3 else -1')).toEqual([-1, 3]);
  });
});
