import { EventEmitter, on } from 'node:events';
import { Worker } from 'node:worker_threads';
import { isUnderWay, type Scouting, type ScoutingRequest } from '@glenmark/contract';
import type { Logger } from 'pino';
import { ProblemError } from './problem.js';
import type { ScoutingWork } from './scouting-worker.js';
import type { Store } from './store.js';

/** The built worker, beside this file. */
export const WORKER = new URL('./scouting-worker.js', import.meta.url);

/** How many finished scoutings of a moveset are kept, and how often one is begun again when its worker dies. */
const KEPT = 5;
const MOST_TRIES = 2;
/** How often what a running one has found is written down (ms). */
const KEEP_EVERY = 5000;

export interface ScoutingsOptions {
  store: Store;
  log: Logger;
  worker: URL;
}

/** Scoutings in the background: one at a time in a thread of its own, the others wait; all are kept in the store. */
export interface Scoutings {
  begin(request: ScoutingRequest): Promise<Scouting>;
  read(id: string): Scouting;
  /** Those of a moveset, newest first. */
  of(moveset: string): Scouting[];
  stop(id: string): Promise<Scouting>;
  resume(id: string): Promise<Scouting>;
  /** The scouting now, and each time it changes until it ends. */
  watch(id: string): AsyncIterable<Scouting>;
  /** Ends what is running and leaves it to be begun again. */
  close(): Promise<void>;
}

type Report = Pick<Scouting, 'done' | 'ticks' | 'coverage'> &
  ({ kind: 'progress'; course: string } | { kind: 'report'; findings: Scouting['findings'] });

const NOTHING = {
  done: 0,
  ticks: 0,
  seconds: 0,
  course: '',
  coverage: { states: [], crossings: [], ofStates: 0, ofCrossings: 0 },
  findings: [],
  problem: null,
};

/** Takes up what was under way when the server last went away: it begins again, from the same seed. */
export async function createScoutings({ store, log, worker: file }: ScoutingsOptions): Promise<Scoutings> {
  const all = new Map((await store.scoutings()).map((s) => [s.id, s]));
  const changes = new EventEmitter().setMaxListeners(0);
  let running: { id: string; worker: Worker; stop: Int32Array } | undefined;
  let closing = false;

  /** Puts a new state in place of an old one and tells everybody; what cannot be written down is not lost meanwhile. */
  async function change(id: string, more: Partial<Scouting>, keep = true): Promise<Scouting> {
    const next = { ...all.get(id)!, ...more };
    all.set(id, next);
    changes.emit(id, next);
    if (keep)
      await store.keepScouting(next).catch((error: unknown) => {
        log.error({ err: error }, 'a scouting could not be written down');
      });
    return next;
  }

  function read(id: string): Scouting {
    const scouting = all.get(id);
    if (scouting === undefined) throw new ProblemError(404, `There is no scouting '${id}'.`);
    return scouting;
  }

  async function next(): Promise<void> {
    const waiting = [...all.values()].find((s) => s.state === 'queued');
    if (running !== undefined || closing || waiting === undefined) return;
    const { id, moveset, revision, courses, situations, seed } = waiting;
    const flag = new SharedArrayBuffer(4);
    try {
      const text = (await store.read('moveset', moveset, revision)).text;
      const places = await Promise.all(courses.map(async (c) => (await store.read('course', c)).text));
      // Somebody may have stopped it, or begun another, while its texts were read.
      if (running !== undefined || closing || read(id).state !== 'queued') return;
      const work: ScoutingWork = { moveset: text, courses: places, situations, seed, stop: flag };
      const worker = new Worker(file, { workerData: work, execArgv: [] });
      running = { id, worker, stop: new Int32Array(flag) };
    } catch (error) {
      await change(id, { state: 'failed', problem: reasonOf(error) });
      return next();
    }
    await change(id, { ...NOTHING, state: 'running', begun: waiting.begun + 1 });
    follow(id, running.worker);
  }

  function follow(id: string, worker: Worker): void {
    const began = Date.now();
    let kept = began;
    let reported = false;
    worker.on('message', (report: Report) => {
      const now = Date.now();
      const seconds = (now - began) / 1000;
      const { kind, ...more } = report;
      if (kind === 'progress') {
        const keep = now - kept > KEEP_EVERY;
        if (keep) kept = now;
        void change(id, { ...more, seconds }, keep);
      } else {
        reported = true;
        const state = running!.stop[0] === 0 ? 'done' : 'stopped';
        void change(id, { ...more, seconds, state });
      }
    });
    let died: string | undefined;
    worker.on('error', (error: unknown) => {
      died = reasonOf(error);
    });
    worker.on('exit', () => {
      running = undefined;
      if (closing) return;
      void (async () => {
        if (!reported) await begunAgainOrFailed(id, died ?? 'its thread ended without a word');
        await prune(read(id).moveset);
        await next();
      })();
    });
  }

  /** What a thread that died was to do is done once more, then given up. */
  async function begunAgainOrFailed(id: string, reason: string): Promise<void> {
    log.error({ id, reason }, 'a scouting died');
    const again = read(id).begun < MOST_TRIES;
    await change(
      id,
      again ? { state: 'queued' } : { state: 'failed', problem: `Scouting failed: ${reason}.` },
    );
  }

  async function prune(moveset: string): Promise<void> {
    const ended = [...all.values()].filter((s) => s.moveset === moveset && !isUnderWay(s));
    for (const { id } of ended.slice(0, Math.max(0, ended.length - KEPT))) {
      all.delete(id);
      await store.dropScouting(id).catch(() => undefined);
    }
  }

  function freeId(moveset: string): string {
    for (let n = 1; ; n++) if (!all.has(`${moveset}-${n}`)) return `${moveset}-${n}`;
  }

  for (const { id, state } of all.values())
    if (state === 'running') await change(id, { state: 'queued', begun: 0 });
  void next();

  return {
    async begin(request) {
      const { revision } = await store.read('moveset', request.moveset);
      for (const course of request.courses) await store.read('course', course);
      const same = [...all.values()].find(
        (s) => s.moveset === request.moveset && s.revision === revision && isUnderWay(s),
      );
      if (same !== undefined) return same;
      const id = freeId(request.moveset);
      const createdAt = new Date().toISOString();
      all.set(id, { ...NOTHING, ...request, id, revision, state: 'queued', begun: 0, createdAt });
      const scouting = await change(id, {});
      void next();
      return scouting;
    },
    read,
    of: (moveset) => [...all.values()].filter((s) => s.moveset === moveset).reverse(),
    async stop(id) {
      const { state } = read(id);
      if (state === 'queued') return change(id, { state: 'stopped' });
      if (running?.id === id) Atomics.store(running.stop, 0, 1);
      return read(id);
    },
    async resume(id) {
      if (isUnderWay(read(id))) return read(id);
      const scouting = await change(id, { ...NOTHING, state: 'queued', begun: 0 });
      void next();
      return scouting;
    },
    watch: (id) => {
      read(id);
      return statesOf(id);
    },
    async close() {
      closing = true;
      await running?.worker.terminate();
    },
  };

  async function* statesOf(id: string): AsyncGenerator<Scouting> {
    const told = on(changes, id);
    yield read(id);
    if (!isUnderWay(read(id))) return;
    for await (const [state] of told as AsyncIterable<[Scouting]>) {
      yield state;
      if (!isUnderWay(state)) return;
    }
  }
}

const reasonOf = (error: unknown): string => (error instanceof Error ? error.message : String(error));
