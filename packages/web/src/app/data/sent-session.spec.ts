import marram from '../../../../../examples/marram.yaml' with { loader: 'text' };
import climb from '../../../../../examples/shaft-climb.yaml' with { loader: 'text' };
import mill from '../../../../../examples/tide-mill.yaml' with { loader: 'text' };
import { readMoveset } from '@glenmark/core/machine';
import { readTape, runTape, why } from '@glenmark/core/run';
import { readCourse } from '@glenmark/core/world';
import { received, sent } from './sent-session';

const { machine } = readMoveset(marram);
const { course } = readCourse(mill);
const { tape } = readTape(climb);
const session = runTape(machine!, course!, tape!).session!;

describe('a run that is sent', () => {
  it('is data alone, and tells the same once it is received', () => {
    const arrived = received(structuredClone(sent(session)));
    expect(arrived.digest).toBe(session.digest);
    for (let tick = 0; tick < session.trace.records.length; tick += 60)
      expect(why(arrived.trace, arrived.world, tick)).toEqual(why(session.trace, session.world, tick));
  });

  it('leaves its course out when the receiver has its world', () => {
    const first = received(structuredClone(sent(session)));
    const next = structuredClone(sent(session, true));
    expect(next.course).toBeUndefined();
    expect(received(next, first.world).world).toBe(first.world);
  });
});
