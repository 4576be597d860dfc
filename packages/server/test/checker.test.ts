import { createChecker } from '@glenmark/server';
import { afterAll, describe, expect, it } from 'vitest';
import { courier } from './test-server.js';

const hurried = createChecker({ limit: 1 });
const small = createChecker({ memory: 64, limit: 60_000 });
const crowded = createChecker({ waiting: 1 });
afterAll(() => Promise.all([hurried.close(), small.close(), crowded.close()]));

/** A text that takes much longer to read than a small one may be tried again for. */
const large = `${courier}\n# ${'x'.repeat(200_000)}\n`;

describe('checking a document', () => {
  it('that takes too long is refused with what to do, and the next one is checked', async () => {
    await expect(hurried.check('moveset', large)).rejects.toMatchObject({
      problem: {
        status: 422,
        title: 'The document is too large to check',
        detail: expect.stringContaining('Split it into several') as string,
      },
    });
    const patient = createChecker();
    expect(await patient.check('moveset', courier)).toMatchObject({ name: 'Courier', errors: 0 });
    await patient.close();
  });

  it('that takes too much memory is refused, and the server lives', async () => {
    const wide = `glenmark: 1\nkind: course\nname: Wide\nspawns: { a: { at: [0 m, 0 m] } }\nsolids:\n${'  - { box: [[0 m, 0 m], [1 m, 1 m]] }\n'.repeat(19_000)}`;
    await expect(small.check('course', wide)).rejects.toMatchObject({ problem: { status: 422 } });
  });

  it('waits for its turn, and is refused for now when too many wait', async () => {
    const all = await Promise.allSettled(Array.from({ length: 30 }, () => crowded.check('moveset', courier)));
    const refused = all.filter((r) => r.status === 'rejected');
    expect(refused.length).toBeGreaterThan(0);
    expect(refused.length).toBeLessThan(30);
    for (const { reason } of refused as PromiseRejectedResult[])
      expect(reason).toMatchObject({ problem: { status: 503 } });
  });

  it('says the kind that a text says it is, and how many errors there are beyond those that it tells', async () => {
    const checker = createChecker();
    expect(await checker.check(undefined, courier)).toMatchObject({ kind: 'moveset', errors: 0 });
    expect(await checker.check(undefined, 'a: 1')).toMatchObject({ kind: undefined, errors: 0 });
    const crossings = Array.from({ length: 300 }, () => '      - { from: Nowhere, to: Trot }').join('\n');
    const { diagnostics, errors } = await checker.check(
      'moveset',
      courier.replace(/^ {4}crossings:$/m, `    crossings:\n${crossings}`),
    );
    expect([diagnostics.length, errors >= 300]).toEqual([100, true]);
    await checker.close();
  });

  it('can end while its threads are still loading, and this process lives on', async () => {
    for (let ms = 20; ms < 420; ms += 20) {
      const checkers = [createChecker(), createChecker()];
      await new Promise((later) => setTimeout(later, ms));
      await Promise.all(checkers.map((checker) => checker.close()));
    }
  });
});
