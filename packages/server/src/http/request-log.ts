import { randomUUID } from 'node:crypto';
import type { Middleware } from 'koa';
import type { Logger } from 'pino';

/**
 * Gives each request an id, in `ctx.state.id`, and writes a line when it is answered: method, path, status, milliseconds,
 * id. Neither texts nor queries are logged.
 */
export const requestLog =
  (log: Logger): Middleware =>
  async (ctx, next) => {
    const id = randomUUID();
    ctx.state['id'] = id;
    const began = performance.now();
    ctx.res.once('close', () => {
      const ms = Math.round(performance.now() - began);
      log.info({ method: ctx.method, path: ctx.path, status: ctx.res.statusCode, ms, id }, 'request');
    });
    await next();
  };
