import Koa from 'koa';
import compress from 'koa-compress';
import type { Logger } from 'pino';
import { hostCheck, problems, securityHeaders } from './guardrails.js';
import { pages } from './pages.js';
import { apiRoutes } from './routes.js';
import type { Scoutings } from './scoutings.js';
import type { Store } from './store.js';

export interface AppOptions {
  store: Store;
  scoutings: Scoutings;
  log: Logger;
  version: string;
  /** Names that requests may come under. */
  hosts: readonly string[];
  /** The built web application; without it only the API is served. */
  web: string;
}

/** The whole server as one Koa application: headers, problems, host check, API, pages. */
export function createApp({ store, scoutings, log, version, hosts, web }: AppOptions): Koa {
  const app = new Koa();
  app.on('error', (error: NodeJS.ErrnoException) => {
    // A browser that goes away in the middle of an answer is no fault of ours.
    if (error.code !== 'ERR_STREAM_PREMATURE_CLOSE') log.error({ err: error }, 'an answer failed');
  });
  app.use(securityHeaders());
  app.use(problems(log));
  app.use(hostCheck(hosts));
  app.use(compress());
  for (const middleware of [...apiRoutes(store, scoutings, version), ...pages(web)]) app.use(middleware);
  return app;
}
