import { isUnderWay, type Scouting } from '@glenmark/contract';
import type { Logger } from 'pino';
import { ProblemError } from '../../problem.js';
import { connectionsTo, listenTo } from '../../store/connections.js';
import type { Store } from '../../store/store.js';
import { NOTHING, type Scoutings } from '../scoutings.js';
import { createSubscriptions } from '../subscriptions.js';
import { openJobs } from './jobs.js';
import { isShared, jobOf, nextJobs, type SharedScouting } from './next-jobs.js';
import { createRecords, SCOUTINGS } from './records.js';
import { standing, stateOf } from './standing.js';
import { SILENT, sweep } from './sweep.js';

/** Parts in which a course is searched when nobody says: enough for some workers, and few enough to know of each other. */
const PARTS = 4;
/** Changes that come so close together (ms) are shown at once. */
const GATHERED = 250;
/** How often a server looks after what others left (ms). */
const SWEEP = 3000;
/** How many finished scoutings of a moveset are kept. */
const KEPT = 5;

export interface SharedScoutingsOptions {
  url: string;
  store: Store;
  log: Logger;
}

/** Scoutings that workers search, whichever server they were begun on. The database has all of them; none is held here. */
export async function createSharedScoutings({ url, store, log }: SharedScoutingsOptions): Promise<Scoutings> {
  const pool = connectionsTo(url, log);
  const failed = (error: unknown): void => log.warn({ err: error }, 'scoutings could not be looked after');
  const jobs = await openJobs(pool, failed);
  const records = createRecords(pool);
  const followers = createSubscriptions<Scouting>();
  const changed = new Set<string>();
  let timer: NodeJS.Timeout | undefined;

  async function existing(id: string): Promise<SharedScouting> {
    const scouting = await records.scouting(id);
    if (scouting === undefined) throw new ProblemError(404, `There is no scouting '${id}'.`);
    return scouting;
  }

  /** A scouting as it stands: with what its legs found, and what workers are at. */
  async function read(id: string): Promise<Scouting> {
    const scouting = await existing(id);
    if (!isUnderWay(scouting)) return scouting;
    return standing(scouting, {
      done: await records.shown(scouting),
      workers: await records.workers(SILENT),
      time: await records.time(),
    });
  }

  const put = async (scouting: SharedScouting): Promise<void> => {
    await jobs.put(nextJobs(scouting, await records.done(scouting)));
    await records.call(scouting.id);
  };

  /** Tells whoever follows scoutings of which something became. */
  async function tell(): Promise<void> {
    timer = undefined;
    const ids = [...changed];
    changed.clear();
    for (const id of ids) {
      try {
        const scouting = await read(id);
        followers.emit(id, scouting, !isUnderWay(scouting));
      } catch (error) {
        if (error instanceof ProblemError) followers.end(id);
        else failed(error);
      }
    }
  }
  const heard = (id: string): void => {
    for (const one of id === '' ? followers.ids() : [id]) if (followers.has(one)) changed.add(one);
    if (changed.size > 0) timer ??= setTimeout(() => void tell(), GATHERED);
  };
  const listener = listenTo(url, SCOUTINGS, heard, log);
  await listener.ready;
  const sweeps = setInterval(() => {
    void sweep(records, jobs).catch(failed);
    // A worker that comes, goes or dies says nothing of any scouting.
    heard('');
  }, SWEEP);

  async function prune(moveset: string): Promise<void> {
    const ended = (await store.scoutings()).filter((s) => s.moveset === moveset && !isUnderWay(s));
    for (const { id } of ended.slice(0, Math.max(0, ended.length - KEPT))) await store.dropScouting(id);
  }

  return {
    async begin({ parts = PARTS, ...request }) {
      const { revision } = await store.read('moveset', request.moveset);
      const courses = await Promise.all(request.courses.map((id) => store.read('course', id)));
      const begun = await store.beginScouting(request.moveset, (all, id): Scouting => {
        const same = all.find(
          (s) => s.moveset === request.moveset && s.revision === revision && isUnderWay(s),
        );
        if (same !== undefined) return same;
        const shared = {
          parts,
          turn: 0,
          startedAt: null,
          courseRevisions: courses.map((course) => course.revision),
          leg: 0,
          legs: 0,
          shards: [],
          workers: [],
        };
        return {
          ...NOTHING,
          ...request,
          id,
          revision,
          state: 'queued',
          begun: 1,
          createdAt: new Date().toISOString(),
          shared,
        };
      });
      await prune(request.moveset);
      if (isShared(begun)) await put(begun);
      return read(begun.id);
    },
    read,
    async of(moveset) {
      const all = (await store.scoutings()).filter((s) => s.moveset === moveset).reverse();
      return Promise.all(all.map((s) => (isShared(s) && isUnderWay(s) ? read(s.id) : s)));
    },
    async all() {
      const [workers, time] = [await records.workers(SILENT), await records.time()];
      return Promise.all(
        (await store.scoutings()).map(async (s) =>
          isShared(s) && isUnderWay(s) ? standing(s, { done: await records.shown(s), workers, time }) : s,
        ),
      );
    },
    async stop(id) {
      const shown = await read(id);
      const stopped = await records.change(id, (now) =>
        isUnderWay(now) ? { ...shown, shared: { ...now.shared, workers: [] }, state: 'stopped' } : undefined,
      );
      // What was not come to, and what else shows only in the end, is added to what was found so far.
      if (stopped?.state === 'stopped') {
        await jobs.put([{ ...jobOf(stopped), report: true }]);
        await records.call(id);
      }
      return read(id);
    },
    async resume(id) {
      const resumed = await records.change(id, (now) => {
        if (isUnderWay(now)) return undefined;
        // One that was stopped goes on from where it was; any other begins anew.
        const shared = { ...now.shared, turn: now.shared.turn + 1, startedAt: null };
        if (now.state === 'stopped') return { ...now, state: 'queued', shared };
        return { ...now, ...NOTHING, state: 'queued', begun: now.begun + 1, shared };
      });
      if (resumed === undefined) throw new ProblemError(404, `There is no scouting '${id}'.`);
      await put(resumed);
      return read(id);
    },
    async subscribe(id, next, end) {
      const unsubscribe = followers.subscribe(id, next, end);
      // Followed first, and read then: nothing that becomes of it in between is missed.
      const now = await read(id);
      next(now);
      if (isUnderWay(now)) return unsubscribe;
      unsubscribe();
      end();
      return () => undefined;
    },
    // The database drops them with their moveset; workers look whether what they are at is still there.
    forget: () => void records.call('').catch(failed),
    takeIn: () => undefined,
    workers: async () => ({ shared: true, workers: (await records.workers(SILENT)).map(stateOf) }),
    jobs: () => jobs.counts(),
    ping: async () => void (await jobs.counts()),
    async close() {
      clearInterval(sweeps);
      clearTimeout(timer);
      await listener.end();
      await jobs.close();
      await pool.end();
    },
  };
}
