import { readMoveset } from '@glenmark/core/machine';
import { digestOf, play } from '@glenmark/core/run';
import { buildWorld, readCourse } from '@glenmark/core/world';
import fc from 'fast-check';
import courier from '../../../../../../../examples/courier.yaml' with { loader: 'text' };
import yard from '../../../../../../../examples/mill-yard.yaml' with { loader: 'text' };
import { vi } from 'vitest';
import { Driver } from './driver';

const machine = readMoveset(courier).machine!;
const course = readCourse(yard).course!;
const start = course.spawns[0]!;
const world = () => buildWorld(course, machine.stances, machine.casts);

const arbitraryInputs = fc.array(fc.tuple(fc.constantFrom(-1, 0, 1), fc.nat(1), fc.nat(1), fc.nat(1)), {
  minLength: 2,
  maxLength: 700,
});
beforeEach(() => void vi.stubGlobal('navigator', { getGamepads: () => [] }));
afterEach(() => void vi.unstubAllGlobals());

const driven = (before: number[][]): Driver => new Driver({ machine, world: world(), start, before });

describe('what was driven', () => {
  it('is the run that the same inputs make', () => {
    fc.assert(
      fc.property(arbitraryInputs, (inputs) => {
        const { trace } = driven(inputs);
        expect(digestOf(trace)).toBe(digestOf(play(machine, world(), start, inputs)));
      }),
      { numRuns: 10, endOnFailure: true },
    );
  });

  it('goes on from a tick that is looked at, as if it had been driven up to there', () => {
    fc.assert(
      fc.property(arbitraryInputs, fc.nat(), (inputs, place) => {
        const driver = driven(inputs);
        const back = place % Math.min(inputs.length, 60);
        driver.paused.set(true);
        for (let i = 0; i < back; i++) driver.back();
        expect(driver.shown()).toBe(inputs.length - 1 - back);
        driver.togglePause();
        driver.hands.press('Space');
        driver.forward();
        const hop = machine.controls.map(({ name }) => (name === 'hop' ? 1 : 0));
        const expected = [...inputs.slice(0, inputs.length - back), hop];
        expect(driver.inputs).toEqual(expected);
        expect(digestOf(driver.trace)).toBe(digestOf(play(machine, world(), start, expected)));
      }),
      { numRuns: 10, endOnFailure: true },
    );
  });

  it('is looked through tick by tick, and a new tick follows the last', () => {
    const driver = driven(Array.from({ length: 5 }, () => [1, 0, 0, 0]));
    driver.back();
    driver.back();
    expect([driver.paused(), driver.shown(), driver.record()?.tick]).toEqual([true, 2, 2]);
    driver.forward();
    driver.forward();
    expect(driver.shown()).toBe(4);
    expect(driver.inputs).toHaveLength(5);
    driver.forward();
    expect([driver.shown(), driver.inputs.length]).toEqual([5, 6]);
  });
});
