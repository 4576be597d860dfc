import type { Kind } from '@glenmark/core/model';
import { asc, gt, lt, max, min, sql } from 'drizzle-orm';
import type { Database, Transaction } from './database.js';
import type { Entry } from './entries.js';
import { changes } from './schema.js';

/** A document that was saved or removed, by whichever server. */
export interface DocumentChange {
  /** Counts up in the order in which changes were committed. */
  number: number;
  kind: Kind;
  id: string;
  /** Undefined when it was removed. */
  revision: number | undefined;
}

/** The channel on which PostgreSQL tells every server that there is a change. */
export const CHANNEL = 'glenmark_changes';
/** Number of the lock that makes changes visible in the order of their numbers. */
const IN_ORDER = 4680_2027;
/** How long a change is kept for those who were away (ms), and how many are told at once. */
const KEPT = 24 * 60 * 60 * 1000;
const TOLD = 500;

/** Writes down what a transaction changed of documents; listeners hear of it once it is committed. */
export async function noteChanges(tx: Transaction, entries: readonly Entry[]): Promise<void> {
  const createdAt = new Date();
  // Of several changes of a document only the last is told.
  const last = new Map<string, typeof changes.$inferInsert>();
  for (const entry of entries) {
    if (entry.op === 'revision') {
      const { kind, id, number: revision } = entry.row;
      last.set(`${kind}/${id}`, { kind, id, revision, createdAt });
    } else if (entry.op === 'remove')
      last.set(`${entry.kind}/${entry.id}`, { kind: entry.kind, id: entry.id, revision: null, createdAt });
  }
  const rows = [...last.values()];
  if (rows.length === 0) return;
  // Held until the commit: a later number is never seen before an earlier one.
  await tx.execute(sql`select pg_advisory_xact_lock(${IN_ORDER})`);
  await tx.insert(changes).values(rows);
  await tx.delete(changes).where(lt(changes.createdAt, new Date(createdAt.getTime() - KEPT)));
  await tx.execute(sql`select pg_notify(${CHANNEL}, '')`);
}

/** The first and the last change that are known; 0 and 0 before there is one. */
async function known(db: Database): Promise<{ first: number; last: number }> {
  const [row] = await db.select({ first: min(changes.number), last: max(changes.number) }).from(changes);
  return { first: row?.first ?? 0, last: row?.last ?? 0 };
}

/** Changes after a number, oldest first; not all when there are very many. */
async function changesAfter(db: Database, number: number): Promise<DocumentChange[]> {
  const rows = await db
    .select()
    .from(changes)
    .where(gt(changes.number, number))
    .orderBy(asc(changes.number))
    .limit(TOLD);
  return rows.map(({ revision, createdAt: _, ...row }) => ({ ...row, revision: revision ?? undefined }));
}

/** Somebody who is told of changes, and how far. */
interface Follower {
  at: number;
  next: (change: DocumentChange) => void;
}

/** Tells followers of changes, whoever makes them. */
export interface ChangeFeed {
  /**
   * Calls `next` with each change after a number, or from now on, in their order; `anew` first when some of them are not
   * known any more, with the number from which it goes on. Gives what ends that.
   */
  follow(
    after: number | undefined,
    next: (change: DocumentChange) => void,
    anew: (number: number) => void,
  ): () => void;
  /** Something may have changed: looks, and tells. */
  wake(): void;
  /** Ends when nothing is under way. */
  idle(): Promise<void>;
}

export function createChangeFeed(db: Database, failed: (error: unknown) => void): ChangeFeed {
  const followers = new Set<Follower>();
  let isAwake = false;
  let looking: Promise<void> | undefined;

  /** Reads what the one who is furthest behind does not know yet, until everybody knows all. */
  async function look(): Promise<void> {
    while (isAwake && followers.size > 0) {
      isAwake = false;
      const from = Math.min(...[...followers].map(({ at }) => at));
      const found = await changesAfter(db, from);
      for (const follower of followers)
        for (const change of found)
          if (change.number > follower.at) {
            follower.at = change.number;
            follower.next(change);
          }
      isAwake ||= found.length === TOLD;
    }
  }
  const wake = (): void => {
    isAwake = true;
    looking ??= look()
      .catch(failed)
      .finally(() => {
        looking = undefined;
        if (isAwake && followers.size > 0) wake();
      });
  };

  return {
    follow(after, next, anew) {
      let isGone = false;
      let follower: Follower | undefined;
      known(db)
        .then(({ first, last }) => {
          if (isGone) return;
          const isLost = after !== undefined && (after > last || after < first - 1);
          const at = after === undefined || isLost ? last : after;
          if (isLost) anew(last);
          follower = { at, next };
          followers.add(follower);
          wake();
        })
        .catch(failed);
      return () => {
        isGone = true;
        if (follower !== undefined) followers.delete(follower);
      };
    },
    wake,
    idle: async () => {
      followers.clear();
      await looking;
    },
  };
}
