import { readMoveset } from '@glenmark/core/machine';
import { play } from '@glenmark/core/run';
import { buildWorld, readCourse } from '@glenmark/core/world';
import courier from '../../../../../../../examples/courier.yaml' with { loader: 'text' };
import yard from '../../../../../../../examples/mill-yard.yaml' with { loader: 'text' };
import { lostPressNow, takenNow } from './happenings';

const machine = readMoveset(courier).machine!;
const course = readCourse(yard).course!;
const HOP = machine.controls.findIndex((c) => c.name === 'hop');

/** A run that presses hop at these ticks, for three ticks each. */
const hopsAt = (...ticks: number[]) =>
  play(
    machine,
    buildWorld(course, machine.stances, machine.casts),
    course.spawns[0]!,
    Array.from({ length: 300 }, (_, t) =>
      machine.controls.map((_c, c) => Number(c === HOP && ticks.some((from) => t >= from && t < from + 3))),
    ),
  );

describe('what happens while one drives', () => {
  it('shows a crossing for a moment after it was taken, then the state alone', () => {
    const trace = hopsAt(10);
    const { tick } = trace.records.find((r) => r.taken.length > 0)!;
    expect(takenNow(trace, tick)[0]).toMatchObject({ state: 'Rise', taken: 'Trot → Rise' });
    for (const { tick: at } of trace.records) {
      const isRecent = trace.records.some((r) => r.taken.length > 0 && r.tick <= at && r.tick > at - 24);
      expect(takenNow(trace, at)[0]!.taken !== undefined).toBe(isRecent);
    }
    expect(takenNow(trace, tick - 1)[0]).toMatchObject({ state: 'Trot', taken: undefined });
  });

  it('has a state for every lane before the first tick, too', () => {
    const { records, ...rest } = hopsAt();
    expect(records).toHaveLength(300);
    expect(takenNow({ ...rest, records: [] }, -1).map((l) => l.state)).toEqual(['Trot', 'Folded']);
  });

  it('says which press opened nothing and what was missing, and leaves off after a while', () => {
    const trace = hopsAt(10, 22, 30);
    expect(lostPressNow(trace, 29)).toBeUndefined();
    const lost = lostPressNow(trace, 50)!;
    expect(lost).toMatchObject({ tick: 30, control: 'hop' });
    expect(lost.why).toContain('Rise → Rise');
    expect(lost.why).toContain('hopsLeft > 0');
    expect(lostPressNow(trace, 30 + 4 * machine.rate)).toBeUndefined();
  });
});
