import type { ScoutingRequest } from '@glenmark/contract';
import {
  createChecker,
  createSharedScoutings,
  openStore,
  type RunningWorker,
  runWorker,
  type Scoutings,
  type Store,
} from '@glenmark/server';
import { Client } from 'pg';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Postgres, postgresPrograms, startPostgres } from '../../../scripts/postgres.mjs';
import { followed, foundOf, scouted } from './scouted.js';
import { example, silent } from './test-server.js';

const isHere = postgresPrograms() !== undefined;
const checker = createChecker();
afterAll(() => checker.close());

/** A server as far as scoutings go. */
interface Server {
  store: Store;
  scoutings: Scoutings;
  close(): Promise<void>;
}

async function serverOn(url: string): Promise<Server> {
  const { store } = await openStore({ url }, { release: 'test', check: checker.check, log: silent });
  const scoutings = await createSharedScoutings({ url, store, log: silent });
  return {
    store,
    scoutings,
    async close() {
      await scoutings.close();
      await store.close();
    },
  };
}

const worker = (url: string, threads = 1): Promise<RunningWorker> => runWorker({ url, threads, log: silent });

const DRAFT: ScoutingRequest = {
  moveset: 'courier-draft',
  courses: ['mill-yard'],
  situations: 6000,
  seed: 1,
  parts: 3,
};

describe.skipIf(!isHere)('scoutings that workers share', () => {
  let postgres: Postgres;
  /** What every scouting of the draft must come to. */
  let expected: ReturnType<typeof foundOf>;

  async function placed(): Promise<{ url: string; one: Server; other: Server }> {
    const url = await postgres.database();
    const [one, other] = [await serverOn(url), await serverOn(url)];
    await one.store.create('moveset', { text: example('courier-draft.yaml') });
    await one.store.create('course', { text: example('mill-yard.yaml') });
    return { url, one, other };
  }

  beforeAll(async () => {
    if (!isHere) return;
    postgres = await startPostgres();
    const { url, one, other } = await placed();
    const alone = await worker(url);
    const { id } = await one.scoutings.begin(DRAFT);
    expected = foundOf(await scouted(one.scoutings, id));
    await alone.stop();
    await one.close();
    await other.close();
  });
  afterAll(() => {
    if (isHere) postgres.stop();
  });

  it('come to the same report with several workers, seen from whichever server', async () => {
    const { url, one, other } = await placed();
    const workers = [await worker(url), await worker(url, 2)];
    const { id } = await one.scoutings.begin(DRAFT);
    // Asked for again meanwhile, on another server, it is the same one.
    expect((await other.scoutings.begin(DRAFT)).id).toBe(id);
    const seen = await followed(other.scoutings, id);
    expect(foundOf(seen.at(-1)!)).toEqual(expected);
    expect(expected.findings.length).toBeGreaterThan(8);
    expect(expected.done).toBeGreaterThanOrEqual(6000);
    // On the way: workers by name, and what each shard found.
    const running = seen.filter(({ state }) => state === 'running');
    expect(running.some(({ shared }) => shared!.workers.length > 0)).toBe(true);
    expect(seen.map(({ done }) => done)).toEqual(seen.map(({ done }) => done).sort((a, b) => a - b));
    // Each has one or two threads, and in the end it is known what each shard found.
    const { workers: there } = running.at(-1)!.shared!;
    expect(there.map(({ threads }) => threads).sort()).toEqual([1, 2]);
    expect(there.every(({ busy, threads, shards }) => busy <= threads && shards.length <= busy)).toBe(true);
    const { shards, leg, legs } = seen.at(-1)!.shared!;
    expect(shards.map(({ course, part }) => [course, part])).toEqual([0, 1, 2].map((n) => ['mill-yard', n]));
    expect(shards.reduce((sum, { situations }) => sum + situations, 0)).toBe(expected.done);
    expect(shards.some(({ found }) => found > 0)).toBe(true);
    expect(leg).toBe(legs);
    const busy = async () => (await other.scoutings.workers()).workers.map((w) => w.busy);
    await expect.poll(busy).toEqual([0, 0]);
    for (const w of workers) await w.stop();
    await one.close();
    await other.close();
  });

  it('are handed on by a worker that is stopped, and go on when another one comes', async () => {
    const { url, one, other } = await placed();
    const { id } = await one.scoutings.begin(DRAFT);
    const first = await worker(url);
    const isRunning = async (): Promise<boolean> => (await other.scoutings.read(id)).state === 'running';
    while (!(await isRunning())) await new Promise((later) => setTimeout(later, 50));
    await first.stop();
    expect((await one.scoutings.read(id)).state).toBe('running');
    const second = await worker(url);
    expect(foundOf(await scouted(one.scoutings, id))).toEqual(expected);
    await second.stop();
    await one.close();
    await other.close();
  });

  it('stop with what they found, and go on from there', async () => {
    const { url, one, other } = await placed();
    const own = await worker(url, 2);
    const { id } = await one.scoutings.begin(DRAFT);
    const hasFound = async (): Promise<boolean> => (await one.scoutings.read(id)).findings.length > 0;
    while (!(await hasFound())) await new Promise((later) => setTimeout(later, 50));
    const stopped = await other.scoutings.stop(id);
    expect(stopped.state).toBe('stopped');
    expect(stopped.findings.length).toBeGreaterThan(0);
    await one.scoutings.resume(id);
    expect(foundOf(await scouted(other.scoutings, id))).toEqual(expected);
    await own.stop();
    await one.close();
    await other.close();
  });

  it('fail when workers end at the same part again and again, and can be begun again', async () => {
    const { url, one, other } = await placed();
    const { id } = await one.scoutings.begin(DRAFT);
    const sql = new Client(url);
    await sql.connect();
    // As it is after the last try of one of its jobs.
    await sql.query(`update glenmark_jobs.job set state = 'failed' where data->>'shard' = '1'`);
    await sql.end();
    expect(await one.scoutings.jobs()).toEqual({ waiting: 2, running: 0, failed: 1 });
    const failed = await scouted(other.scoutings, id);
    expect(failed).toMatchObject({
      state: 'failed',
      problem: 'Scouting failed: workers ended at the same part of it 13 times, one after the other.',
    });
    const own = await worker(url, 2);
    await other.scoutings.resume(id);
    expect(foundOf(await scouted(one.scoutings, id))).toEqual(expected);
    await own.stop();
    await one.close();
    await other.close();
  });

  it('are gone with their moveset, of which another one may be scouted under the same id', async () => {
    const { url, one, other } = await placed();
    const own = await worker(url);
    const { id } = await one.scoutings.begin({ ...DRAFT, situations: 1_000_000 });
    const following = followed(other.scoutings, id);
    await one.store.remove('moveset', 'courier-draft', '*');
    one.scoutings.forget('courier-draft');
    await expect(other.scoutings.read(id)).rejects.toThrow('There is no scouting');
    await following;
    // Another one with the same id is not taken for the one that is gone.
    await one.store.create('moveset', { text: example('courier-draft.yaml') });
    expect((await one.scoutings.begin(DRAFT)).id).toBe(id);
    expect(foundOf(await scouted(other.scoutings, id))).toEqual(expected);
    await own.stop();
    await one.close();
    await other.close();
  });
});
