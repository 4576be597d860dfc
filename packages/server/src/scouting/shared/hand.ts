import { Worker } from 'node:worker_threads';
import type { LegAnswer, LegQuestion } from './leg-work.js';

/** The built thread, beside this file. */
const THREAD = new URL('./leg-thread.js', import.meta.url);
/** Heap of a thread (MiB). */
const MEMORY = 2048;

/** What a thread gives in the end. */
export type LastAnswer = Exclude<LegAnswer, { kind: 'progress' }>;

/** A thread that searches legs, one after the other. */
export interface Hand {
  /** How many legs of which scouting the thread knows. */
  knows: { key: string; legs: number };
  /** Asks for one thing at a time. Fails when the thread dies; the next question begins another one. */
  ask(question: LegQuestion, progress: (situations: number, ticks: number) => void): Promise<LastAnswer>;
  /** Ends what it is at, without a result. */
  stop(): void;
  close(): Promise<unknown>;
}

export function createHand(file = THREAD): Hand {
  const flag = new SharedArrayBuffer(4);
  const stop = new Int32Array(flag);
  let worker: Worker | undefined;
  let waiting: { take: (answer: LegAnswer) => void; fail: (error: Error) => void } | undefined;

  const begin = (): Worker => {
    const own = new Worker(file, {
      workerData: flag,
      execArgv: [],
      resourceLimits: { maxOldGenerationSizeMb: MEMORY },
    });
    const gone = (error: Error): void => {
      if (worker !== own) return;
      worker = undefined;
      hand.knows = { key: '', legs: 0 };
      waiting?.fail(error);
    };
    own.on('message', (answer: LegAnswer) => waiting?.take(answer));
    own.on('error', gone);
    own.on('exit', (code) => gone(new Error(`its thread ended with code ${code}`)));
    return own;
  };

  const hand: Hand = {
    knows: { key: '', legs: 0 },
    ask(question, progress) {
      Atomics.store(stop, 0, 0);
      worker ??= begin();
      const asked = worker;
      return new Promise<LastAnswer>((done, fail) => {
        waiting = {
          take(answer) {
            if (answer.kind === 'progress') return progress(answer.situations, answer.ticks);
            const legs = answer.kind === 'failed' ? 0 : answer.legs;
            hand.knows = { key: legs === 0 ? '' : question.key, legs };
            done(answer);
          },
          fail,
        };
        asked.postMessage(question);
      }).finally(() => (waiting = undefined));
    },
    stop: () => void Atomics.store(stop, 0, 1),
    async close() {
      const own = worker;
      worker = undefined;
      await own?.terminate();
    },
  };
  return hand;
}
