import { Worker } from 'node:worker_threads';
import { type Arena, MOVES, type Outcome, type Result, type Round } from '@glenmark/core/scout';
import type { Beginning, Reply, Share } from './share.js';

/** How often a share is given to another worker when the one that had it dies. */
const MAX_TRIES = 3;

/** Heap of a worker (MiB): what is searched lies in shared memory, outside it. */
const MEMORY = 1024;

export interface PoolOptions {
  workers: number;
  moveset: string;
  courses: readonly string[];
  /** The scouting's arenas, one a course, in memory that `share` made. */
  arenas: readonly Arena[];
  /** Told when a worker dies, with the reason; another takes over its share. */
  died?: (reason: string) => void;
  /** The worker's file; for tests. */
  file?: URL;
}

export interface Pool {
  /** Expands a round on a course. Fails when a share killed several workers one after the other. */
  expand(course: number, round: Round): Promise<(readonly Outcome[])[]>;
  close(): Promise<void>;
}

const NOTHING: Result = { events: [], distances: [] };

/** The built worker, beside this file. */
const WORKER = new URL('./worker.js', import.meta.url);

/** Memory that the workers of a pool share. */
export const share = (bytes: number): SharedArrayBuffer => new SharedArrayBuffer(bytes);

/**
 * Worker threads that expand the situations of a round together. What comes of a situation depends on nothing but the
 * situation and its seed, and the answers are put together in order: the report is the same however many there are,
 * and whichever of them die.
 */
export function createPool({
  workers: count,
  moveset,
  courses,
  arenas,
  died = () => undefined,
  file = WORKER,
}: PoolOptions): Pool {
  const workerData: Beginning = { moveset, courses, buffers: arenas.map((a) => a.buffer) };
  const begin = (): Hand =>
    beginHand(
      new Worker(file, { workerData, execArgv: [], resourceLimits: { maxOldGenerationSizeMb: MEMORY } }),
    );
  const hands = Array.from({ length: count }, begin);
  let closing = false;

  /** A share by one of the workers; when it dies another one is begun in its place and does the share again. */
  const done = async (i: number, work: Share): Promise<Reply> => {
    for (let tries = 1; ; tries++) {
      const hand = hands[i]!;
      try {
        return await hand.ask(work);
      } catch (error) {
        const reason = error instanceof Error ? error.message : String(error);
        if (closing) throw error;
        // Two shares may have been with it; it is replaced once.
        if (hands[i] === hand) {
          died(reason);
          void hand.worker.terminate();
          hands[i] = begin();
        }
        if (tries === MAX_TRIES)
          throw new Error(`a scouting worker died ${tries} times: ${reason}`, { cause: error });
      }
    }
  };

  return {
    async expand(course, { tasks, goals, guided }) {
      const size = Math.ceil(tasks.length / count);
      const replies = await Promise.all(
        hands.map((_, i) => {
          const own = tasks.slice(i * size, (i + 1) * size).map(({ slot, seed }) => ({ slot, seed }));
          return own.length === 0 ? [] : done(i, { course, tasks: own, goals, guided });
        }),
      );
      const found = new Map(replies.flat().map((result) => [result.slot * MOVES + result.move, result]));
      const arena = arenas[course]!;
      return tasks.map(({ slot }) => {
        const outcomes = arena.outcomes(slot);
        for (const [move, outcome] of outcomes.entries()) {
          const { events, distances } = found.get(slot * MOVES + move) ?? NOTHING;
          outcome.events = events;
          outcome.distances = distances;
        }
        return outcomes;
      });
    },
    async close() {
      closing = true;
      await Promise.all(hands.map(({ worker }) => worker.terminate()));
    },
  };
}

/** A worker with the shares that it has not answered yet, in the order in which they were given to it. */
interface Hand {
  worker: Worker;
  ask(work: Share): Promise<Reply>;
}

function beginHand(worker: Worker): Hand {
  const waiting: { resolve: (reply: Reply) => void; reject: (error: Error) => void }[] = [];
  let dead: Error | undefined;
  const fail = (error: Error): void => {
    dead ??= error;
    for (const { reject } of waiting.splice(0)) reject(dead);
  };
  // What a worker said before it died may come after the news of its death: its shares are with another by then.
  worker.on('message', (reply: Reply) => waiting.shift()?.resolve(reply));
  worker.on('error', fail);
  worker.on('exit', (code) => fail(new Error(`it ended with code ${code}`)));
  return {
    worker,
    ask: (work) =>
      new Promise((resolve, reject) => {
        if (dead !== undefined) reject(dead);
        else {
          waiting.push({ resolve, reject });
          worker.postMessage(work);
        }
      }),
  };
}
