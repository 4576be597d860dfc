import type { Logger } from 'pino';
import { Client, Pool } from 'pg';

/** How long a statement may take (ms), when the URL says nothing else. */
const STATEMENT_TIMEOUT = 30_000;
/** How long a free connection is waited for (ms). */
const CONNECTING = 10_000;

/**
 * Connections to a PostgreSQL database. How many (`max`, or so many when it does not say), `statement_timeout` and TLS
 * (`sslmode`) are parameters of the URL.
 */
export function connectionsTo(url: string, log: Logger, most = 10): Pool {
  const parameters = new URL(url).searchParams;
  const pool = new Pool({
    connectionString: url,
    max: Number(parameters.get('max') ?? most),
    connectionTimeoutMillis: CONNECTING,
    statement_timeout: Number(parameters.get('statement_timeout') ?? STATEMENT_TIMEOUT),
    application_name: 'glenmark',
  });
  const broke = (error: Error): void => log.warn({ err: error }, 'a connection to the database broke');
  // One that breaks while nobody uses it is replaced by the pool.
  pool.on('error', broke);
  // One that breaks in a transaction, between two statements, fails the next one; unheard, it would end the process.
  pool.on('connect', (client) => client.on('error', broke));
  return pool;
}

/** How long after a connection broke another one is tried (ms). */
const AGAIN_AFTER = 500;

/** Somebody who hears what is said on a channel. */
export interface Listening {
  ready: Promise<void>;
  end(): Promise<void>;
}

/**
 * Listens to a channel on a connection of its own, and on another one when that breaks. `heard` is called with what is
 * said, and with an empty text when something may have been missed.
 */
export function listenTo(
  url: string,
  channel: string,
  heard: (text: string) => void,
  log: Logger,
): Listening {
  let isOver = false;
  let client: Client | undefined;
  let timer: NodeJS.Timeout | undefined;
  async function connect(): Promise<void> {
    const own = new Client({ connectionString: url, application_name: 'glenmark listener', keepAlive: true });
    client = own;
    own.on('error', (error) => log.warn({ err: error }, 'a connection that listens broke'));
    own.on('end', () => {
      if (!isOver) timer = setTimeout(() => void connect().catch(() => undefined), AGAIN_AFTER);
    });
    own.on('notification', ({ payload = '' }) => heard(payload));
    await own.connect();
    await own.query(`listen ${channel}`);
    // What was said while nobody listened is looked for.
    heard('');
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
