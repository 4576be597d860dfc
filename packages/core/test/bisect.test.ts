import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { firstNot } from '@glenmark/core/history';

describe('the first of a list that is not so', () => {
  it('is found with as few questions as halving takes', async () => {
    await fc.assert(
      fc.asyncProperty(fc.integer({ min: 2, max: 2000 }), fc.nat(), async (length, at) => {
        const first = 1 + (at % (length - 1));
        const list = Array.from({ length }, (_, i) => i);
        let asked = 0;
        const found = await firstNot(list, async (i) => {
          asked++;
          return Promise.resolve(i < first);
        });
        expect(found).toBe(first);
        expect(asked).toBeLessThanOrEqual(Math.ceil(Math.log2(length)));
      }),
    );
  });

  it('is where a yes is followed by a no, when the answers go to and fro', async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(fc.boolean(), { maxLength: 40 }), async (middle) => {
        const answers = [true, ...middle, false];
        const found = await firstNot(answers, async (holds) => Promise.resolve(holds));
        expect([answers[found - 1], answers[found]]).toEqual([true, false]);
      }),
    );
  });
});
