import { Worker } from 'node:worker_threads';
import type { CheckAnswer, CheckAsked } from './checking.js';

/** Where movesets are checked, beside the thread that answers. */
export interface Checks {
  ask(asked: CheckAsked): void;
  close(): Promise<void>;
}

/** `answered` is told of each answer, `failed` of a check that ended the thread; the next one begins another. */
export function createChecks(
  answered: (answer: CheckAnswer) => void,
  failed: (reason: Error) => void,
): Checks {
  let worker: Worker | undefined;
  const begun = (): Worker => {
    const fresh = new Worker(new URL('./check-worker.js', import.meta.url));
    fresh.on('message', answered);
    fresh.on('error', (error) => {
      worker = undefined;
      failed(error);
    });
    return fresh;
  };
  return {
    ask: (asked) => (worker ??= begun()).postMessage(asked),
    close: async () => void (await worker?.terminate()),
  };
}
