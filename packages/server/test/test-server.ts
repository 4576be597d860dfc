import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import type { AddressInfo, Server } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import {
  type AppOptions,
  createApp,
  createChecker,
  createHttpServer,
  createMetrics,
  openAccess,
  createScoutings,
  openStore,
  type Scoutings,
  type Store,
} from '@glenmark/server';
import pino from 'pino';

export const root = new URL('../../../', import.meta.url).pathname;
export const example = (file: string): string => readFileSync(join(root, 'examples', file), 'utf8');
export const courier = example('courier.yaml');
export const silent = pino({ level: 'silent' });
/** The built worker of scoutings: threads run what is built. */
export const WORKER = new URL('../dist/scouting/worker.js', import.meta.url);

/** A server on a data folder of its own. */
export interface TestServer {
  folder: string;
  store: Store;
  scoutings: Scoutings;
  server: Server;
  base: string;
  /** The token that was made for it. */
  made: string | undefined;
  close(): Promise<void>;
}

/**
 * Starts a server on a data folder of its own, or on a database that it may share. With `token` it asks for that, or with
 * `make` for one that it makes.
 */
export async function testServer({
  url,
  token,
  ...options
}: Partial<AppOptions> & { url?: string; token?: string } = {}): Promise<TestServer> {
  const folder = mkdtempSync(join(tmpdir(), 'glenmark-'));
  const checker = createChecker();
  const { store } = await openStore(url === undefined ? { folder } : { url }, {
    release: 'test',
    check: checker.check,
    log: silent,
  });
  const scoutings = await createScoutings({
    store,
    log: silent,
    worker: WORKER,
    // A busy machine may take longer; a scouting whose thread was ended could not go on.
    stopsWithin: 60_000,
  });
  const guard = token === undefined ? undefined : await openAccess(store, token);
  const app = createApp({
    store,
    scoutings,
    check: checker.check,
    log: silent,
    version: 'test',
    samples: join(root, 'examples'),
    metrics: createMetrics(scoutings),
    hosts: ['127.0.0.1'],
    web: join(folder, 'none'),
    ...(guard === undefined ? {} : { access: { ...guard.access, delay: 0 } }),
    ...options,
  });
  const server = createHttpServer(app.callback()).listen(0, '127.0.0.1');
  await new Promise((done) => server.once('listening', done));
  return {
    folder,
    store,
    scoutings,
    server,
    made: guard?.made,
    base: `http://127.0.0.1:${(server.address() as AddressInfo).port}`,
    async close() {
      await scoutings.close();
      server.closeAllConnections();
      server.close();
      await store.close();
      await checker.close();
      rmSync(folder, { recursive: true, force: true });
    },
  };
}
