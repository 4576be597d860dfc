import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { parentPort, workerData } from 'node:worker_threads';
import { eq } from 'drizzle-orm';
import { type Database, openDatabase } from './database.js';
import { applyEntry, applyToHeads, type Heads, JOURNAL_SETTING, putSetting } from './entries.js';
import { readSecondCopy, type SecondCopy } from './journal.js';
import { settings } from './schema.js';
import { selfCheck } from './self-check.js';

/** What an examination came to. `copy` says how the second copy is; `applied` how many of its lines the database lacked. */
export type Verdict =
  { state: 'sound'; applied: number; at: number; copy: SecondCopy } | { state: 'damaged'; reason: string };

const { database, journal } = workerData as { database: string; journal: string };

/** The number of the journal's line that a database has got to; 0 for one from before there was a journal. */
async function lineOf(db: Database): Promise<number> {
  const [row] = await db.select().from(settings).where(eq(settings.key, JOURNAL_SETTING));
  return Number(row?.value ?? 0);
}

async function examined(): Promise<Verdict> {
  if (!existsSync(join(database, 'PG_VERSION')))
    return { state: 'damaged', reason: 'its PG_VERSION is missing' };
  const { db, client } = await openDatabase(database, { checking: true });
  const at = await lineOf(db);
  const heads: Heads = new Map();
  let applied = 0;
  const copy = await readSecondCopy(journal, async (entries, n) => {
    for (const entry of entries) applyToHeads(heads, entry);
    if (n <= at) return;
    await db.transaction(async (tx) => {
      for (const entry of entries) await applyEntry(tx, entry);
      await putSetting(tx, JOURNAL_SETTING, String(n));
    });
    applied++;
  });
  if (copy.exists && copy.damaged === 0 && at < copy.after)
    return { state: 'damaged', reason: 'it is older than the journal' };
  const reason = await selfCheck(db, copy.damaged === 0 ? heads : new Map());
  if (reason !== undefined) return { state: 'damaged', reason };
  await client.close();
  return { state: 'sound', applied, at: Math.max(at, copy.last), copy };
}

examined()
  .catch((error: unknown): Verdict => ({ state: 'damaged', reason: messageOf(error) }))
  .then((verdict) => parentPort!.postMessage(verdict));

/** What PostgreSQL said, where the error around it only repeats the query. */
function messageOf(error: unknown): string {
  const { cause } = error as { cause?: unknown };
  if (cause instanceof Error) return messageOf(cause);
  return error instanceof Error ? error.message : String(error);
}
