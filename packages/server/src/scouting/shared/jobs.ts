import { createHash } from 'node:crypto';
import type { Pool } from 'pg';
import PgBoss from 'pg-boss';
import type { JobCounts } from '../scoutings.js';

/**
 * A leg of a shard to search, or the report to put together when all legs are done. `createdAt` tells scoutings apart that
 * have the same id one after the other.
 */
export type LegJob = { scouting: string; createdAt: string; begun: number; turn: number } & (
  { leg: number; shard: number } | { report: true }
);

/** A job that somebody was given. */
export interface Given {
  id: string;
  job: LegJob;
  /** How often it was given to somebody before. */
  tries: number;
}

/** What is to be done, in a queue that the database keeps. */
export interface Jobs {
  /** Puts jobs into the queue; those that were ever put there are not put there again. */
  put(jobs: readonly LegJob[]): Promise<void>;
  take(): Promise<Given | undefined>;
  done(id: string): Promise<void>;
  /** Gives a job back, to be done again soon, unless it was tried too often. */
  giveBack(id: string): Promise<void>;
  /** Jobs that were given to somebody some seconds ago and are not done. */
  given(secondsAgo: number): Promise<string[]>;
  /** Jobs that nobody is given any more: they were tried too often. */
  failed(): Promise<LegJob[]>;
  /** How many there are. Fails when the queue cannot be used. */
  counts(): Promise<JobCounts>;
  close(): Promise<void>;
}

const QUEUE = 'legs';
const SCHEMA = 'glenmark_jobs';
/** How often a job is done again when whoever had it died or failed. */
export const RETRIES = 12;
/** How long a job may take (s); past that it is given to another worker, too. */
const EXPIRES = 900;

/** Opens the queue in a database; it makes its tables in a schema of their own. */
export async function openJobs(pool: Pool, failed: (error: unknown) => void): Promise<Jobs> {
  const boss = new PgBoss({
    schema: SCHEMA,
    db: { executeSql: (text, values) => pool.query(text, values) },
    schedule: false,
  });
  boss.on('error', failed);
  await boss.start();
  await boss.createQueue(QUEUE, {
    name: QUEUE,
    policy: 'standard',
    retryLimit: RETRIES,
    expireInSeconds: EXPIRES,
  });
  return {
    async put(jobs) {
      if (jobs.length === 0) return;
      await boss.insert(
        jobs.map((job) => ({
          id: idOf(job),
          name: QUEUE,
          data: job,
          retryLimit: RETRIES,
          expireInSeconds: EXPIRES,
        })),
      );
    },
    async take() {
      const [given] = await boss.fetch<LegJob>(QUEUE, { includeMetadata: true, batchSize: 1 });
      return given && { id: given.id, job: given.data, tries: given.retryCount };
    },
    done: (id) => boss.complete(QUEUE, id),
    giveBack: (id) => boss.fail(QUEUE, id),
    async given(secondsAgo) {
      const { rows } = await pool.query<{ id: string }>(
        `select id from ${SCHEMA}.job where name = $1 and state = 'active' and started_on < now() - make_interval(secs => $2)`,
        [QUEUE, secondsAgo],
      );
      return rows.map(({ id }) => id);
    },
    async failed() {
      const { rows } = await pool.query<{ data: LegJob }>(
        `select data from ${SCHEMA}.job where name = $1 and state = 'failed'`,
        [QUEUE],
      );
      return rows.map(({ data }) => data);
    },
    async counts() {
      const { rows } = await pool.query<{ state: string; count: number }>(
        `select state::text, count(*)::int as count from ${SCHEMA}.job where name = $1 group by state`,
        [QUEUE],
      );
      const of = (...states: string[]): number =>
        rows.reduce((sum, { state, count }) => (states.includes(state) ? sum + count : sum), 0);
      return { waiting: of('created', 'retry'), running: of('active'), failed: of('failed') };
    },
    close: () => boss.stop({ graceful: false, close: false }),
  };
}

/** The same job has the same id, so that it is in the queue once, whoever puts it there. */
function idOf(job: LegJob): string {
  const hash = createHash('sha256').update(JSON.stringify(job)).digest('hex');
  return [
    hash.slice(0, 8),
    hash.slice(8, 12),
    hash.slice(12, 16),
    hash.slice(16, 20),
    hash.slice(20, 32),
  ].join('-');
}
