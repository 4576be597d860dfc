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
import { createPool, share } from '../../packages/threads/dist/index.js';
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
  const scouted = (situations, workers = 0) => {
    const { stdout } = spawnSync(process.execPath, [own, String(situations), String(workers)], {
      encoding: 'utf8',
    });
    return JSON.parse(stdout);
  };
  const [few, some, many] = isBrief ? [3000, 3000, 6000] : [300_000, 1_000_000, 5_000_000];
  const short = scouted(few);
  report('scouting the demo, one thread', short.situations / short.seconds, 'new/s', 'target: 300,000');
  report('the same', short.ticks / short.seconds, 'ticks/s');
  report('ticks for a new situation', short.ticks / short.situations, 'ticks');
  report(
    `crossings of the demo taken in ${few.toLocaleString('en')} situations`,
    short.taken,
    `of ${short.crossings}`,
  );
  const [one, two] = [scouted(some), scouted(some, 1)];
  report('scouting with two threads against one', one.seconds / two.seconds, 'times as fast');
  report('the processor time it takes for that', two.processor / one.processor, 'times');
  const long = scouted(many);
  report(`${many.toLocaleString('en')} situations of the demo`, long.seconds, 's');
  report('new situations a second on that way', long.situations / long.seconds, 'new/s', 'target: 300,000');
  report('the most memory that took', long.maxMemory, 'MiB', 'target: 1,024');
  const grown = (long.maxMemory - short.maxMemory) * 2 ** 20;
  report('memory for a situation', Math.max(1, grown / (long.situations - short.situations)), 'bytes');
}

/**
 * One scouting of the demo, with so many threads beside this one, printed as JSON: what this file does when it is run by
 * itself.
 */
async function scoutDemo(situations, workers) {
  const [moveset, courseText] = [sample('marram.yaml'), sample('tide-mill.yaml')];
  const { machine } = readMoveset(moveset);
  const { course } = readCourse(courseText);
  const scout = createScout(machine, course, { seed: 1, ...(workers > 0 ? { share } : {}) });
  const pool = createPool({ workers, moveset, courses: [courseText], arenas: [scout.arena] });
  const start = process.hrtime.bigint();
  const before = process.cpuUsage();
  let ahead;
  while (scout.progress().situations < situations) {
    const round = scout.draw();
    const expanding = pool.expand(0, round, (slot, tellsAll) => scout.expandIn(slot, round.goals, tellsAll));
    if (ahead !== undefined) scout.merge(ahead.round, await ahead.expanding.finish());
    ahead = { round, expanding };
  }
  const seconds = Number(process.hrtime.bigint() - start) / 1e9;
  const { user, system } = process.cpuUsage(before);
  const maxMemory = process.resourceUsage().maxRSS / 1024;
  const processor = (user + system) / 1e6;
  process.stdout.write(JSON.stringify({ ...scout.progress(), seconds, processor, maxMemory }));
  await pool.close();
}

if (process.argv[1] === fileURLToPath(import.meta.url))
  await scoutDemo(Number(process.argv[2]), Number(process.argv[3]));
