import { PROBLEM_TYPE } from '@glenmark/contract';
import type { Context, Middleware } from 'koa';
import type { Logger } from 'pino';
import { ProblemError } from '../problem.js';
import { isAway } from '../store/database-faults.js';

/** Writes every error below it as problem details; an unexpected one is logged, and its insides are not sent. */
export const problems =
  (log: Logger): Middleware =>
  async (ctx, next) => {
    try {
      await next();
      if (ctx.status === 404 && ctx.body === undefined)
        throw new ProblemError(404, `There is nothing at ${ctx.path}.`);
      if (ctx.status === 405 || ctx.status === 501)
        throw new ProblemError(405, `${ctx.method} cannot be used on ${ctx.path}.`);
    } catch (error) {
      const problem = error instanceof ProblemError ? error.problem : fromHttpError(error, ctx, log);
      ctx.status = problem.status;
      if (problem.status === 503) ctx.set('Retry-After', '2');
      ctx.body = JSON.stringify({ ...problem, instance: `urn:uuid:${ctx.state['id'] as string}` });
      ctx.type = PROBLEM_TYPE;
    }
  };

function fromHttpError(error: unknown, ctx: Context, log: Logger): ProblemError['problem'] {
  const { status, message, limit } = error as { status?: number; message?: string; limit?: number };
  if (status !== undefined && status >= 400 && status < 500) {
    const detail =
      status === 413
        ? `Nothing was saved: the request is larger than the limit of ${limit ?? 0} bytes.`
        : `The request was not understood: ${message ?? 'no reason given'}.`;
    return new ProblemError(status, detail).problem;
  }
  if (isAway(error)) {
    log.warn({ err: error, id: ctx.state['id'] as string }, 'the database was away');
    return new ProblemError(503, 'The database cannot be reached. Try again in a moment.').problem;
  }
  log.error({ err: error, id: ctx.state['id'] as string }, 'a request failed');
  return new ProblemError(
    500,
    'The server failed on this request. What was saved before is kept; try again, and see the server\u2019s log.',
  ).problem;
}
