import fc from 'fast-check';
import { expect, it } from 'vitest';
import { randomCase } from './random-moveset.js';
import { type Looked, wrongIn } from './soundness.js';

/** How many random movesets; every so many of them is scouted too, which takes ten times as long. `npm run soundness` tries many more. */
const RUNS = Number(process.env['GLENMARK_RUNS'] ?? 120);
const SCOUTED = 10;

it('nothing that is proved or witnessed of a random moveset is wrong', { timeout: 100_000_000 }, async () => {
  let cases = 0;
  const looked: Looked = { proved: 0, witnessed: 0, ticks: 0 };
  await fc.assert(
    fc.asyncProperty(randomCase, fc.nat(), async (found, seed) => {
      expect(await wrongIn(found, seed, looked, cases++ % SCOUTED === 0), found.moveset).toBeUndefined();
    }),
    // A case as it was found says enough; to shrink it would take hours.
    { numRuns: RUNS, endOnFailure: true },
  );
  if (RUNS > 500) console.log(`${RUNS} movesets: ${JSON.stringify(looked)}, none wrong`);
  // Far below what chance gives: some sixteen proved in each moveset, and one witnessed in each that is scouted.
  expect(looked.proved).toBeGreaterThan(RUNS / 2);
  expect(looked.witnessed).toBeGreaterThan(RUNS / SCOUTED / 6);
});
