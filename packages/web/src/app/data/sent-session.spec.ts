import marram from '../../../../../examples/marram.yaml' with { loader: 'text' };
import climb from '../../../../../examples/shaft-climb.yaml' with { loader: 'text' };
import mill from '../../../../../examples/tide-mill.yaml' with { loader: 'text' };
import { readMoveset } from '@glenmark/core/machine';
import { readTape, runTape, why } from '@glenmark/core/run';
import { readCourse } from '@glenmark/core/world';
import { received, sent } from './sent-session';

const course = readCourse(mill).course!;
const played = readMoveset(marram).machine!;
const session = runTape(played, course, readTape(climb).tape!).session!;

describe('a run that is sent', () => {
  it('tells the same with the machine and the course of whoever receives it', () => {
    const machine = readMoveset(marram).machine!;
    const arrived = received(structuredClone(sent(session)), machine, course);
    expect(arrived.digest).toBe(session.digest);
    for (let tick = 0; tick < session.trace.records.length; tick += 60)
      expect(why(arrived.trace, arrived.world, tick)).toEqual(why(session.trace, session.world, tick));
  });

  it('keeps the world of the run before only for the same machine on the same course', () => {
    const first = received(sent(session), played, course);
    expect(received(sent(session), played, course, first).world).toBe(first.world);
    expect(received(sent(session), readMoveset(marram).machine!, course, first).world).not.toBe(first.world);
    expect(received(sent(session), played, readCourse(mill).course!, first).world).not.toBe(first.world);
  });

  it('is small beside what it is a run of', () => {
    const own = JSON.stringify(sent({ ...session, trace: { ...session.trace, records: [] } })).length;
    expect(own).toBeLessThan(JSON.stringify(played).length / 10);
  });
});
