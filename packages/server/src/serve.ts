import { createServer, type RequestListener, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { Logger } from 'pino';
import { createApp } from './app.js';
import type { Config } from './config.js';
import { lockFolder } from './lock.js';
import { loadSamples } from './samples.js';
import { createScoutings, WORKER } from './scoutings.js';
import { openStore } from './store.js';

const root = resolve(dirname(fileURLToPath(import.meta.url)), '../../..');
export const VERSION = '0.1.0';

const SAMPLES = join(root, 'examples');

export interface Running {
  url: string;
  stop(): Promise<void>;
}

/** Opens the data, loads the samples on the first run, and serves; `stop` finishes what is under way and closes all. */
export async function serve(config: Config, log: Logger): Promise<Running> {
  const unlock = lockFolder(config.data);
  try {
    const store = await openStore(join(config.data, 'database'), join(root, 'packages/server/migrations'));
    await loadSamples(store, SAMPLES);
    const scoutings = await createScoutings({ store, log, worker: WORKER });
    const app = createApp({
      store,
      scoutings,
      log,
      version: VERSION,
      samples: SAMPLES,
      hosts: config.hosts,
      web: join(root, 'packages/web/dist/browser'),
    });
    const server = await listen(app.callback(), config);
    const { port } = server.address() as AddressInfo;
    const host = config.host.includes(':') ? `[${config.host}]` : config.host;
    return {
      url: `http://${host}:${port}/`,
      async stop() {
        await new Promise<void>((done) => {
          server.close(() => done());
          server.closeIdleConnections();
          setTimeout(() => server.closeAllConnections(), 2000).unref();
        });
        await scoutings.close();
        await store.close();
        unlock();
      },
    };
  } catch (error) {
    unlock();
    throw error;
  }
}

async function listen(handler: RequestListener, config: Config): Promise<Server> {
  const server = createServer(handler);
  server.requestTimeout = 30_000;
  server.headersTimeout = 10_000;
  await new Promise<void>((done, fail) => {
    server.once('error', fail);
    server.listen(config.port, config.host, done);
  });
  return server;
}
