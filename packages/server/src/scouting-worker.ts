import { once } from 'node:events';
import { parentPort, workerData } from 'node:worker_threads';
import { createScouting, proveAll, readCourse, readMoveset, type ScoutingProgress } from '@glenmark/core';
import { createPool, share } from '@glenmark/threads';

/** What the thread is given. `stop` is set from outside to end the search where it is. */
export interface ScoutingWork {
  moveset: string;
  courses: string[];
  situations: number;
  seed: number;
  grid?: number;
  /** Threads that expand; with one, this thread does it itself. */
  workers: number;
  stop: SharedArrayBuffer;
}

const REPORT_EVERY = 250;

const { moveset, courses, situations, seed, grid, workers, stop } = workerData as ScoutingWork;
const port = parentPort!;
const flag = new Int32Array(stop);
const { machine } = readMoveset(moveset);
const read = courses.map((text) => readCourse(text).course);
const missing = read.findIndex((course) => course === undefined);

if (machine === undefined) throw new Error('the moveset does not load any more');
if (missing >= 0) throw new Error(`course ${missing + 1} does not load any more`);

const proved = proveAll(machine, { product: 60_000, situations: 60_000 });
const scouting = createScouting(
  machine,
  read.map((course) => course!),
  proved.findings,
  proved.traps,
  { seed, ...(grid === undefined ? {} : { grid }), ...(workers > 1 ? { share } : {}) },
);
const died = (reason: string): void =>
  port.postMessage({ kind: 'note', note: `A thread died and was replaced: ${reason}.` });
const pool =
  workers > 1 ? createPool({ workers, moveset, courses, arenas: scouting.arenas, died }) : undefined;

const isStopped = (): boolean => Atomics.load(flag, 0) !== 0;
let reported = 0;
let found = 0;
const progress = ({ course, situations: done, ticks, coverage, findings }: ScoutingProgress): void => {
  const now = Date.now();
  if (now - reported < REPORT_EVERY && findings.length === found) return;
  reported = now;
  found = findings.length;
  port.postMessage({ kind: 'progress', course, done, ticks, coverage: coverage(), findings });
};

// Stopped, it keeps all that it knows and waits to be told to go on; whoever does not want that ends the thread.
for (;;) {
  await scouting.advance({
    situations,
    goesOn: () => !isStopped(),
    progress,
    ...(pool === undefined ? {} : { expand: pool.expand }),
  });
  const stopped = isStopped();
  const { situations: done, ...report } = scouting.report();
  port.postMessage({ kind: 'report', done, ...report, stopped });
  if (!stopped) break;
  await once(port, 'message');
}
await pool?.close();
port.close();
