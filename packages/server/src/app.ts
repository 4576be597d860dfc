import Koa from 'koa';
import compress from 'koa-compress';
import type { Logger } from 'pino';
import { hostCheck, problems, securityHeaders } from './guardrails.js';
import { pages } from './pages.js';
import { apiRoutes, type Served } from './routes.js';

export interface AppOptions extends Served {
  log: Logger;
  /** Names that requests may come under. */
  hosts: readonly string[];
  /** The built web application; without it only the API is served. */
  web: string;
}

/** The whole server as one Koa application: headers, problems, host check, API, pages. */
export function createApp({ log, hosts, web, ...served }: AppOptions): Koa {
  const app = new Koa();
  app.on('error', (error: NodeJS.ErrnoException) => {
    // A browser that goes away in the middle of an answer is no fault of ours.
    if (error.code !== 'ERR_STREAM_PREMATURE_CLOSE') log.error({ err: error }, 'an answer failed');
  });
  app.use(securityHeaders());
  app.use(problems(log));
  app.use(hostCheck(hosts));
  app.use(compress());
  for (const middleware of [...apiRoutes(served), ...pages(web)]) app.use(middleware);
  return app;
}
