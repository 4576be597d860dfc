import { randomUUID } from 'node:crypto';
import { hostname } from 'node:os';
import { isUnderWay } from '@glenmark/contract';
import type { Logger } from 'pino';
import { connectionsTo, listenTo } from '../../store/connections.js';
import { migrated } from '../../store/postgres.js';
import { createHand, type Hand } from './hand.js';
import { type Given, type Jobs, openJobs, RETRIES } from './jobs.js';
import type { LegQuestion } from './leg-work.js';
import { isJobOf, jobOf, legsDone, nextJobs, planOf, type SharedScouting } from './next-jobs.js';
import { createRecords, type Doing, type Records, WORK } from './records.js';
import { shardsShown } from './standing.js';
import { sweep } from './sweep.js';

export interface WorkerOptions {
  /** The database that servers and workers share. */
  url: string;
  /** Legs that are searched at the same time. */
  threads: number;
  log: Logger;
}

/** A worker that is there until it is stopped. */
export interface RunningWorker {
  name: string;
  /** Hands back what it is at, and ends. */
  stop(): Promise<void>;
}

/** How often it says that it is there (ms), and looks after the others, as servers do more often. */
const BEAT = 1000;
const SWEEP = 10_000;
/** Connections of a worker beside the one that listens: what it asks is short, and there may be many workers. */
const CONNECTIONS = 2;
/** How long it waits for something to do (ms) before it looks again. */
const IDLE = 1000;

/** One thread with what it is at. */
interface Place {
  hand: Hand;
  doing: Doing | undefined;
}

/** Joins the workers of a database: takes legs of scoutings, searches them, and writes down what came of them. */
export async function runWorker({ url, threads, log }: WorkerOptions): Promise<RunningWorker> {
  const id = randomUUID();
  const name = `${hostname()}:${process.pid}`;
  const pool = connectionsTo(url, log, CONNECTIONS);
  await migrated(pool);
  const failed = (error: unknown): void => log.warn({ err: error }, 'the queue could not be used');
  const jobs = await openJobs(pool, failed);
  const records = createRecords(pool);
  const places = Array.from({ length: threads }, (): Place => ({ hand: createHand(), doing: undefined }));
  let isClosing = false;
  const waken: (() => void)[] = [];
  const wake = (): void => {
    for (const go of waken.splice(0)) go();
  };

  const beat = (): Promise<void> =>
    records.here({ id, name, threads, doing: places.flatMap(({ doing }) => doing ?? []) });
  /** Something is to be done, or to be stopped: of a scouting, or of any when it is not said which. */
  const heard = async (which: string): Promise<void> => {
    wake();
    const at = new Set(places.flatMap(({ doing }) => doing?.scouting ?? []));
    for (const scouting of at) {
      if (which !== '' && which !== scouting) continue;
      const now = await records.scouting(scouting);
      if (now !== undefined && isUnderWay(now)) continue;
      for (const { hand, doing } of places) if (doing?.scouting === scouting) hand.stop();
    }
  };
  const listener = listenTo(url, WORK, (text) => void heard(text).catch(failed), log);

  async function turn(place: Place): Promise<void> {
    while (!isClosing) {
      try {
        const given = await jobs.take();
        if (given === undefined) {
          await new Promise<void>((go) => {
            waken.push(go);
            setTimeout(go, IDLE);
          });
          continue;
        }
        await worked({ place, given, jobs, records, beat, isClosing: () => isClosing, log });
      } catch (error) {
        // The database is away. What this worker had is given to another one when it does not say any more that it does it.
        failed(error);
        await new Promise((go) => setTimeout(go, IDLE));
      } finally {
        place.doing = undefined;
      }
    }
  }

  await listener.ready;
  await beat();
  const beats = setInterval(
    () =>
      void beat()
        .then(() => tellProgress(places, records))
        .catch(failed),
    BEAT,
  );
  const sweeps = setInterval(() => void sweep(records, jobs).catch(failed), SWEEP);
  const turns = places.map(turn);
  return {
    name,
    async stop() {
      isClosing = true;
      clearInterval(beats);
      clearInterval(sweeps);
      for (const { hand } of places) hand.stop();
      wake();
      await Promise.all(turns);
      await Promise.all(places.map(({ hand }) => hand.close()));
      await records.gone(id).catch(failed);
      await listener.end();
      await jobs.close();
      await pool.end();
    },
  };
}

/** Says of each scouting that this worker is at how far it is. */
async function tellProgress(places: readonly Place[], records: Records): Promise<void> {
  for (const scouting of new Set(places.flatMap(({ doing }) => doing?.scouting ?? [])))
    await records.tell(scouting);
}

interface Work {
  place: Place;
  given: Given;
  jobs: Jobs;
  records: Records;
  beat: () => Promise<void>;
  isClosing: () => boolean;
  log: Logger;
}

/** Does a job that was taken. */
async function worked(work: Work): Promise<void> {
  const { place, given, jobs, records, isClosing, log } = work;
  const { job, id } = given;
  const scouting = await records.scouting(job.scouting);
  const isOf = scouting !== undefined && isJobOf(job, scouting);
  // A report is put together of one that was stopped, too.
  if (!isOf || !(isUnderWay(scouting) || ('report' in job && scouting.state === 'stopped')))
    return jobs.done(id);
  const { leg, shard } = 'report' in job ? { leg: -1, shard: -1 } : job;
  place.doing = { scouting: scouting.id, job: id, leg, shard, situations: 0, ticks: 0, perSecond: 0 };
  await work.beat();
  try {
    const isDone = 'report' in job ? await reported(work, scouting) : await searched(work, scouting, job);
    await (isDone || !isClosing() ? jobs.done(id) : jobs.giveBack(id));
  } catch (error) {
    const reason = error instanceof Error ? error.message : String(error);
    log.error({ err: error, job }, 'a leg of a scouting failed');
    if (given.tries >= RETRIES - 1)
      await records.change(scouting.id, (now) =>
        isJobOf(job, now) ? { ...now, state: 'failed', problem: `Scouting failed: ${reason}.` } : undefined,
      );
    await jobs.giveBack(id);
  }
}

/** What a thread needs for a scouting: its texts, and the legs before one that it does not know yet. */
async function questionFor({ place, records }: Work, scouting: SharedScouting, before: number) {
  const key = `${scouting.id} ${scouting.createdAt} ${scouting.begun}`;
  const { knows } = place.hand;
  // One that knows more than it is asked for begins anew.
  const isAhead = knows.key === key && knows.legs > before;
  const from = knows.key === key && !isAhead ? knows.legs : 0;
  const results = await records.results(scouting, from, before);
  return { key: isAhead ? `${key} again` : key, plan: await records.plan(scouting), results };
}

/** Searches a leg; false when it was stopped. */
async function searched(
  work: Work,
  scouting: SharedScouting,
  { leg, shard }: { leg: number; shard: number },
): Promise<boolean> {
  const { place, jobs, records } = work;
  const { id, begun } = scouting;
  const done = await records.done(scouting);
  if (!done.some((d) => d.leg === leg && d.shard === shard)) {
    await records.change(id, (now, time) =>
      now.state === 'queued'
        ? {
            ...now,
            state: 'running',
            shared: { ...now.shared, startedAt: now.shared.startedAt ?? time.toISOString() },
          }
        : undefined,
    );
    const question: LegQuestion = { kind: 'leg', shard, ...(await questionFor(work, scouting, leg)) };
    const began = performance.now();
    const answer = await place.hand.ask(question, (situations, ticks) => {
      const perSecond = (situations * 1000) / (performance.now() - began);
      place.doing = { ...place.doing!, situations, ticks, perSecond };
    });
    if (answer.kind === 'stopped') return false;
    if (answer.kind !== 'leg')
      throw new Error(answer.kind === 'failed' ? answer.reason : 'its thread lost its way');
    const { result, shown, situations, ticks } = answer;
    const row = { scouting: id, begun, leg, shard, result, shown: JSON.stringify(shown), situations, ticks };
    if (!(await records.add(row))) return true;
  }
  await jobs.put(nextJobs(scouting, await records.done(scouting)));
  await records.call(id);
  return true;
}

/** Puts the report together. */
async function reported(work: Work, scouting: SharedScouting): Promise<boolean> {
  const { place, records } = work;
  const done = await records.shown(scouting);
  const legs = legsDone(done, planOf(scouting).shards);
  const answer = await place.hand.ask(
    { kind: 'report', ...(await questionFor(work, scouting, legs)) },
    () => undefined,
  );
  if (answer.kind !== 'report')
    throw new Error(answer.kind === 'failed' ? answer.reason : 'its thread lost its way');
  const ended = await records.change(scouting.id, (now, time) => {
    if (!isJobOf(jobOf(scouting), now)) return undefined;
    const state = now.state === 'stopped' ? 'stopped' : 'done';
    const from = Date.parse(now.shared.startedAt ?? time.toISOString());
    const seconds = state === 'stopped' ? now.seconds : (time.getTime() - from) / 1000;
    const { findings, coverage, situations, ticks } = answer.report;
    const shared = {
      ...now.shared,
      leg: legs,
      legs: planOf(now).legs.length,
      shards: shardsShown(now, done),
      workers: [],
    };
    return { ...now, findings, coverage, done: situations, ticks, state, seconds, shared };
  });
  if (ended?.state === 'done') await records.letGo(ended);
  return true;
}
