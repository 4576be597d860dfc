import type { Scouting } from '@glenmark/contract';
import { and, asc, eq, gte, lt, sql } from 'drizzle-orm';
import { drizzle } from 'drizzle-orm/node-postgres';
import type { Pool } from 'pg';
import { scoutingRow } from '../../store/kept-scoutings.js';
import * as schema from '../../store/schema.js';
import type { SharedPlan, ShownOfLeg } from './leg-work.js';
import { isShared, type LegDone, type SharedScouting } from './next-jobs.js';

const { legs, revisions, scoutings, workers } = schema;

/** The channel on which is said that something became of a scouting, by its id. */
export const SCOUTINGS = 'glenmark_scoutings';
/**
 * The channel on which workers are told that there may be something to do, or to stop. They do not hear of progress: with
 * many of them each would ask the database for what all others do.
 */
export const WORK = 'glenmark_work';

/** A leg of a scouting that a worker is at. */
export interface Doing {
  scouting: string;
  /** The job, so that it can be given to another worker when this one dies. */
  job: string;
  /** −1 while the report is put together. */
  leg: number;
  shard: number;
  situations: number;
  ticks: number;
  perSecond: number;
}

/** A worker that is there. */
export interface WorkerRow {
  id: string;
  name: string;
  threads: number;
  doing: Doing[];
}

/** What workers and servers keep of shared scoutings. Times are those of the database: a clock that jumps does no harm. */
export interface Records {
  scouting(id: string): Promise<SharedScouting | undefined>;
  /** Those that are under way. */
  underWay(): Promise<SharedScouting[]>;
  /** Changes a scouting while nobody else does; undefined leaves it as it is. Gives what it is then, undefined when it is gone. */
  change(
    id: string,
    change: (now: SharedScouting, time: Date) => SharedScouting | undefined,
  ): Promise<SharedScouting | undefined>;
  /** The texts that a scouting searches. */
  plan(scouting: SharedScouting): Promise<SharedPlan>;
  done(scouting: Pick<Scouting, 'id' | 'begun'>): Promise<LegDone[]>;
  /** What is shown of the legs that are done, in the order of legs and shards. */
  shown(scouting: Pick<Scouting, 'id' | 'begun'>): Promise<(LegDone & ShownOfLeg & { ticks: number })[]>;
  /** What all shards found, leg by leg, from one leg on and before another one. */
  results(scouting: Pick<Scouting, 'id' | 'begun'>, from: number, before: number): Promise<Uint8Array[][]>;
  /** Adds a leg that was searched, unless another worker did before; false when the scouting is gone. */
  add(row: typeof legs.$inferInsert): Promise<boolean>;
  /** Lets go what workers need of each other, when they do not need it any more. */
  letGo(scouting: Pick<Scouting, 'id'>): Promise<void>;
  /** Says that a worker is there, and what it does. */
  here(worker: WorkerRow): Promise<void>;
  gone(worker: string): Promise<void>;
  /** Workers that said so in the last seconds. */
  workers(seconds: number): Promise<WorkerRow[]>;
  /** What time it is. */
  time(): Promise<Date>;
  /** Says that something became of a scouting. */
  tell(id: string): Promise<void>;
  /** Says that there is something to do, or to stop, too; with an empty id of any of them. */
  call(id: string): Promise<void>;
}

export function createRecords(pool: Pool): Records {
  const db = drizzle(pool, { schema });
  const parsed = (row: { state: string } | undefined): SharedScouting | undefined => {
    const scouting = row && (JSON.parse(row.state) as Scouting);
    return scouting !== undefined && isShared(scouting) ? scouting : undefined;
  };
  const ofTry = ({ id, begun }: Pick<Scouting, 'id' | 'begun'>) =>
    and(eq(legs.scouting, id), eq(legs.begun, begun));
  const textOf = async (kind: 'moveset' | 'course', id: string, number: number): Promise<string> => {
    const [row] = await db
      .select({ text: revisions.text })
      .from(revisions)
      .where(and(eq(revisions.kind, kind), eq(revisions.id, id), eq(revisions.number, number)));
    if (row === undefined) throw new Error(`revision ${number} of the ${kind} '${id}' is gone`);
    return row.text;
  };
  return {
    async scouting(id) {
      const [row] = await db.select().from(scoutings).where(eq(scoutings.id, id));
      return parsed(row);
    },
    async underWay() {
      const rows = await db
        .select()
        .from(scoutings)
        .where(eq(scoutings.underWay, true))
        .orderBy(asc(scoutings.createdAt));
      return rows.flatMap((row) => parsed(row) ?? []);
    },
    change: (id, change) =>
      db.transaction(async (tx) => {
        const [row] = await tx
          .select({ state: scoutings.state, time: sql<string>`now()` })
          .from(scoutings)
          .where(eq(scoutings.id, id))
          .for('update');
        const now = parsed(row);
        if (row === undefined || now === undefined) return undefined;
        const next = change(now, new Date(row.time));
        if (next === undefined) return now;
        await tx.update(scoutings).set(scoutingRow(next)).where(eq(scoutings.id, id));
        await tx.execute(sql`select pg_notify(${SCOUTINGS}, ${id}), pg_notify(${WORK}, ${id})`);
        return next;
      }),
    async plan({ moveset, revision, courses, shared, seed, grid, situations }) {
      return {
        moveset: await textOf('moveset', moveset, revision),
        courses: await Promise.all(courses.map((id, i) => textOf('course', id, shared.courseRevisions[i]!))),
        seed,
        grid,
        parts: shared.parts,
        situations,
      };
    },
    done: (scouting) =>
      db
        .select({ leg: legs.leg, shard: legs.shard, situations: legs.situations })
        .from(legs)
        .where(ofTry(scouting)),
    async shown(scouting) {
      const rows = await db
        .select({
          leg: legs.leg,
          shard: legs.shard,
          situations: legs.situations,
          ticks: legs.ticks,
          shown: legs.shown,
        })
        .from(legs)
        .where(ofTry(scouting))
        .orderBy(asc(legs.leg), asc(legs.shard));
      return rows.map(({ shown, ...row }) => ({ ...row, ...(JSON.parse(shown) as ShownOfLeg) }));
    },
    async results(scouting, from, before) {
      const rows = await db
        .select({ leg: legs.leg, result: legs.result })
        .from(legs)
        .where(and(ofTry(scouting), gte(legs.leg, from), lt(legs.leg, before)))
        .orderBy(asc(legs.leg), asc(legs.shard));
      const found: Uint8Array[][] = Array.from({ length: before - from }, () => []);
      for (const { leg, result } of rows) found[leg - from]!.push(result);
      return found;
    },
    async add(row) {
      const added = await db
        .insert(legs)
        .values(row)
        .onConflictDoNothing()
        .then(
          () => true,
          (error: { cause?: { code?: string } }) => {
            // Its scouting was removed meanwhile.
            if (error.cause?.code === '23503') return false;
            throw error;
          },
        );
      return added;
    },
    letGo: async ({ id }) =>
      void (await db.update(legs).set({ result: new Uint8Array() }).where(eq(legs.scouting, id))),
    async here({ id, name, threads, doing }) {
      const row = { name, threads, doing: JSON.stringify(doing), seenAt: sql`now()` };
      await db
        .insert(workers)
        .values({ id, ...row })
        .onConflictDoUpdate({ target: workers.id, set: row });
    },
    gone: async (id) => void (await db.delete(workers).where(eq(workers.id, id))),
    async workers(seconds) {
      const since = sql`now() - make_interval(secs => ${seconds})`;
      await db.delete(workers).where(lt(workers.seenAt, sql`now() - interval '10 minutes'`));
      const rows = await db
        .select()
        .from(workers)
        .where(gte(workers.seenAt, since))
        .orderBy(asc(workers.name));
      return rows.map(({ seenAt: _, doing, ...row }) => ({ ...row, doing: JSON.parse(doing) as Doing[] }));
    },
    async time() {
      const { rows } = await db.execute<{ now: string }>(sql`select now()`);
      return new Date(rows[0]!.now);
    },
    call: async (id) =>
      void (await db.execute(sql`select pg_notify(${SCOUTINGS}, ${id}), pg_notify(${WORK}, ${id})`)),
    tell: async (id) => void (await db.execute(sql`select pg_notify(${SCOUTINGS}, ${id})`)),
  };
}
