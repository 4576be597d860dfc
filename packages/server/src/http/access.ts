import { bodyParser } from '@koa/bodyparser';
import type { Context, Middleware } from 'koa';
import type { AccessKeys } from '../access-keys.js';
import { ProblemError } from '../problem.js';
import { createSession, digestOf, HOLDS, isSame, isSession } from './sessions.js';
import { signInPage } from './sign-in-page.js';

/** How a server that others can reach lets people in. */
export interface Access extends AccessKeys {
  /** How long an answer to a wrong token waits, so that trying many takes long (ms). */
  delay?: number;
}

const COOKIE = 'glenmark';
/** Longest body of the sign-in form, in bytes. */
const MAX_FORM = 4096;
const SIGN_IN = '/sign-in';
/** What everybody may ask: whether the server lives, and whether it is ready. */
const OPEN = new Set(['/healthz', '/readyz']);

/** Whether whoever sent a request is still let in; for answers that go on for long. */
export const stillMay = (ctx: Context): Promise<boolean> =>
  (ctx.state['stillMay'] as (() => Promise<boolean>) | undefined)?.() ?? Promise.resolve(true);

/**
 * Asks for the token: as the session in the cookie that the sign-in page gives, or as `Authorization: Bearer`. Without it
 * every address but the sign-in page and the two that tell how the server is answers 401.
 */
export function access({ keys, delay = 500 }: Access): Middleware {
  async function signIn(ctx: Context): Promise<void> {
    if (ctx.method !== 'POST') return show(ctx, 200);
    const { token } = await formOf(ctx);
    const now = await keys();
    if (typeof token !== 'string' || !isSame(digestOf(token.trim()), now.token)) {
      await new Promise((done) => setTimeout(done, delay));
      return show(ctx, 401, 'This is not the token.');
    }
    // Each sign-in has a name of its own: what the browser brought along is not made a session.
    setCookie(ctx, createSession(now, Date.now()));
    ctx.redirect('/');
    ctx.status = 303;
  }

  return async (ctx, next) => {
    if (OPEN.has(ctx.path)) return next();
    if (ctx.path === SIGN_IN) return signIn(ctx);
    const bearer = /^Bearer (.+)$/i.exec(ctx.get('authorization'))?.[1];
    const cookie = ctx.cookies.get(COOKIE) ?? '';
    const may = async (): Promise<boolean> => {
      const now = await keys();
      return (
        (bearer !== undefined && isSame(digestOf(bearer), now.token)) || isSession(now, cookie, Date.now())
      );
    };
    if (await may()) {
      ctx.state['stillMay'] = may;
      return next();
    }
    if (ctx.method === 'GET' && ctx.accepts('json', 'html') === 'html') return show(ctx, 401);
    ctx.set('WWW-Authenticate', 'Bearer realm="Glenmark"');
    throw new ProblemError(401, `Sign in at ${SIGN_IN}, or send the token as Authorization: Bearer.`);
  };
}

/** Takes the session from the browser that asks. */
export const forgetSession = (ctx: Context): void => setCookie(ctx, null);

function setCookie(ctx: Context, value: string | null): void {
  // A proxy that speaks TLS with the browser says so; then the cookie goes over nothing else.
  const secure = ctx.get('x-forwarded-proto') === 'https';
  ctx.cookies.secure = secure;
  ctx.cookies.set(COOKIE, value, {
    httpOnly: true,
    sameSite: 'strict',
    path: '/',
    overwrite: true,
    secure,
    ...(value === null ? {} : { maxAge: HOLDS }),
  });
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
