import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { decide, readMoveset } from '@glenmark/core/machine';
import {
  createPlayer,
  measure,
  partingOf,
  play,
  whenOpen,
  partingInTime,
  readTape,
  retimed,
  runTape,
} from '@glenmark/core/run';
import { buildWorld, readCourse } from '@glenmark/core/world';
import { courseOf, FLOOR, machineOf, movesetText, playInputs, sample } from './helpers.js';

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

describe('measures', () => {
  /** A body that is driven at 4 m/s and brakes at 8 m/s², and hops at 9 m/s under 30 m/s². */
  const walker = machineOf(
    movesetText({
      initial: 'Walk',
      states: `
      Walk: { stance: tall, motion: { drive: { to: axis(move) * 4 m/s, gain: 60 m/s2, brake: 8 m/s2 } } }
      Up: { stance: tall, enter: [vy := 9 m/s], motion: { gravity: 1 } }`,
      crossings: `
      - { from: Walk, to: Up, when: pressed(hop) }
      - { from: Up, to: Walk, when: grounded and vy <= 0 m/s }`,
    }),
  );
  it('the distance to a stop and the time to the apex are those of the school book, within a tick', () => {
    const stop = measure(playInputs(walker, courseOf(FLOOR), 120, (tick) => ({ move: tick < 60 ? 1 : 0 })));
    // v² / 2a, and at most a tick of full speed more or less.
    expect(Math.abs(stop.stopping - 4 ** 2 / 16)).toBeLessThan(4 / walker.rate + 1e-6);
    expect(stop.timeToApex).toBeNaN();
    const hop = measure(playInputs(walker, courseOf(FLOOR), 70, (tick) => ({ hop: tick < 10 ? 0 : 1 })));
    expect(Math.abs(hop.timeToApex - 9 / 30)).toBeLessThan(2 / walker.rate);
    expect(Math.abs(hop.apex - 9 ** 2 / 60)).toBeLessThan(9 / walker.rate);
    expect(Math.abs(hop.along['Up']! - 2 * hop.apex)).toBeLessThan(0.1);
    expect(hop.stopping).toBeNaN();
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

describe('runs at different tick rates', () => {
  const at = (rate: number) => {
    const { machine: own } = readMoveset(sample('courier.yaml'), { rate });
    const { tape } = readTape(sample('yard-crossing.yaml'));
    return runTape(own!, readCourse(sample('mill-yard.yaml')).course!, tape!).session!.trace;
  };

  it('are laid on the ticks of one, each record that of the same time', () => {
    const own = at(60);
    expect(retimed(own, own).records).toEqual(own.records);
    expect(partingInTime(own, retimed(own, own))).toBeUndefined();
    for (const rate of [30, 50, 120, 144]) {
      const other = at(rate);
      const laid = retimed(other, own);
      expect(Math.abs(laid.records.length - own.records.length)).toBeLessThanOrEqual(2);
      laid.records.forEach((record, tick) => {
        expect(record.tick).toBe(tick);
        // The last one that is not later than the end of this tick.
        const shown = other.records.findLastIndex((r) => (r.tick + 1) / rate <= (tick + 1) / 60 + 1e-9);
        expect(record.body).toBe(other.records[Math.max(0, shown)]!.body);
      });
    }
  });

  it('part where a state is not the other\u2019s for more than a tick, or the bodies are far apart', () => {
    const own = at(60);
    const late = {
      ...own,
      records: own.records.map((r, t) => ({ ...r, leaves: own.records[Math.max(0, t - 1)]!.leaves })),
    };
    expect(partingInTime(own, late)).toBeUndefined();
    const away = {
      ...own,
      records: own.records.map((r, t) => (t < 40 ? r : { ...r, body: { ...r.body, x: r.body.x + 1 } })),
    };
    expect(partingInTime(own, away)).toEqual({ tick: 40, what: ['the bodies are 1.00 m apart'] });
  });
});
