// Loading and checking a large moveset.
import { findAll } from '../../packages/core/dist/findings/index.js';
import { readMoveset } from '../../packages/core/dist/machine/index.js';
import { median, report } from './measure.mjs';
import { readCourse } from '../../packages/core/dist/world/index.js';
import { largeMoveset, longCourse } from './movesets.mjs';
import { rigidSteps } from './yardstick.mjs';

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
  const both = median(15, () => findAll(readMoveset(large).machine, []));
  report('load and check it', both, 'ms', 'target: under 150 ms');
  // Beside a fixed piece of work: how fast this machine is just now.
  const steps = rigidSteps(readCourse(longCourse(60)).course);
  const yardstick = median(15, () => steps.forEach(({ work }) => work()));
  const count = steps.reduce((all, slice) => all + slice.count, 0);
  report('load and check it, in rigid-body steps among 60 solids', (both / yardstick) * count, 'steps');
}
