import { closeSync, mkdirSync, openSync } from 'node:fs';
import { join } from 'node:path';
import { tryLock } from 'fs-native-extensions';
import type { Logger } from 'pino';
import { Client } from 'pg';
import type { Place } from './store.js';

/** Makes this process the one server that serves a place; gives what gives it back. */
export const lockPlace = async (place: Place, log: Logger): Promise<() => unknown> =>
  'folder' in place ? lockFolder(place.folder) : lockDatabase(place.url, log);

/** Number of the lock of the one server that serves a database. */
const SERVING = 4680_2028;
/** How long after its connection broke the lock is taken again (ms). */
const AGAIN_AFTER = 500;

/**
 * Makes this process the one server of a database. Documents would stand several, but scoutings are kept track of in
 * memory. The lock ends with its connection; when that breaks, it is taken again.
 */
async function lockDatabase(url: string, log: Logger): Promise<() => Promise<void>> {
  let isOver = false;
  let client: Client;
  let timer: NodeJS.Timeout | undefined;
  async function take(): Promise<boolean> {
    client = new Client({ connectionString: url, application_name: 'glenmark owner', keepAlive: true });
    client.on('error', (error) => log.warn({ err: error }, 'the connection that owns the database broke'));
    client.on('end', () => {
      if (!isOver) timer = setTimeout(() => void again(), AGAIN_AFTER);
    });
    await client.connect();
    const { rows } = await client.query<{ taken: boolean }>('select pg_try_advisory_lock($1) as taken', [
      SERVING,
    ]);
    return rows[0]?.taken === true;
  }
  async function again(): Promise<void> {
    if (!(await take().catch(() => true)))
      log.error('another server serves the same database; stop one of them');
  }
  const giveBack = async (): Promise<void> => {
    isOver = true;
    clearTimeout(timer);
    await client.end();
  };
  if (await take()) return giveBack;
  await giveBack();
  throw new Error(
    'the database is in use by another Glenmark server; stop that one, or set DATABASE_URL to another database',
  );
}

/**
 * Makes this process the one owner of a data folder: two servers on one embedded database would destroy it. The lock is
 * the kernel's, on an open file: it ends with the process however that dies, and holds across containers and symbolic
 * links, where a process number would lie. Returns what gives the folder back.
 */
export function lockFolder(folder: string): () => void {
  mkdirSync(folder, { recursive: true });
  const file = openSync(join(folder, 'owner.lock'), 'a');
  if (!tryLock(file)) {
    closeSync(file);
    throw new Error(
      `the data folder ${folder} is in use by another Glenmark server; stop that one, or set GLENMARK_DATA to another folder`,
    );
  }
  return () => closeSync(file);
}
