import { bodyParser } from '@koa/bodyparser';
import { createHash, timingSafeEqual } from 'node:crypto';
import type { Context, Middleware } from 'koa';
import { ProblemError } from '../problem.js';
import { signInPage } from './sign-in-page.js';

/** Who may use a server that others can reach: whoever knows the token. */
export interface Access {
  token: string;
  /** How long an answer to a wrong token waits, so that trying many takes long (ms). */
  delay?: number;
}

const COOKIE = 'glenmark';
/** Longest body of the sign-in form, in bytes. */
const MAX_FORM = 4096;
const SIGN_IN = '/sign-in';

const digest = (value: string): Buffer => createHash('sha256').update(value).digest();

/**
 * Asks for the token: in the cookie that the sign-in page gives, or as `Authorization: Bearer`. Without it every address
 * but `/healthz` and the sign-in page answers 401. The cookie holds a hash of the token, never the token.
 */
export function access({ token, delay = 500 }: Access): Middleware {
  const expected = digest(token);
  const cookie = createHash('sha256').update(`cookie ${token}`).digest('hex');
  // Digests have one length, whatever is compared.
  const isToken = (given: string): boolean => timingSafeEqual(digest(given), expected);
  const isCookie = (given: string): boolean => timingSafeEqual(digest(given), digest(cookie));

  async function signIn(ctx: Context): Promise<void> {
    if (ctx.method !== 'POST') return show(ctx, 200);
    const { token: given } = await formOf(ctx);
    if (typeof given !== 'string' || !isToken(given.trim())) {
      await new Promise((done) => setTimeout(done, delay));
      return show(ctx, 401, 'This is not the token.');
    }
    ctx.cookies.set(COOKIE, cookie, { httpOnly: true, sameSite: 'strict', path: '/', overwrite: true });
    ctx.redirect('/');
    ctx.status = 303;
  }

  return async (ctx, next) => {
    if (ctx.path === '/healthz') return next();
    if (ctx.path === SIGN_IN) return signIn(ctx);
    const bearer = /^Bearer (.+)$/i.exec(ctx.get('authorization'))?.[1];
    if ((bearer !== undefined && isToken(bearer)) || isCookie(ctx.cookies.get(COOKIE) ?? '')) return next();
    if (ctx.method === 'GET' && ctx.accepts('json', 'html') === 'html') return show(ctx, 401);
    ctx.set('WWW-Authenticate', 'Bearer realm="Glenmark"');
    throw new ProblemError(401, `Sign in at ${SIGN_IN}, or send the token as Authorization: Bearer.`);
  };
}

/** Reads the sign-in form; a longer one is not read to its end, for nobody has signed in yet. */
const parseForm = bodyParser({
  enableTypes: ['form'],
  formLimit: MAX_FORM,
  onError: (error) => {
    throw error;
  },
}) as Middleware;

async function formOf(ctx: Context): Promise<{ token?: unknown }> {
  await parseForm(ctx, async () => {});
  return (ctx.request as unknown as { body?: object }).body ?? {};
}

/** Shows the sign-in page, with what was wrong with the last try. */
function show(ctx: Context, status: number, wrong = ''): void {
  ctx.status = status;
  ctx.type = 'html';
  ctx.set('Cache-Control', 'no-store');
  ctx.body = signInPage(SIGN_IN, ctx.state['nonce'] as string, wrong);
}
