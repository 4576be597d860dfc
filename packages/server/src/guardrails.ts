import { randomBytes } from 'node:crypto';
import { PROBLEM_TYPE } from '@glenmark/contract';
import type { Middleware } from 'koa';
import helmet from 'koa-helmet';
import type { Logger } from 'pino';
import { ProblemError } from './problem.js';

/** Writes every error below it as problem details; what nobody expected is logged and told without its insides. */
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
      const problem = error instanceof ProblemError ? error.problem : fromHttpError(error, log);
      ctx.status = problem.status;
      ctx.body = JSON.stringify(problem);
      ctx.type = PROBLEM_TYPE;
    }
  };

function fromHttpError(error: unknown, log: Logger): ProblemError['problem'] {
  const { status, message } = error as { status?: number; message?: string };
  if (status !== undefined && status >= 400 && status < 500) {
    const detail =
      status === 413
        ? 'Nothing was saved: the request is larger than any document may be.'
        : `The request was not understood: ${message ?? 'no reason given'}.`;
    return new ProblemError(status, detail).problem;
  }
  log.error({ err: error }, 'a request failed');
  return new ProblemError(
    500,
    'The server failed on this request. What was saved before is kept; try again, and see the server\u2019s log.',
  ).problem;
}

/** Answers only to names of this machine (or those configured), so that no foreign page can reach it by a name of its own. */
export const hostCheck =
  (hosts: readonly string[]): Middleware =>
  async (ctx, next) => {
    const { hostname } = new URL(`http://${ctx.get('host') || 'missing.invalid'}`);
    if (!hosts.includes(hostname))
      throw new ProblemError(421, `This server does not answer to the host '${hostname}'.`);
    const origin = ctx.get('origin');
    if (
      origin !== '' &&
      ctx.method !== 'GET' &&
      ctx.method !== 'HEAD' &&
      hostOf(origin) !== ctx.get('host')
    ) {
      throw new ProblemError(
        403,
        `Requests that change something must come from this server\u2019s own pages, not from '${origin}'.`,
      );
    }
    await next();
  };

const hostOf = (origin: string): string | undefined => {
  try {
    return new URL(origin).host;
  } catch {
    return undefined;
  }
};

/** The analysis worker as the build names it. */
const WORKER = /^\/worker-\w+\.js$/;

/**
 * Security headers. Scripts only from here; style elements only with this request's nonce, kept in `ctx.state.nonce`. The
 * worker has a policy of its own, by which it may make code from text: the fast machine is generated there. It has no
 * page, no cookies and no right to load a script from elsewhere.
 */
export const securityHeaders = (): Middleware => async (ctx, next) => {
  const nonce = randomBytes(16).toString('base64');
  ctx.state['nonce'] = nonce;
  await helmet({
    contentSecurityPolicy: {
      useDefaults: false,
      directives: {
        defaultSrc: ["'none'"],
        scriptSrc: WORKER.test(ctx.path) ? ["'self'", "'unsafe-eval'"] : ["'self'"],
        workerSrc: ["'self'"],
        styleSrcElem: ["'self'", `'nonce-${nonce}'`],
        styleSrcAttr: ["'unsafe-inline'"],
        styleSrc: ["'self'"],
        fontSrc: ["'self'"],
        imgSrc: ["'self'", 'data:'],
        connectSrc: ["'self'"],
        baseUri: ["'self'"],
        formAction: ["'none'"],
        frameAncestors: ["'none'"],
      },
    },
    // Plain HTTP on the loopback is what this is; a proxy that adds TLS sets this header itself.
    strictTransportSecurity: false,
  })(ctx, next);
};
