import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { otherBehaviour, play, type Trace } from '@glenmark/core/run';
import { buildWorld, readCourse } from '@glenmark/core/world';
import { machineOf, sample, statesOf } from './helpers.js';

const machine = machineOf(sample('courier.yaml'));
const course = readCourse(sample('mill-yard.yaml')).course!;
const arbitraryInputs = fc.array(fc.tuple(fc.constantFrom(-1, 0, 1), fc.nat(1), fc.nat(1), fc.nat(1)), {
  minLength: 2,
  maxLength: 60,
});
const run = (inputs: number[][], rate?: number): Trace => {
  const own = rate === undefined ? machine : machineOf(sample('courier.yaml'), rate);
  return play(own, buildWorld(course, own.stances, own.casts), course.spawns[0]!, inputs);
};
/** The states that a lane goes through, each once for every stay. */
const order = (trace: Trace, lane: number): string[] =>
  statesOf(trace, lane).filter((state, i, all) => state !== all[i - 1]);

describe('what two runs do', () => {
  it('is the same exactly when every lane goes through the same states', () => {
    fc.assert(
      fc.property(arbitraryInputs, arbitraryInputs, (a, b) => {
        const [one, other] = [run(a), run(b)];
        const isSame = machine.lanes.every((_, i) => order(one, i).join() === order(other, i).join());
        const found = otherBehaviour(one, other);
        expect(found === undefined).toBe(isSame);
        if (found === undefined) return;
        expect(found.one).not.toBe(found.other);
        expect(otherBehaviour(other, one)).toEqual({ ...found, one: found.other, other: found.one });
      }),
      { numRuns: 40, endOnFailure: true },
    );
  });

  it('is the same at another tick rate where only the step differs', () => {
    const trot = (rate: number): Trace =>
      run(
        Array.from({ length: rate }, () => [1, 0, 0, 0]),
        rate,
      );
    expect(otherBehaviour(trot(60), trot(144))).toBeUndefined();
    expect(trot(60).records.at(-1)!.body.x).not.toBe(trot(144).records.at(-1)!.body.x);
  });

  it('differs from where one of them hops, told in seconds', () => {
    const inputs = (rate: number, hops: boolean): number[][] =>
      Array.from({ length: rate }, (_, t) => [0, Number(hops && t >= rate / 2), 0, 0]);
    const found = otherBehaviour(run(inputs(60, false)), run(inputs(120, true), 120));
    expect(found).toMatchObject({ lane: 'legs', one: undefined, other: 'Rise' });
    expect(found!.seconds).toBeCloseTo(0.5, 1);
  });
});
