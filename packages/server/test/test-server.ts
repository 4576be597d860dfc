import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import type { AddressInfo, Server } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import {
  type AppOptions,
  createApp,
  createChecker,
  createHttpServer,
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
  close(): Promise<void>;
}

export async function testServer(options: Partial<AppOptions> = {}): Promise<TestServer> {
  const folder = mkdtempSync(join(tmpdir(), 'glenmark-'));
  const checker = createChecker();
  const { store } = await openStore(folder, { release: 'test', check: checker.check, log: silent });
  const scoutings = await createScoutings({ store, log: silent, worker: WORKER });
  const app = createApp({
    store,
    scoutings,
    check: checker.check,
    log: silent,
    version: 'test',
    samples: join(root, 'examples'),
    hosts: ['127.0.0.1'],
    web: join(folder, 'none'),
    ...options,
  });
  const server = createHttpServer(app.callback()).listen(0, '127.0.0.1');
  await new Promise((done) => server.once('listening', done));
  return {
    folder,
    store,
    scoutings,
    server,
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
