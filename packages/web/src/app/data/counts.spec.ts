import courier from '../../../../../examples/courier.yaml' with { loader: 'text' };
import yard from '../../../../../examples/mill-yard.yaml' with { loader: 'text' };
import crossing from '../../../../../examples/yard-crossing.yaml' with { loader: 'text' };
import { edit } from '@glenmark/core/model';
import { finished } from '@glenmark/core/steps';
import { type Counts, counting } from './counts';

const tapes = [{ tape: crossing, course: yard }];
const countsOf = (moveset: string): Counts | undefined => finished(counting({ moveset, tapes }));

describe('the counts of a moveset', () => {
  it('are its findings that nobody accepts, and how many expectations are met', () => {
    const own = countsOf(courier)!;
    expect(own).toMatchObject({ met: 6, of: 6 });
    const idle = countsOf(edit(courier, [{ path: ['variables', 'idle'], value: { flag: false } }]))!;
    expect(idle.findings).toBeGreaterThan(own.findings);
    expect(countsOf(edit(courier, [{ path: ['gravity'], value: '400 m/s2' }]))!.met).toBeLessThan(6);
  });

  it('are none of a moveset that does not load', () => {
    expect(countsOf('nonsense')).toBeUndefined();
  });
});
