import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { explore, projectionOf, sliceOf } from '@glenmark/core/findings';
import { createFast, startFast, step } from '@glenmark/core/machine';
import { buildWorld } from '@glenmark/core/world';
import { endsOf, regionOf, regionsBetween, regionsOf } from '../src/findings/proved/skeleton/regions.js';
import { courseOf, FLOOR, machineOf, movesetText } from './helpers.js';

const number = fc.integer({ min: -20, max: 20 }).map((n) => n / 4);
const cuts = fc.uniqueArray(number, { maxLength: 5 }).map((list) => list.sort((a, b) => a - b));

describe('the regions of a number', () => {
  it('hold each number in exactly one, between its ends, and all that lie between two numbers', () => {
    fc.assert(
      fc.property(cuts, number, number, (list, a, b) => {
        const region = regionOf(list, a);
        expect(region).toBeLessThan(regionsOf(list));
        for (let r = 0; r < regionsOf(list); r++) {
          const { low, high } = endsOf(list, r);
          expect(low === high ? a === low : a > low && a < high).toBe(r === region);
        }
        const [low, high] = [Math.min(a, b), Math.max(a, b)];
        expect(regionsBetween(list, { low, high })).toContain(regionOf(list, (low + high) / 2));
      }),
    );
  });

  const write = fc.oneof(
    number.map((n) => `n := ${n}`),
    number.map((n) => `n += ${n}`),
    number.map((n) => `n -= ${n}`),
    number.map((n) => `n := n + ${n}`),
    number.map((n) => `n := clamp(n, ${n}, 3)`),
    fc.constant('n := abs(n)'),
    fc.constant('n := 2 * n'),
  );

  it('follow whatever random writes make of a number in a run', () => {
    const course = courseOf(FLOOR);
    fc.assert(
      fc.property(
        fc.array(write, { minLength: 1, maxLength: 3 }),
        fc.array(write, { minLength: 1, maxLength: 2 }),
        fc.uniqueArray(number, { minLength: 1, maxLength: 4 }),
        fc.array(fc.boolean(), { minLength: 30, maxLength: 30 }),
        (onEntry, eachTick, compared, presses) => {
          const list = (effects: string[]): string => effects.map((e) => `"${e}"`).join(', ');
          const machine = machineOf(
            movesetText({
              states: `      A: { each: [${list(eachTick)}] }\n      B: { enter: [${list(onEntry)}] }`,
              crossings: [
                '      - { from: A, to: B, when: held(hop) }',
                ...compared.map(
                  (c, i) => `      - { from: B, to: A, when: "n > ${c} or not held(hop)", rank: ${i} }`,
                ),
              ].join('\n'),
              extra: 'variables: { n: { number: 0.5 } }',
              initial: 'A',
            }),
          );
          const slice = sliceOf(machine, 0, 40_000);
          const skeleton = explore(machine, slice, { situations: 10_000, steps: 100_000 });
          const fast = createFast(machine, buildWorld(course, machine.stances, machine.casts));
          const project = projectionOf(slice.digits, fast.layout);
          const s = startFast(fast, course.spawns[0]!);
          const values: number[] = [];
          for (const hop of presses) {
            step(
              fast,
              s,
              machine.controls.map((c) => (c.name === 'hop' ? Number(hop) : 0)),
            );
            project(s, values);
            expect(skeleton.find(values), `n is ${s[fast.layout.variables]}`).toBeDefined();
          }
        },
      ),
      { numRuns: 150, endOnFailure: true },
    );
  });
});
