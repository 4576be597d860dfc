import { sql } from 'drizzle-orm';
import { drizzle } from 'drizzle-orm/node-postgres';
import { migrate } from 'drizzle-orm/node-postgres/migrator';
import type { Logger } from 'pino';
import { Client, Pool } from 'pg';
import { CHANNEL } from './changes.js';
import { MIGRATIONS } from './database.js';
import { faultOfWrite, isWorthAgain } from './database-faults.js';
import type { Keeping } from './keeping.js';
import * as schema from './schema.js';

/** Number of the lock under which migrations run: several processes may start at the same time. */
const MIGRATING = 4680_2026;
/** How long a statement may take (ms), when the URL says nothing else. */
const STATEMENT_TIMEOUT = 30_000;
/** How long a free connection is waited for (ms). */
const CONNECTING = 10_000;
/** How often a change is done again when another one got in its way. */
const TRIES = 5;

/**
 * Opens a PostgreSQL database by its URL and migrates it. Pool size (`max`), `statement_timeout` and TLS (`sslmode`) are
 * parameters of the URL.
 */
export async function openPostgres(url: string, log: Logger): Promise<Keeping> {
  const parameters = new URL(url).searchParams;
  const pool = new Pool({
    connectionString: url,
    max: Number(parameters.get('max') ?? 10),
    connectionTimeoutMillis: CONNECTING,
    statement_timeout: Number(parameters.get('statement_timeout') ?? STATEMENT_TIMEOUT),
    application_name: 'glenmark',
  });
  // A connection that breaks while nobody uses it is replaced by the pool.
  pool.on('error', (error) => log.warn({ err: error }, 'a connection to the database broke'));
  const db = drizzle(pool, { schema });
  try {
    await migrated(pool);
  } catch (error) {
    await pool.end().catch(() => undefined);
    throw error;
  }
  let listener: ReturnType<typeof listening> | undefined;
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
      listener = listening(url, heard, log);
      await listener.ready;
    },
    ping: async () => void (await db.execute(sql`select 1`)),
    async close() {
      await listener?.end();
      await pool.end();
    },
  };
}

/** How long after a connection broke another one is tried (ms). */
const AGAIN_AFTER = 500;

/** Listens for changes on a connection of its own, and on another one when that breaks. */
function listening(
  url: string,
  heard: () => void,
  log: Logger,
): { ready: Promise<void>; end(): Promise<void> } {
  let isOver = false;
  let client: Client | undefined;
  let timer: NodeJS.Timeout | undefined;
  async function connect(): Promise<void> {
    const own = new Client({ connectionString: url, application_name: 'glenmark listener', keepAlive: true });
    client = own;
    own.on('error', (error) => log.warn({ err: error }, 'the connection that listens for changes broke'));
    own.on('end', () => {
      if (!isOver) timer = setTimeout(() => void connect().catch(() => undefined), AGAIN_AFTER);
    });
    own.on('notification', heard);
    await own.connect();
    await own.query(`listen ${CHANNEL}`);
    // What was said while nobody listened is looked for.
    heard();
  }
  return {
    ready: connect(),
    async end() {
      isOver = true;
      clearTimeout(timer);
      await client?.end().catch(() => undefined);
    },
  };
}

/** Brings the tables up to date, one process after the other. */
async function migrated(pool: Pool): Promise<void> {
  const client = await pool.connect();
  try {
    await client.query('select pg_advisory_lock($1)', [MIGRATING]);
    await migrate(drizzle(client, { schema }), { migrationsFolder: MIGRATIONS });
  } finally {
    await client.query('select pg_advisory_unlock($1)', [MIGRATING]).catch(() => undefined);
    client.release();
  }
}
