import { cpSync, existsSync, mkdirSync, renameSync, rmSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { PGlite } from '@electric-sql/pglite';
import { amcheck } from '@electric-sql/pglite/contrib/amcheck';
import { sql } from 'drizzle-orm';
import type { PgDatabase, PgQueryResultHKT } from 'drizzle-orm/pg-core';
import { drizzle, type PgliteDatabase } from 'drizzle-orm/pglite';
import { migrate } from 'drizzle-orm/pglite/migrator';
import * as schema from './schema.js';
import { syncFolder, SyncedFiles, syncTree } from './synced-files.js';

/** The database that documents are kept in, whichever driver speaks to it. */
export type Database = PgDatabase<PgQueryResultHKT, typeof schema>;
/** A database, or a transaction in it. */
export type Transaction = Pick<Database, 'select' | 'insert' | 'update' | 'delete' | 'execute'>;

/** Holds off whoever else locks the same name until the transaction ends. */
export const locked = (tx: Transaction, name: string) =>
  tx.execute(sql`select pg_advisory_xact_lock(hashtextextended(${name}, 0))`);

/** The one in a data folder, in this process. */
export type EmbeddedDatabase = PgliteDatabase<typeof schema>;

export interface OpenDatabase {
  db: EmbeddedDatabase;
  client: PGlite;
}

export const MIGRATIONS = join(dirname(fileURLToPath(import.meta.url)), '../../migrations');

/** PGlite's own parameters but for `-F`, which turns syncing off; its file layer knows `fsync`, not `fdatasync`. */
const START = [...PGlite.defaultStartParams.filter((p) => p !== '-F'), '-c', 'wal_sync_method=fsync'];

/** Opens the embedded database in a folder, and migrates it; with `checking` PostgreSQL's own checks can be called. */
export async function openDatabase(folder: string, { checking = false } = {}): Promise<OpenDatabase> {
  // Only the owner of the data folder comes here: what a server that was killed left of itself is stale.
  rmSync(join(folder, 'postmaster.pid'), { force: true });
  const client: PGlite = await PGlite.create({
    fs: new SyncedFiles(folder),
    startParams: START,
    ...(checking ? { extensions: { amcheck } } : {}),
  });
  try {
    const db = drizzle(client, { schema });
    await migrate(db, { migrationsFolder: MIGRATIONS });
    return { db, client };
  } catch (error) {
    await client.close().catch(() => undefined);
    throw error;
  }
}

/** An empty database, which the build leaves beside the code: to copy it takes a moment, to make one some seconds. */
export const EMPTY = fileURLToPath(new URL('../empty-database', import.meta.url));

/** Makes the empty database of the build anew; it has no tables yet. */
export async function makeEmptyDatabase(): Promise<void> {
  rmSync(EMPTY, { recursive: true, force: true });
  const draft = `${EMPTY}.new`;
  rmSync(draft, { recursive: true, force: true });
  const client = await PGlite.create({ fs: new SyncedFiles(draft), startParams: START });
  await client.close();
  renameSync(draft, EMPTY);
}

/** Makes a database and fills it. Half of one never stands under the folder's name, whenever the power goes. */
export async function createDatabase(folder: string, fill?: (db: Database) => Promise<void>): Promise<void> {
  const draft = `${folder}.new`;
  rmSync(draft, { recursive: true, force: true });
  mkdirSync(draft, { recursive: true });
  const hasEmpty = existsSync(EMPTY);
  if (hasEmpty) cpSync(EMPTY, draft, { recursive: true });
  // A copy that nothing is put into is given its tables when it is opened.
  if (!hasEmpty || fill !== undefined) {
    const { db, client } = await openDatabase(draft);
    await fill?.(db);
    await client.close();
  }
  syncTree(draft);
  renameSync(draft, folder);
  syncFolder(dirname(folder));
}
