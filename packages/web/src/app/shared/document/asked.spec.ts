import draft from '../../../../../../examples/courier-draft.yaml' with { loader: 'text' };
import { type Finding, proveAll } from '@glenmark/core/findings';
import { readMoveset } from '@glenmark/core/machine';
import fc from 'fast-check';
import { askedOf } from './asked';

const { findings } = proveAll(readMoveset(draft).machine!);

describe('what the bar and the shelf count', () => {
  it('is every finding once, but those that are accepted and those that are only untidy', () => {
    fc.assert(
      fc.property(fc.subarray(findings), fc.integer({ min: 1, max: 7 }), (some, every) => {
        const marked = some.map((f, i): Finding => (i % every === 0 ? { ...f, accepted: 'so it is' } : f));
        const asked = askedOf(marked);
        const counted = marked.filter((f) => f.accepted === undefined && !f.code.startsWith('TD'));
        expect(asked.reduce((sum, a) => sum + a.count, 0)).toBe(counted.length);
        for (const { count, tone } of asked) expect(tone === 'ok').toBe(count === 0);
      }),
    );
  });

  it('is the three questions first', () => {
    expect(askedOf([]).map((a) => a.question)).toEqual(['in', 'out', 'agree', 'risky']);
  });
});
