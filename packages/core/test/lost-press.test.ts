import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { lostPress, play } from '@glenmark/core/run';
import { buildWorld } from '@glenmark/core/world';
import { courseOf, FLOOR, machineOf, movesetText, sample } from './helpers.js';

const marram = machineOf(sample('courier.yaml'));
const floor = courseOf(FLOOR);
const HOP = marram.controls.findIndex((c) => c.name === 'hop');

/** A run of Marram on a floor that presses hop at these ticks, for three ticks each. */
function hopsAt(ticks: readonly number[], total: number) {
  const inputs = Array.from({ length: total }, (_, t) =>
    marram.controls.map((_, c) => (c === HOP && ticks.some((from) => t >= from && t < from + 3) ? 1 : 0)),
  );
  return play(marram, buildWorld(floor, marram.stances, marram.casts), floor.spawns[0]!, inputs);
}

describe('a press that opened nothing', () => {
  it('is the third hop in the air, for no hop is left, and neither the first nor the second', () => {
    const trace = hopsAt([10, 22, 30], 60);
    expect([10, 22].map((t) => lostPress(trace, HOP, t))).toEqual([undefined, undefined]);
    expect(lostPress(trace, HOP, 30)).toEqual({
      tick: 30,
      control: 'hop',
      nearest: { from: 'Rise', to: 'Rise', verdict: 'closed', missing: ['hopsLeft > 0'] },
    });
  });

  it('is not one that is remembered until the landing', () => {
    const once = hopsAt([10], 200);
    const landing = once.records.findIndex((r) => r.tick > 20 && r.grounded);
    const trace = hopsAt([10, 20, landing - 4], 260);
    const second = trace.records.findIndex((r) => r.tick > 30 && r.grounded);
    const early = hopsAt([10, 20, second - 4], 260);
    expect(lostPress(early, HOP, second - 4)).toBeUndefined();
    const tooEarly = hopsAt([10, 20, second - 12], 260);
    expect(lostPress(tooEarly, HOP, second - 12)?.nearest?.missing).toEqual(['hopsLeft > 0']);
  });

  it('is not told before the press is forgotten, nor at ticks without a press', () => {
    const trace = hopsAt([10, 22, 30], 34);
    expect(lostPress(trace, HOP, 30)).toBeUndefined();
    expect(lostPress(trace, HOP, 31)).toBeUndefined();
    expect(lostPress(trace, HOP, 0)).toBeUndefined();
  });

  it('has no nearest crossing where nothing asks for the button', () => {
    const machine = machineOf(
      movesetText({
        initial: 'A',
        states: '      A: {}\n      B: {}',
        crossings:
          '      - { from: B, to: A, when: pressed(hop) }\n      - { from: A, to: B, when: not held(hop) and held(dash) }',
      }),
    );
    const hop = machine.controls.findIndex((c) => c.name === 'hop');
    const inputs = Array.from({ length: 5 }, (_, t) =>
      machine.controls.map((_, c) => Number(c === hop && t === 2)),
    );
    const trace = play(machine, buildWorld(floor, machine.stances, machine.casts), floor.spawns[0]!, inputs);
    expect(lostPress(trace, hop, 2)).toEqual({ tick: 2, control: 'hop', nearest: undefined });
  });

  it('leaves no crossing taken on it, whatever is pressed', () => {
    const presses = fc.uniqueArray(fc.nat(80), { minLength: 1, maxLength: 8 });
    fc.assert(
      fc.property(presses, (ticks) => {
        const trace = hopsAt(ticks, 100);
        for (const tick of ticks) {
          const lost = lostPress(trace, HOP, tick);
          if (lost === undefined) continue;
          const taken = trace.records.slice(tick, tick + 7).flatMap((r) => r.taken);
          expect(taken.filter((t) => marram.states[t.to]?.name === 'Rise')).toEqual([]);
        }
      }),
      { numRuns: 40, endOnFailure: true },
    );
  });
});
