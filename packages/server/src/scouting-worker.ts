import { parentPort, workerData } from 'node:worker_threads';
import { proveAll, readCourse, readMoveset, scoutAll } from '@glenmark/core';

/** What the worker is given. `stop` is set from outside to end the search where it is. */
export interface ScoutingWork {
  moveset: string;
  courses: string[];
  situations: number;
  seed: number;
  stop: SharedArrayBuffer;
}

const REPORT_EVERY = 250;

const { moveset, courses, situations, seed, stop } = workerData as ScoutingWork;
const flag = new Int32Array(stop);
const { machine } = readMoveset(moveset);
const read = courses.map((text) => readCourse(text).course);
const missing = read.findIndex((course) => course === undefined);

if (machine === undefined) throw new Error('the moveset does not load any more');
if (missing >= 0) throw new Error(`course ${missing + 1} does not load any more`);

const proved = proveAll(machine, { product: 60_000, situations: 60_000 });
let reported = 0;
const report = await scoutAll(
  machine,
  read.map((course) => course!),
  proved.findings,
  proved.traps,
  {
    seed,
    situations,
    // The search asks for the time in each round: a stop is the end of time.
    time: Number.MAX_SAFE_INTEGER,
    now: () => (Atomics.load(flag, 0) === 0 ? 0 : Infinity),
    progress({ course, situations: done, ticks, coverage }) {
      const now = Date.now();
      if (now - reported < REPORT_EVERY) return;
      reported = now;
      parentPort!.postMessage({ kind: 'progress', course, done, ticks, coverage: coverage() });
    },
  },
);
parentPort!.postMessage({
  kind: 'report',
  done: report.situations,
  ticks: report.ticks,
  coverage: report.coverage,
  findings: report.findings,
});
