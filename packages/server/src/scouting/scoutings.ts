import { coverageSchema, findingSchema, NO_COVERAGE } from '@glenmark/core/findings';
import { availableParallelism, totalmem } from 'node:os';
import { isUnderWay, type Scouting, type ScoutingRequest, type Workers } from '@glenmark/contract';
import type { Logger } from 'pino';
import { ProblemError } from '../problem.js';
import type { Store } from '../store/store.js';
import { createSubscriptions } from './subscriptions.js';
import { beginThread, type ScoutingThread, type ThreadEvents } from './thread.js';

/** The built worker, beside this file. */
export const WORKER = new URL('./worker.js', import.meta.url);

/** How many finished scoutings of a moveset are kept, and how often one is begun when its worker or the server dies. */
const KEPT = 5;
const MAX_TRIES = 2;
/** How often what a running one has found is written down (ms). */
const KEEP_EVERY = 5000;
/** Memory past which a scouting ends with what it found (MiB): fifty million situations, or a quarter of this machine's. */
const MEMORY = Math.min(4096, Math.floor(totalmem() / 4 / 2 ** 20));

export interface ScoutingsOptions {
  store: Store;
  log: Logger;
  worker: URL;
  /** Threads that one scouting has; as many as there are cores, but for one, when left out. */
  workers?: number;
  /** Memory of a scouting (MiB) past which it ends with what it found. */
  memory?: number;
  /** How long one that was told to stop may go on before its thread is ended (ms). */
  stopsWithin?: number;
}

/** Scoutings in the background: one at a time in a thread of its own, the others wait; all are kept in the store. */
export interface Scoutings {
  begin(request: ScoutingRequest): Promise<Scouting>;
  read(id: string): Promise<Scouting>;
  all(): Promise<Scouting[]>;
  /** Those of a moveset, newest first. */
  of(moveset: string): Promise<Scouting[]>;
  stop(id: string): Promise<Scouting>;
  resume(id: string): Promise<Scouting>;
  /** Calls `next` with the scouting now and each time it changes, and `end` after the last time. Gives what ends that. */
  subscribe(id: string, next: (state: Scouting) => void, end: () => void): Promise<() => void>;
  /** Takes in some that were put into the store by somebody else. */
  takeIn(more: readonly Scouting[]): void;
  /** Ends and drops those of a moveset that was removed; the store has dropped them already. */
  forget(moveset: string): void;
  /** Who searches. */
  workers(): Promise<Workers>;
  /** What waits to be searched, is being searched, and was given up, in numbers. */
  jobs(): Promise<JobCounts>;
  /** Fails when no scouting could be begun. */
  ping(): Promise<void>;
  /** Ends what is running and leaves it to be begun again. */
  close(): Promise<void>;
}

export interface JobCounts {
  waiting: number;
  running: number;
  failed: number;
}

/** A scouting that has not found anything yet. */
export const NOTHING = {
  done: 0,
  ticks: 0,
  seconds: 0,
  course: '',
  coverage: NO_COVERAGE,
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
  memory = MEMORY,
  stopsWithin = 800,
}: ScoutingsOptions): Promise<Scoutings> {
  // What an earlier release found is not in the shape of today: it goes, and the scouting can be begun anew.
  const kept = (await store.scoutings()).map((s): Scouting => ({
    ...s,
    findings: s.findings.filter((f) => findingSchema.safeParse(f).success),
    coverage: coverageSchema.safeParse(s.coverage).data ?? NO_COVERAGE,
  }));
  const all = new Map(kept.map((s) => [s.id, s]));
  const changes = createSubscriptions<Scouting>();
  let running: ScoutingThread | undefined;
  // The last one that was stopped, as it stands: it can go on, until another one is begun.
  let paused: ScoutingThread | undefined;
  let closing = false;
  /** States on their way into the store. */
  const writes = new Set<Promise<void>>();

  /** Puts a new state in place of an old one and tells everybody; what cannot be written down is not lost meanwhile. */
  async function change(id: string, more: Partial<Scouting>, keep = true): Promise<Scouting> {
    const next = { ...all.get(id)!, ...more };
    all.set(id, next);
    changes.emit(id, next, !isUnderWay(next));
    if (keep) {
      const write = store
        .keepScouting(next, { passing: next.state === 'running' })
        .catch((error: unknown) => {
          log.error({ err: error }, 'a scouting could not be written down');
        });
      writes.add(write);
      await write;
      writes.delete(write);
    }
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
      if (running !== undefined || closing || all.get(id)?.state !== 'queued') return;
      const work = { moveset: text, courses: places, situations, seed, workers, memory };
      const more = grid === undefined ? work : { ...work, grid };
      running = beginThread(file, id, more, eventsOf(id));
    } catch (error) {
      if (all.has(id)) await change(id, { state: 'failed', problem: reasonOf(error) });
      return next();
    }
    const { notes, begun } = waiting;
    await change(id, { ...NOTHING, notes, state: 'running', begun: begun + 1 });
  }

  /** What becomes of a scouting while it runs. Stopped and resumed, the time in between does not count. */
  function eventsOf(id: string): ThreadEvents {
    let last: number | undefined = Date.now();
    let kept = last;
    const isGone = (): boolean => !all.has(id);
    const passed = (): number => {
      const now = Date.now();
      const seconds = read(id).seconds + (now - (last ?? now)) / 1000;
      last = now;
      return seconds;
    };
    const over = (): void => {
      running = undefined;
      const { moveset } = all.get(id) ?? {};
      void (moveset === undefined ? Promise.resolve() : prune(moveset)).then(next);
    };
    return {
      progress(standing) {
        if (isGone()) return;
        const seconds = passed();
        const now = Date.now();
        const isKept = now - kept > KEEP_EVERY;
        if (isKept) kept = now;
        void change(id, { ...standing, seconds }, isKept);
      },
      note(note) {
        if (!isGone()) void change(id, { notes: [...read(id).notes, note] });
      },
      report(standing, stopped) {
        if (isGone()) return;
        void change(id, { ...standing, seconds: passed(), state: stopped ? 'stopped' : 'done' });
        if (!stopped) return;
        last = undefined;
        paused = running;
        over();
      },
      ended(reason, wasStopped) {
        if (closing || running?.id !== id) return;
        if (reason === undefined || isGone()) over();
        else if (wasStopped) void change(id, { state: 'stopped', seconds: passed() }).then(over);
        else void begunAgainOrFailed(id, reason).then(over);
      },
    };
  }

  /** What a thread that died was to do is done once more, then given up with what it had found. */
  async function begunAgainOrFailed(id: string, reason: string): Promise<void> {
    log.error({ id, reason }, 'a scouting died');
    const again = read(id).begun < MAX_TRIES;
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

  // One that was running when the server died without a word may be what killed it: its tries go on being counted.
  for (const { id, state, begun, notes } of [...all.values()]) {
    if (state !== 'running') continue;
    await change(
      id,
      begun < MAX_TRIES
        ? { state: 'queued', notes: [...notes, 'The server ended while it ran; it was begun again.'] }
        : { state: 'failed', problem: `Scouting failed: the server ended ${begun} times while it ran.` },
    );
  }
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
    // Not there, they are refused as by a database: not while they are asked for, but by what is given.
    read: async (id) => Promise.resolve(read(id)),
    all: () => Promise.resolve([...all.values()]),
    of: (moveset) => Promise.resolve([...all.values()].filter((s) => s.moveset === moveset).reverse()),
    async stop(id) {
      const { state } = read(id);
      if (state === 'queued') return change(id, { state: 'stopped' });
      if (running?.id === id) running.stop(stopsWithin);
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
    subscribe: (id, next, end) =>
      // Read and followed in one go: nothing that becomes of it in between is missed.
      Promise.resolve().then(() => {
        const now = read(id);
        const unsubscribe = isUnderWay(now) ? changes.subscribe(id, next, end) : () => undefined;
        next(now);
        if (!isUnderWay(now)) end();
        return unsubscribe;
      }),
    takeIn: (more) => more.forEach((scouting) => all.set(scouting.id, scouting)),
    forget(moveset) {
      for (const { id } of [...all.values()].filter((s) => s.moveset === moveset)) {
        all.delete(id);
        changes.end(id);
        if (paused?.id === id) {
          void paused.end();
          paused = undefined;
        }
        if (running?.id === id) void running.end();
      }
    },
    workers: () => Promise.resolve({ shared: false, workers: [] }),
    jobs() {
      const count = (wanted: Scouting['state']): number =>
        [...all.values()].filter(({ state }) => state === wanted).length;
      return Promise.resolve({
        waiting: count('queued'),
        running: count('running'),
        failed: count('failed'),
      });
    },
    ping: () => Promise.resolve(),
    async close() {
      closing = true;
      const ended = running?.id;
      await Promise.all([running?.end(), paused?.end()]);
      // Ended in order, it was not the scouting's fault: this try does not count.
      if (ended !== undefined && all.get(ended)?.state === 'running')
        await change(ended, { state: 'queued', begun: Math.max(0, read(ended).begun - 1) });
      // One that ended a moment ago would otherwise begin again with the next start.
      await Promise.all(writes);
    },
  };
}

const reasonOf = (error: unknown): string => (error instanceof Error ? error.message : String(error));
