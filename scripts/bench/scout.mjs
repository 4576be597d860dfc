// The search: one guard, the skeleton, and scouting the demo; the long scouting last.
import { spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { proveAll } from '../../packages/core/dist/findings/index.js';
import { readMoveset } from '../../packages/core/dist/machine/index.js';
import { createScout } from '../../packages/core/dist/scout/index.js';
import { canHold, formulaOf } from '../../packages/core/dist/solver/index.js';
import { readCourse } from '../../packages/core/dist/world/index.js';
import { root } from '../build.mjs';
import { isBrief, median, report } from './measure.mjs';

const sample = (file) => readFileSync(join(root, 'examples', file), 'utf8');

export function benchScouting() {
  const { machine } = readMoveset(sample('marram.yaml'));
  const guards = machine.lanes
    .flatMap((l) => l.crossings.flatMap((c) => c.when ?? []))
    .map((e) => formulaOf(e));
  report(
    'one guard of the demo, in the solver',
    (1000 * median(30, () => guards.forEach((g) => canHold(machine, [g])))) / guards.length,
    'µs',
    'target: well under 1,000',
  );
  report(
    'all that is proved of the demo, skeleton and all',
    median(3, () => proveAll(readMoveset(sample('marram.yaml')).machine)),
    'ms',
    'target: under 2,000',
  );
  // Each scouting in a process of its own: it is what a user runs, and code that has served several machines is slower.
  const own = fileURLToPath(import.meta.url);
  const scouted = (situations) => {
    const { stdout } = spawnSync(process.execPath, [own, String(situations)], { encoding: 'utf8' });
    return JSON.parse(stdout);
  };
  const [few, many] = isBrief ? [3000, 6000] : [300_000, 5_000_000];
  const short = scouted(few);
  report('scouting the demo, one core', short.situations / short.seconds, 'new/s', 'target: 300,000');
  report('the same', short.ticks / short.seconds, 'ticks/s');
  report(
    `crossings of the demo taken in ${few.toLocaleString('en')} situations`,
    short.taken,
    `of ${short.crossings}`,
  );
  const long = scouted(many);
  report(`${many.toLocaleString('en')} situations of the demo`, long.seconds, 's');
  report('the most memory that took', long.maxMemory, 'MiB', 'target: 1,024');
}

/** One scouting of the demo, printed as JSON: what this file does when it is run by itself. */
function scoutDemo(situations) {
  const { machine } = readMoveset(sample('marram.yaml'));
  const scout = createScout(machine, readCourse(sample('tide-mill.yaml')).course, { seed: 1 });
  const start = process.hrtime.bigint();
  while (scout.progress().situations < situations) scout.round();
  const seconds = Number(process.hrtime.bigint() - start) / 1e9;
  const maxMemory = process.resourceUsage().maxRSS / 1024;
  process.stdout.write(JSON.stringify({ ...scout.progress(), seconds, maxMemory }));
}

if (process.argv[1] === fileURLToPath(import.meta.url)) scoutDemo(Number(process.argv[2]));
