import { randomBytes } from 'node:crypto';
import type { Middleware } from 'koa';
import helmet from 'koa-helmet';
import { ProblemError } from '../problem.js';

/** Refuses addresses that cannot be decoded. */
export const wellFormed: Middleware = async (ctx, next) => {
  let path: string;
  try {
    path = decodeURIComponent(ctx.path);
  } catch {
    throw new ProblemError(
      400,
      'The address has a percent sign that is not followed by two hexadecimal digits of UTF-8.',
    );
  }
  if (path.includes('\0')) throw new ProblemError(400, 'The address has a NUL in it.');
  await next();
};

/** Answers only to names of this machine (or those configured), so that no foreign page can reach it by a name of its own. */
export const hostCheck =
  (hosts: readonly string[]): Middleware =>
  async (ctx, next) => {
    const host = ctx.get('host');
    const hostname = urlOf(`http://${host}`)?.hostname;
    if (hostname === undefined || /[/@?#\\]/.test(host))
      throw new ProblemError(400, 'The Host header is no name and port, such as localhost:4680.');
    if (!hosts.includes(hostname))
      throw new ProblemError(421, `This server does not answer to the host '${hostname}'.`);
    const origin = ctx.get('origin');
    if (origin !== '' && ctx.method !== 'GET' && ctx.method !== 'HEAD' && urlOf(origin)?.host !== host) {
      throw new ProblemError(
        403,
        `Requests that change something must come from this server\u2019s own pages, not from '${origin}'.`,
      );
    }
    await next();
  };

const urlOf = (text: string): URL | undefined => {
  try {
    return new URL(text);
  } catch {
    return undefined;
  }
};

/** The workers as the build names them. */
const WORKER = /^\/worker-\w+\.js$/;

/**
 * Security headers. Scripts only from here; style elements only with this request's nonce, kept in `ctx.state.nonce`. A
 * page may run WebAssembly, which is the world kernel, but never make code from text. The worker has a policy of its own,
 * by which it may: the fast machine is printed there. It has no page, no cookies and no right to load a script from elsewhere.
 */
export const securityHeaders = (): Middleware => async (ctx, next) => {
  const nonce = randomBytes(16).toString('base64');
  ctx.state['nonce'] = nonce;
  await helmet({
    contentSecurityPolicy: {
      useDefaults: false,
      directives: {
        defaultSrc: ["'none'"],
        scriptSrc: ["'self'", WORKER.test(ctx.path) ? "'unsafe-eval'" : "'wasm-unsafe-eval'"],
        workerSrc: ["'self'"],
        styleSrcElem: ["'self'", `'nonce-${nonce}'`],
        styleSrcAttr: ["'unsafe-inline'"],
        styleSrc: ["'self'"],
        fontSrc: ["'self'"],
        imgSrc: ["'self'", 'data:'],
        connectSrc: ["'self'"],
        baseUri: ["'self'"],
        // The sign-in page alone sends a form.
        formAction: ["'self'"],
        frameAncestors: ["'none'"],
      },
    },
    // Without it a browser sends the sign-in form with no origin, as a page from elsewhere would.
    referrerPolicy: { policy: 'same-origin' },
    // Plain HTTP on the loopback is what this is; a proxy that adds TLS sets this header itself.
    strictTransportSecurity: false,
  })(ctx, next);
};
