import etag from '@koa/etag';
import Koa from 'koa';
import compress from 'koa-compress';
import type { Logger } from 'pino';
import { access } from './access.js';
import { notModified } from './conditions.js';
import { hostCheck, securityHeaders, wellFormed } from './guardrails.js';
import { pages } from './pages.js';
import { problems } from './problems.js';
import { requestLog } from './request-log.js';
import { apiRoutes, type Served } from './routes.js';

export interface AppOptions extends Served {
  log: Logger;
  /** Names that requests may come under. */
  hosts: readonly string[];
  /** The built web application; without it only the API is served. */
  web: string;
}

/** The whole server as one Koa application: log, headers, problems, host check, access, API, pages. */
export function createApp({ log, hosts, web, ...served }: AppOptions): Koa {
  const { access: who, metrics } = served;
  const app = new Koa();
  app.on('error', (error: NodeJS.ErrnoException) => {
    // A browser that goes away in the middle of an answer is no fault of ours.
    if (error.code !== 'ERR_STREAM_PREMATURE_CLOSE' && error.code !== 'ECONNRESET')
      log.error({ err: error }, 'an answer failed');
  });
  app.use(requestLog(log));
  app.use(metrics.count);
  app.use(securityHeaders());
  app.use(problems(log));
  app.use(wellFormed);
  app.use(hostCheck(hosts));
  if (who !== undefined) app.use(access(who));
  app.use(compress());
  app.use(notModified);
  app.use(etag());
  for (const middleware of [...apiRoutes(served), ...pages(web)]) app.use(middleware);
  return app;
}
