import { isUnderWay } from '@glenmark/contract';
import { type Jobs, RETRIES } from './jobs.js';
import { isJobOf, nextJobs } from './next-jobs.js';
import type { Records } from './records.js';

/** A worker that has said nothing for so long (s) is gone; what it had then is given to others. */
export const SILENT = 6;
/** What nobody says that he does, so long after it was given to somebody (s), is given to somebody else. */
const LOST = 8;

const GIVEN_UP = `workers ended at the same part of it ${RETRIES + 1} times, one after the other`;

/**
 * Looks after what others left: legs whose worker is gone go back into the queue, and what is to be done next of each
 * scouting is put there, should whoever had to have died before. A scouting with a job that was tried too often has failed.
 * Every server and every worker does it; it does no harm twice.
 */
export async function sweep(records: Records, jobs: Jobs): Promise<void> {
  const workers = await records.workers(SILENT);
  const atWork = new Set(workers.flatMap(({ doing }) => doing.map(({ job }) => job)));
  for (const job of await jobs.given(LOST)) if (!atWork.has(job)) await jobs.giveBack(job);
  const failed = await jobs.failed();
  for (const scouting of await records.underWay()) {
    if (failed.some((job) => isJobOf(job, scouting)))
      await records.change(scouting.id, (now) =>
        isUnderWay(now) && failed.some((job) => isJobOf(job, now))
          ? { ...now, state: 'failed', problem: `Scouting failed: ${GIVEN_UP}.` }
          : undefined,
      );
    else await jobs.put(nextJobs(scouting, await records.done(scouting)));
  }
}
