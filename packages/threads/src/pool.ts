import { Worker } from 'node:worker_threads';
import type { Elsewhere } from '@glenmark/core/findings';
import type { Arena, Outcome, Result } from '@glenmark/core/scout';
import { createClaims } from './claims.js';
import type { Beginning, Reply, Work } from './share.js';

/** How often in a row a worker may die before it has answered. */
const MAX_DEATHS = 3;

/** Heap of a worker (MiB): what is searched lies in shared memory, outside it. */
const MEMORY = 1024;

export interface PoolOptions {
  /** Threads beside the one that calls, which takes part, too: more than cores in all only wait for each other. */
  workers: number;
  moveset: string;
  courses: readonly string[];
  /** The scouting's arenas, one a course, in memory that `share` made. */
  arenas: readonly Arena[];
  /** Told when a worker dies, with the reason; another one is begun in its place. */
  died?: (reason: string) => void;
  /** The worker's file; for tests. */
  file?: URL;
}

export interface Pool {
  /** Expands rounds: fails when workers died several times in a row without an answer. */
  expand: Elsewhere;
  close(): Promise<void>;
}

const NOTHING: Result = { events: [], distances: [] };

/** The built worker, beside this file. */
const WORKER = new URL('./worker.js', import.meta.url);

/** Memory that the workers of a pool share. */
export const share = (bytes: number): SharedArrayBuffer => new SharedArrayBuffer(bytes);

/**
 * Worker threads that expand the situations of a round together with the thread that calls: each claims one after the
 * other. What comes of a situation depends on nothing but the situation and its input, and the answers are put together in
 * order: the report is the same however many there are, and whichever of them die.
 */
export function createPool({
  workers: count,
  moveset,
  courses,
  arenas,
  died = () => undefined,
  file = WORKER,
}: PoolOptions): Pool {
  const claims = createClaims();
  const begin = (id: number): Hand => {
    const workerData: Beginning = {
      moveset,
      courses,
      buffers: arenas.map((a) => a.buffer),
      claims: claims.buffer,
      id,
    };
    const resourceLimits = { maxOldGenerationSizeMb: MEMORY };
    return beginHand(new Worker(file, { workerData, execArgv: [], resourceLimits }));
  };
  /** The worker that claims by a number, and how often in a row it died. */
  const hands = Array.from({ length: count }, (_, i) => ({ hand: begin(i + 1), deaths: 0 }));
  let closing = false;
  let turn = 0;

  /** A worker's part of a round; undefined when it died before it could tell what came of it. */
  const part = async (i: number, work: Work): Promise<Reply | undefined> => {
    const place = hands[i]!;
    const { hand } = place;
    try {
      const reply = await hand.ask(work);
      place.deaths = 0;
      return reply;
    } catch (error) {
      if (closing) throw error;
      // Two rounds may have been with it; it is replaced once.
      if (place.hand !== hand) return undefined;
      const reason = error instanceof Error ? error.message : String(error);
      died(reason);
      void hand.worker.terminate();
      if (++place.deaths === MAX_DEATHS)
        throw new Error(`a scouting worker died ${MAX_DEATHS} times: ${reason}`, { cause: error });
      place.hand = begin(i + 1);
      return undefined;
    }
  };

  return {
    expand(course, { tasks, goals }, here) {
      const arena = arenas[course]!;
      const slots = tasks.map(({ slot }) => slot);
      const own = (turn = 1 - turn);
      claims.begin(own);
      const parts = hands.map((_, i) => part(i, { course, slots, goals, turn: own }));
      // They are waited for at the end; should one fail before, it fails there.
      for (const p of parts) p.catch(() => undefined);
      return {
        async finish() {
          const found = new Map<number, Result>();
          const take = ({ events, distances }: Result, slot: number): void =>
            void found.set(slot, { events, distances });
          for (let i = claims.next(own, slots.length, 0); i >= 0; i = claims.next(own, slots.length, 0))
            take(here(slots[i]!, false), slots[i]!);
          const replies = await Promise.all(parts);
          for (const reply of replies) for (const result of reply ?? []) take(result, result.slot);
          // What a worker claimed that died is done again, and tells all: what it told before may be told no more.
          for (const [i, slot] of slots.entries())
            if (claims.ownerOf(own, i) > 0 && replies[claims.ownerOf(own, i) - 1] === undefined)
              take(here(slot, true), slot);
          return slots.map((slot): Outcome => Object.assign(arena.outcome(slot), found.get(slot) ?? NOTHING));
        },
      };
    },
    async close() {
      closing = true;
      await Promise.all(hands.map(({ hand }) => hand.worker.terminate()));
    },
  };
}

/** A worker with the rounds that it has not answered yet, in the order in which they were given to it. */
interface Hand {
  worker: Worker;
  ask(work: Work): Promise<Reply>;
}

function beginHand(worker: Worker): Hand {
  const waiting: { resolve: (reply: Reply) => void; reject: (error: Error) => void }[] = [];
  let dead: Error | undefined;
  const fail = (error: Error): void => {
    dead ??= error;
    for (const { reject } of waiting.splice(0)) reject(dead);
  };
  // What a worker said before it died may come after the news of its death: what it claimed is done again by then.
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
