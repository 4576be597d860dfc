import { readMoveset, slotOf } from '@glenmark/core/machine';
import { readTape, runTape } from '@glenmark/core/run';
import { readCourse } from '@glenmark/core/world';
import marram from '../../../../../../examples/marram.yaml' with { loader: 'text' };
import climb from '../../../../../../examples/shaft-climb.yaml' with { loader: 'text' };
import mill from '../../../../../../examples/tide-mill.yaml' with { loader: 'text' };
import { castsAt } from './casts';

describe('the probes of a run', () => {
  const machine = readMoveset(marram).machine!;
  const session = runTape(machine, readCourse(mill).course!, readTape(climb).tape!).session!;
  const { records, start } = session.trace;

  it('start at the body as the tick found it, are as long as they saw, and look where it faces', () => {
    let hits = 0;
    records.forEach(({ facts }, tick) => {
      const at = records[tick - 1]?.body ?? start;
      for (const cast of castsAt(session, tick)) {
        const probe = machine.probes.find((p) => p.name === cast.name)!;
        const facing = facts[slotOf(machine.facts, 'facing')]!;
        expect(cast.x).toBeCloseTo(at.x + probe.x * facing, 9);
        expect(cast.y).toBeCloseTo(at.y + probe.y, 9);
        const length = Math.hypot(cast.x2 - cast.x, cast.y2 - cast.y);
        expect(length).toBeCloseTo(facts[slotOf(machine.facts, 'distance', cast.name)]!, 9);
        expect(length).toBeLessThanOrEqual(probe.reach + 1e-9);
        if (length > 1e-6) expect(Math.sign(cast.x2 - cast.x)).toBe(facing);
        if (cast.hit) hits++;
        else expect(length).toBeCloseTo(probe.reach, 9);
      }
    });
    // She climbs between two walls, so her brow meets both.
    expect(hits).toBeGreaterThan(20);
    expect(hits).toBeLessThan(records.length);
  });
});
