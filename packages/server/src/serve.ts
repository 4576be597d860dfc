import type { RequestListener, Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { Logger } from 'pino';
import { openAccess } from './access-keys.js';
import { createChecker } from './checking/checker.js';
import type { Config } from './config.js';
import { createApp } from './http/app.js';
import { createHttpServer } from './http/http-server.js';
import { createMetrics } from './metrics.js';
import { loadSamples } from './samples.js';
import { createScoutings, WORKER } from './scouting/scoutings.js';
import { createSharedScoutings } from './scouting/shared/shared-scoutings.js';
import { lockFolder } from './store/lock.js';
import { openStore } from './store/store.js';
import { VERSION } from './version.js';

const root = resolve(dirname(fileURLToPath(import.meta.url)), '../../..');
const SAMPLES = join(root, 'examples');

export interface Running {
  url: string;
  /** What happened at the start and a person should know, a sentence each. */
  notes: string[];
  /** The token that was made at this start; it is told this once. */
  token: string | undefined;
  stop(): Promise<void>;
}

/**
 * Takes the port and the data folder, opens the data, loads the samples on the first run, and serves; `stop` finishes what
 * is under way and closes all. A start that fails leaves nothing behind.
 */
export async function serve(config: Config, log: Logger): Promise<Running> {
  // The port first: whether it is free is known at once, and the data need not be opened for that.
  let answer: RequestListener = (_, res) => {
    res.writeHead(503, { 'Content-Type': 'application/problem+json', 'Retry-After': '2' });
    res.end(
      JSON.stringify({
        type: 'about:blank',
        title: 'Starting',
        status: 503,
        detail: 'The server is starting.',
      }),
    );
  };
  const server = await listen((req, res) => answer(req, res), config);
  const undo: (() => unknown)[] = [() => closed(server)];
  try {
    // A folder has one owner; a database may have several servers.
    const unlock = 'folder' in config.place ? lockFolder(config.place.folder) : () => undefined;
    undo.unshift(unlock);
    const checker = createChecker();
    undo.unshift(() => checker.close());
    const { store, notes } = await openStore(config.place, { release: VERSION, check: checker.check, log });
    undo.unshift(() => store.close());
    await loadSamples(store, SAMPLES);
    const scoutings =
      'url' in config.place
        ? await createSharedScoutings({ url: config.place.url, store, log })
        : await createScoutings({ store, log, worker: WORKER });
    undo.unshift(() => scoutings.close());
    const guard = config.token === undefined ? undefined : await openAccess(store, config.token);
    const app = createApp({
      store,
      scoutings,
      check: checker.check,
      log,
      version: VERSION,
      samples: SAMPLES,
      hosts: config.hosts,
      web: join(root, 'packages/web/dist/browser'),
      metrics: createMetrics(scoutings),
      ...(guard === undefined ? {} : { access: guard.access }),
    });
    answer = app.callback();
    const { port } = server.address() as AddressInfo;
    const host = config.host.includes(':') ? `[${config.host}]` : config.host;
    return {
      url: `http://${host}:${port}/`,
      notes,
      token: guard?.made,
      async stop() {
        const ended = closed(server);
        await scoutings.close();
        await ended;
        await store.close();
        await checker.close();
        unlock();
      },
    };
  } catch (error) {
    for (const step of undo) await step();
    throw error;
  }
}

/** Lets what is under way end for two seconds, and closes the rest. */
const closed = (server: Server): Promise<void> =>
  new Promise((done) => {
    server.close(() => done());
    server.closeIdleConnections();
    setTimeout(() => server.closeAllConnections(), 2000).unref();
  });

async function listen(handler: RequestListener, config: Config): Promise<Server> {
  const server = createHttpServer(handler);
  await new Promise<void>((done, fail) => {
    server.once('error', fail);
    server.listen(config.port, config.host, done);
  });
  return server;
}
