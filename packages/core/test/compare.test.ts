import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { buildWorld, createPlayer, decide, partingOf, play, readCourse, whenOpen } from '@glenmark/core';
import { machineOf, sample } from './helpers.js';

const machine = machineOf(sample('courier.yaml'));
const course = readCourse(sample('mill-yard.yaml')).course!;
const world = () => buildWorld(course, machine.stances, machine.casts);
const arbitraryInputs = fc.array(fc.tuple(fc.constantFrom(-1, 0, 1), fc.nat(1), fc.nat(1), fc.nat(1)), {
  minLength: 2,
  maxLength: 60,
});

describe('two runs beside each other', () => {
  it('part at the tick whose input was changed, and not before', () => {
    fc.assert(
      fc.property(arbitraryInputs, fc.nat(), (inputs, place) => {
        const at = place % inputs.length;
        const other = inputs.map((input, t) =>
          t === at ? [input[0], 1 - input[1], input[2], input[3]] : input,
        );
        const [a, b] = [inputs, other].map((list) => play(machine, world(), course.spawns[0]!, list));
        const parting = partingOf(a!, b!)!;
        expect(parting.tick).toBe(at);
        expect(parting.what[0]).toMatch(/^hop: [01] and [01]$/);
        expect(partingOf(a!, a!)).toBeUndefined();
      }),
      { numRuns: 60 },
    );
  });

  it('driving tick by tick is the run of the whole tape', () => {
    fc.assert(
      fc.property(arbitraryInputs, (inputs) => {
        const player = createPlayer(machine, world(), course.spawns[0]!);
        const records = inputs.map((input) => player.step(input));
        const trace = play(machine, world(), course.spawns[0]!, inputs);
        expect(partingOf({ ...trace, records }, trace)).toBeUndefined();
        expect(records).toHaveLength(trace.records.length);
      }),
      { numRuns: 60 },
    );
  });
});

describe('when a crossing was open', () => {
  it('is where it is weighed as open: nearest before and after, and never elsewhere', () => {
    fc.assert(
      fc.property(arbitraryInputs, fc.nat(), (inputs, place) => {
        const trace = play(machine, world(), course.spawns[0]!, inputs);
        const tick = place % trace.records.length;
        machine.lanes[0]!.crossings.forEach((crossing, index) => {
          const open = trace.records
            .filter((r) =>
              decide(machine, r.leavesBefore[0]!, r.facts, r.lastBefore).some(
                (c) => c.crossing === crossing && (c.verdict === 'taken' || c.verdict === 'lost'),
              ),
            )
            .map((r) => r.tick);
          const { before, after, nearest } = whenOpen(trace, 0, index, tick);
          const earlier = open.filter((t) => t < tick).at(-1);
          const later = open.find((t) => t > tick);
          // What has no room or is locked counts as open here: its guard held.
          if (earlier !== undefined) expect(before).toBeGreaterThanOrEqual(earlier);
          if (later !== undefined) expect(after).toBeLessThanOrEqual(later);
          if (before !== undefined || after !== undefined) expect(nearest).toBeUndefined();
          else if (nearest !== undefined) expect(nearest.missing.length).toBeGreaterThan(0);
        });
      }),
      { numRuns: 30 },
    );
  });
});
