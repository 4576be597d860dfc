import type { Middleware } from 'koa';
import { ifNoneMatchNames } from '../etags.js';

/**
 * Answers 304 to a GET or HEAD whose `If-None-Match` names what would be sent (RFC 9110, 13.1.2). It looks at nothing else:
 * a client that asks with `Cache-Control: no-cache` wants to be told whether its copy is right, which this does.
 */
export const notModified: Middleware = async (ctx, next) => {
  await next();
  const asked = ctx.get('if-none-match');
  const etag = ctx.response.get('etag');
  if (ctx.method !== 'GET' && ctx.method !== 'HEAD') return;
  if (asked !== '' && etag !== '' && ctx.status === 200 && ifNoneMatchNames(asked, etag)) ctx.status = 304;
};
