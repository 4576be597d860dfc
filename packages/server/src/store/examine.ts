import { Worker } from 'node:worker_threads';
import type { Verdict } from './examine-thread.js';

/** Longest time an examination may take before its database counts as one that does not open (ms). */
const LIMIT = 120_000;

/**
 * Opens a database in a thread of its own, gives it the journal's rest, checks it and closes it again. A damaged database
 * may make PostgreSQL end, or spin for ever; both are an answer here.
 */
export function examine(database: string, journal: string, limit = LIMIT): Promise<Verdict> {
  return new Promise((done) => {
    const worker = new Worker(new URL('./examine-thread.js', import.meta.url), {
      workerData: { database, journal },
      execArgv: [],
      stdout: true,
      stderr: true,
    });
    const end = (verdict: Verdict): void => {
      clearTimeout(timer);
      done(verdict);
      void worker.terminate();
    };
    const damaged = (reason: string): void => end({ state: 'damaged', reason });
    const timer = setTimeout(() => damaged('it did not open in time'), limit);
    worker.once('message', end);
    worker.once('error', (error: Error) => damaged(error.message));
    worker.once('exit', () => damaged('it ended while it was opened'));
  });
}
