import { sql } from 'drizzle-orm';
import { drizzle } from 'drizzle-orm/node-postgres';
import { migrate } from 'drizzle-orm/node-postgres/migrator';
import type { Logger } from 'pino';
import type { Pool } from 'pg';
import { CHANNEL } from './changes.js';
import { connectionsTo, listenTo, type Listening } from './connections.js';
import { MIGRATIONS } from './database.js';
import { faultOfWrite, isWorthAgain } from './database-faults.js';
import type { Keeping } from './keeping.js';
import * as schema from './schema.js';

/** Number of the lock under which migrations run: several processes may start at the same time. */
const MIGRATING = 4680_2026;
/** How often a change is done again when another one got in its way. */
const TRIES = 5;

/** Opens a PostgreSQL database by its URL, as `connectionsTo` takes it, and migrates it. */
export async function openPostgres(url: string, log: Logger): Promise<Keeping> {
  const pool = connectionsTo(url, log);
  const db = drizzle(pool, { schema });
  try {
    await migrated(pool);
  } catch (error) {
    await pool.end().catch(() => undefined);
    throw error;
  }
  let listener: Listening | undefined;
  return {
    db,
    async write(change) {
      for (let tries = 1; ; tries++) {
        try {
          return (await db.transaction((tx) => change(tx))).result;
        } catch (error) {
          if (!isWorthAgain(error) || tries === TRIES) throw faultOfWrite(error);
        }
      }
    },
    async listen(heard) {
      listener = listenTo(url, CHANNEL, heard, log);
      await listener.ready;
    },
    ping: async () => void (await db.execute(sql`select 1`)),
    async close() {
      await listener?.end();
      await pool.end();
    },
  };
}

/** Brings the tables up to date, one process after the other. */
export async function migrated(pool: Pool): Promise<void> {
  const client = await pool.connect();
  try {
    await client.query('select pg_advisory_lock($1)', [MIGRATING]);
    await migrate(drizzle(client, { schema }), { migrationsFolder: MIGRATIONS });
  } finally {
    await client.query('select pg_advisory_unlock($1)', [MIGRATING]).catch(() => undefined);
    client.release();
  }
}
