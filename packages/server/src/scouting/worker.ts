import { once } from 'node:events';
import { getHeapStatistics } from 'node:v8';
import { parentPort, workerData } from 'node:worker_threads';
import { type ScoutingProgress, scoutingOf, type SearchTexts } from '@glenmark/core/findings';
import { createPool, share } from '@glenmark/threads';

/** What the thread is given. `stop` is set from outside to end the search where it is. */
export interface ScoutingWork extends SearchTexts {
  situations: number;
  /** Threads that expand, this one among them. */
  workers: number;
  /** Memory past which it ends with what it found (MiB). */
  memory: number;
  stop: SharedArrayBuffer;
}

const REPORT_EVERY = 250;

const { moveset, courses, situations, seed, grid, workers, memory, stop } = workerData as ScoutingWork;
const port = parentPort!;
const flag = new Int32Array(stop);
const scouting = scoutingOf(
  { moveset, courses, seed, ...(grid === undefined ? {} : { grid }) },
  workers > 1 ? share : undefined,
);
const died = (reason: string): void =>
  port.postMessage({ kind: 'note', note: `A thread died and was replaced: ${reason}.` });
const pool =
  workers > 1
    ? createPool({ workers: workers - 1, moveset, courses, arenas: scouting.arenas, died })
    : undefined;

const isStopped = (): boolean => Atomics.load(flag, 0) !== 0;

/** How often its memory is looked at (ms): the figures cost time. */
const LOOK_EVERY = 500;
let looked = 0;
let isFull = false;

/** Whether the search has grown past its memory; then it ends with what it found. */
function isOverMemory(): boolean {
  const now = Date.now();
  if (isFull || now - looked < LOOK_EVERY) return isFull;
  looked = now;
  const { used_heap_size: heap, external_memory: outside } = getHeapStatistics();
  isFull = heap + outside > memory * 2 ** 20;
  if (isFull)
    port.postMessage({ kind: 'note', note: `It ended early: its memory of ${memory} MB was full.` });
  return isFull;
}

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
    goesOn: () => !isStopped() && !isOverMemory(),
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
