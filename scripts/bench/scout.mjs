// The search: one guard, the skeleton, and scouting the demo; the long scouting last.
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import {
  canHold,
  createScout,
  formulaOf,
  proveAll,
  readCourse,
  readMoveset,
} from '../../packages/core/dist/index.js';
import { root } from '../build.mjs';
import { median, report } from './measure.mjs';

const sample = (file) => readFileSync(join(root, 'examples', file), 'utf8');

export function benchScouting() {
  const { machine } = readMoveset(sample('marram.yaml'));
  const { course } = readCourse(sample('tide-mill.yaml'));
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
  const scouted = (situations) => {
    const scout = createScout(machine, course, { seed: 1 });
    const start = process.hrtime.bigint();
    while (scout.progress().situations < situations) scout.round();
    const seconds = Number(process.hrtime.bigint() - start) / 1e9;
    return { ...scout.progress(), seconds };
  };
  scouted(50_000);
  const short = scouted(300_000);
  report('scouting the demo, one core', short.situations / short.seconds, 'new/s', 'target: 300,000');
  report('the same', short.ticks / short.seconds, 'ticks/s');
  report('crossings of the demo taken in 300,000 situations', short.taken, `of ${short.crossings}`);
  const long = scouted(5_000_000);
  report('5 million situations of the demo', long.seconds, 's');
  report('the memory of the process after them', process.memoryUsage().rss / 2 ** 20, 'MiB', 'target: 1,024');
}
