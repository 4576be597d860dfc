// Loading and checking a large moveset.
import { findAll } from '../../packages/core/dist/findings/index.js';
import { readMoveset } from '../../packages/core/dist/machine/index.js';
import { median, report } from './measure.mjs';
import { largeMoveset } from './movesets.mjs';

export function benchLoading() {
  const large = largeMoveset(4, 60, 400);
  const loaded = readMoveset(large);
  if (loaded.machine === undefined) throw new Error(loaded.diagnostics[0].message);
  report(
    'load a moveset of 60 states, 400 crossings, 4 lanes',
    median(15, () => readMoveset(large)),
    'ms',
  );
  report(
    'check it (structure and every guard)',
    median(15, () => findAll(loaded.machine, [])),
    'ms',
  );
  report(
    'load and check it',
    median(15, () => findAll(readMoveset(large).machine, [])),
    'ms',
    'target: under 150 ms',
  );
}
