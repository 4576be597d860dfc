import { eq, lt } from 'drizzle-orm';
import { ProblemError } from '../problem.js';
import type { Transaction } from './database.js';
import { type Entry, storedRow } from './entries.js';
import { requests } from './schema.js';

/** A request that may be repeated: its key, and what it asks for as a hash. */
export interface RequestKey {
  key: string;
  hash: string;
}

/** How long a request is remembered by its key (ms). */
const REMEMBERED = 24 * 60 * 60 * 1000;
/** What an earlier request under this key made, such as `scouting/courier-1`. */
export async function madeBy(
  tx: Pick<Transaction, 'select'>,
  { key, hash }: RequestKey,
): Promise<string | undefined> {
  const [row] = await tx.select().from(requests).where(eq(requests.key, key));
  if (row === undefined || row.createdAt.getTime() < Date.now() - REMEMBERED) return undefined;
  if (row.hash !== hash)
    throw new ProblemError(
      422,
      'Nothing was saved: this Idempotency-Key was used for another request. Take a new key for a new request.',
    );
  return row.made;
}

/** Notes what a request made; the entry for the journal. */
export async function remembered(tx: Transaction, { key, hash }: RequestKey, made: string): Promise<Entry> {
  const row = { key, hash, made, createdAt: new Date() };
  await tx.delete(requests).where(lt(requests.createdAt, new Date(Date.now() - REMEMBERED)));
  await tx.insert(requests).values(row).onConflictDoUpdate({ target: requests.key, set: row });
  return { op: 'request', row: storedRow(row) };
}
