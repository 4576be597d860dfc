import { EventEmitter, on } from 'node:events';
import { availableParallelism } from 'node:os';
import { isUnderWay, type Scouting, type ScoutingRequest } from '@glenmark/contract';
import type { Logger } from 'pino';
import { ProblemError } from './problem.js';
import { beginThread, type ScoutingThread, type ThreadEvents } from './scouting-thread.js';
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
  /** Threads that one scouting has; as many as there are cores, but for one, when left out. */
  workers?: number;
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

const NOTHING = {
  done: 0,
  ticks: 0,
  seconds: 0,
  course: '',
  coverage: { states: [], crossings: [], ofStates: 0, ofCrossings: 0 },
  findings: [],
  notes: [],
  problem: null,
};

/** Takes up what was under way when the server last went away: it begins again, from the same seed. */
export async function createScoutings({
  store,
  log,
  worker: file,
  workers = Math.max(1, availableParallelism() - 1),
}: ScoutingsOptions): Promise<Scoutings> {
  const all = new Map((await store.scoutings()).map((s) => [s.id, s]));
  const changes = new EventEmitter().setMaxListeners(0);
  let running: ScoutingThread | undefined;
  // The last one that was stopped, as it stands: it can go on, until another one is begun.
  let paused: ScoutingThread | undefined;
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
    if (waiting.id === paused?.id) {
      running = paused;
      paused = undefined;
      await change(waiting.id, { state: 'running' });
      running.goOn();
      return;
    }
    void paused?.end();
    paused = undefined;
    const { id, moveset, revision, courses, situations, seed, grid } = waiting;
    try {
      const text = (await store.read('moveset', moveset, revision)).text;
      const places = await Promise.all(courses.map(async (c) => (await store.read('course', c)).text));
      // Somebody may have stopped it, or begun another, while its texts were read.
      if (running !== undefined || closing || read(id).state !== 'queued') return;
      const work = { moveset: text, courses: places, situations, seed, workers };
      const more = grid === undefined ? work : { ...work, grid };
      running = beginThread(file, id, more, eventsOf(id));
    } catch (error) {
      await change(id, { state: 'failed', problem: reasonOf(error) });
      return next();
    }
    const { notes, begun } = waiting;
    await change(id, { ...NOTHING, notes, state: 'running', begun: begun + 1 });
  }

  /** What happens in a scouting's thread is told and written down. */
  function eventsOf(id: string): ThreadEvents {
    // Undefined while it is paused: that time does not count.
    let last: number | undefined = Date.now();
    let kept = last;
    const passed = (): number => {
      const now = Date.now();
      const seconds = read(id).seconds + (now - (last ?? now)) / 1000;
      last = now;
      return seconds;
    };
    const over = (): void => {
      running = undefined;
      void prune(read(id).moveset).then(next);
    };
    return {
      progress(standing) {
        const seconds = passed();
        const now = Date.now();
        const isKept = now - kept > KEEP_EVERY;
        if (isKept) kept = now;
        void change(id, { ...standing, seconds }, isKept);
      },
      note: (note) => void change(id, { notes: [...read(id).notes, note] }),
      report(standing, stopped) {
        void change(id, { ...standing, seconds: passed(), state: stopped ? 'stopped' : 'done' });
        if (!stopped) return;
        last = undefined;
        paused = running;
        over();
      },
      ended(reason) {
        if (closing || running?.id !== id) return;
        if (reason === undefined) over();
        else void begunAgainOrFailed(id, reason).then(over);
      },
    };
  }

  /** What a thread that died was to do is done once more, then given up. */
  async function begunAgainOrFailed(id: string, reason: string): Promise<void> {
    log.error({ id, reason }, 'a scouting died');
    const again = read(id).begun < MOST_TRIES;
    const notes = [...read(id).notes, `It died and was begun again: ${reason}.`];
    await change(
      id,
      again ? { state: 'queued', notes } : { state: 'failed', problem: `Scouting failed: ${reason}.` },
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
      if (running?.id === id) running.stop();
      return read(id);
    },
    async resume(id) {
      if (isUnderWay(read(id))) return read(id);
      // One that still stands where it was stopped goes on from there.
      const anew = paused?.id === id ? {} : { ...NOTHING, begun: 0 };
      const scouting = await change(id, { ...anew, state: 'queued' });
      void next();
      return scouting;
    },
    watch: (id) => {
      read(id);
      return statesOf(id);
    },
    async close() {
      closing = true;
      await Promise.all([running?.end(), paused?.end()]);
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
