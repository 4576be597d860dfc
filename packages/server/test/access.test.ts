import { get, request } from 'node:http';
import { Readable, Writable } from 'node:stream';
import { openAccess } from '@glenmark/server';
import fc from 'fast-check';
import pino from 'pino';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { createSession, digestOf, HOLDS, isSession, type SessionKeys } from '../src/http/sessions.js';
import { type Postgres, postgresPrograms, startPostgres } from '../../../scripts/postgres.mjs';
import { testServer, type TestServer } from './test-server.js';

const TOKEN = 'a token of the tests';

/** Everything that is logged, whatever its level. */
const lines: string[] = [];
const log = pino(
  { level: 'trace' },
  new Writable({
    write(chunk: Buffer, _, done) {
      lines.push(chunk.toString());
      done();
    },
  }),
);

const ask = (base: string, path: string, headers: Record<string, string> = {}): Promise<Response> =>
  fetch(base + path, { headers, redirect: 'manual' });

const signIn = (base: string, token: string, headers: Record<string, string> = {}): Promise<Response> =>
  fetch(`${base}/sign-in`, {
    method: 'POST',
    redirect: 'manual',
    headers: { 'Content-Type': 'application/x-www-form-urlencoded', ...headers },
    body: new URLSearchParams({ token }),
  });

/** The cookie that a sign-in gives, as a browser sends it back. */
async function cookieOf(base: string, headers?: Record<string, string>): Promise<string> {
  const reply = await signIn(base, ` ${TOKEN} `, headers);
  expect([reply.status, reply.headers.get('location')]).toEqual([303, '/']);
  return reply.headers.get('set-cookie')!.split(';')[0]!;
}

const signOut = (base: string, Cookie: string, everywhere: boolean): Promise<Response> =>
  fetch(`${base}/api/sign-out`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json', Cookie },
    body: JSON.stringify({ everywhere }),
  });

const statusWith = async (base: string, Cookie: string): Promise<number> =>
  (await ask(base, '/api/movesets', { Cookie })).status;

/** Access by keys that never change. */
const unchanging = {
  keys: () => Promise.resolve({ secret: 'secret', generation: 0, token: digestOf(TOKEN) }),
  signOutEverywhere: () => Promise.resolve(),
};

describe('a server that others can reach', () => {
  let guarded: TestServer;
  let base: string;
  beforeAll(async () => {
    guarded = await testServer({ token: TOKEN, log });
    ({ base } = guarded);
  });
  afterAll(() => guarded.close());

  it('answers 401 without the token, whatever the Host says, but for how it is and the sign-in page', async () => {
    for (const path of ['/', '/api/movesets', '/openapi.json', '/main.js', '/api/nothing', '/metrics'])
      expect([path, (await ask(base, path)).status]).toEqual([path, 401]);
    for (const path of ['/healthz', '/readyz'])
      expect([path, (await ask(base, path)).status]).toEqual([path, 200]);
    const page = await ask(base, '/sign-in');
    expect(page.status).toBe(200);
    expect(await page.text()).toContain('Access token');
    const forged = await new Promise<number | undefined>((done) => {
      request(`${base}/api/movesets`, { headers: { Host: '127.0.0.1' } }, (r) => done(r.statusCode)).end();
    });
    expect(forged).toBe(401);
  });

  it('takes the token as a bearer, or from the sign-in page, which gives a cookie that scripts cannot read', async () => {
    expect((await ask(base, '/api/movesets', { Authorization: `Bearer ${TOKEN}` })).status).toBe(200);
    expect((await ask(base, '/api/movesets', { Authorization: 'Bearer wrong' })).status).toBe(401);
    expect((await signIn(base, 'wrong')).status).toBe(401);
    expect((await signIn(base, 'x'.repeat(10_000))).status).toBe(413);
    // In pieces of no declared length, too.
    const pieces = Readable.from(Array.from({ length: 100 }, () => Buffer.from('token=xxxx'.repeat(10))));
    const streamed = await fetch(`${base}/sign-in`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/x-www-form-urlencoded' },
      body: Readable.toWeb(pieces),
      duplex: 'half',
    } as RequestInit);
    expect(streamed.status).toBe(413);
    const cookie = (await signIn(base, TOKEN)).headers.get('set-cookie')!;
    expect(cookie).toMatch(/httponly/i);
    expect(cookie).toMatch(/samesite=strict/i);
    expect(cookie).not.toMatch(/secure/i);
    expect(cookie).not.toContain(TOKEN);
    // Behind a proxy that speaks TLS it goes over nothing else.
    const behind = await signIn(base, TOKEN, { 'X-Forwarded-Proto': 'https' });
    expect(behind.headers.get('set-cookie')).toMatch(/; secure/i);
  });

  it('makes a session of its own at each sign-in, never one that the browser brought', async () => {
    const planted = 'glenmark=zzzzzzzz.planted.by-somebody';
    const cookie = await cookieOf(base, { Cookie: planted });
    expect(cookie).not.toContain('planted');
    expect(await statusWith(base, planted)).toBe(401);
    expect(await cookieOf(base)).not.toBe(cookie);
    expect(await statusWith(base, cookie)).toBe(200);
  });

  it('refuses what another site sends, signed in or not', async () => {
    const cookie = await cookieOf(base);
    const elsewhere = { Origin: 'https://elsewhere.example' };
    expect((await signIn(base, TOKEN, elsewhere)).status).toBe(403);
    const asked = await fetch(`${base}/api/sign-out`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json', Cookie: cookie, ...elsewhere },
      body: '{"everywhere":true}',
    });
    expect(asked.status).toBe(403);
    // A form of another site can send no JSON.
    const form = await fetch(`${base}/api/sign-out`, {
      method: 'POST',
      headers: { 'Content-Type': 'text/plain', Cookie: cookie },
      body: '{"everywhere":true}',
    });
    expect(form.status).toBe(415);
    expect(await statusWith(base, cookie)).toBe(200);
  });

  it('lets each wrong token wait as long, whatever is wrong with it', async () => {
    const slow = await testServer({ access: { ...unchanging, delay: 300 } });
    for (const wrong of ['', 'x', TOKEN.slice(0, -1), `${TOKEN}x`, TOKEN.toUpperCase()]) {
      const began = performance.now();
      expect((await signIn(slow.base, wrong)).status).toBe(401);
      expect(performance.now() - began).toBeGreaterThan(290);
    }
    await slow.close();
  });

  it('signs out one browser, or all of them', async () => {
    const [one, other] = [await cookieOf(base), await cookieOf(base)];
    const reply = await signOut(base, one, false);
    expect(reply.status).toBe(204);
    expect(reply.headers.get('set-cookie')).toMatch(/^glenmark=;/);
    expect(await statusWith(base, other)).toBe(200);
    await signOut(base, other, true);
    expect([await statusWith(base, one), await statusWith(base, other)]).toEqual([401, 401]);
    expect(await statusWith(base, await cookieOf(base))).toBe(200);
  });

  it('writes neither the token nor a session into its log', async () => {
    const cookie = await cookieOf(base);
    await ask(base, '/api/movesets', { Authorization: `Bearer ${TOKEN}`, Cookie: cookie });
    await ask(base, `/api/movesets?token=${encodeURIComponent(TOKEN)}`);
    const said = lines.join('');
    expect(said).toContain('/sign-in');
    for (const secret of [TOKEN, encodeURIComponent(TOKEN), cookie.split('=')[1]!, cookie.split('.')[2]!])
      expect(said).not.toContain(secret);
  });

  it('makes a token once, tells it once, and keeps only its digest', async () => {
    const first = await testServer({ token: 'make' });
    expect(first.made).toMatch(/^[\w-]{24}$/);
    expect(JSON.stringify(await first.store.setting('access'))).not.toContain(first.made);
    expect((await openAccess(first.store, 'make')).made).toBeUndefined();
    expect((await ask(first.base, '/api/movesets', { Authorization: `Bearer ${first.made}` })).status).toBe(
      200,
    );
    await first.close();
  });
});

describe('a session', () => {
  const text = fc.string({ minLength: 1 });
  const keys: fc.Arbitrary<SessionKeys> = fc.record({ secret: text, generation: fc.nat(), token: text });

  it('holds for the keys that made it until its time is over, and for no other keys', () => {
    fc.assert(
      fc.property(keys, keys, fc.nat(4e12), (own, other, now) => {
        const session = createSession(own, now);
        expect(isSession(own, session, now + HOLDS - 1)).toBe(true);
        expect(isSession(own, session, now + HOLDS)).toBe(false);
        const isOther = JSON.stringify(own) !== JSON.stringify(other);
        expect(isSession(other, session, now)).toBe(!isOther);
      }),
      { endOnFailure: true },
    );
  });

  it('does not hold when any of its characters is another one', () => {
    const own: SessionKeys = { secret: 'secret', generation: 3, token: 'token' };
    fc.assert(
      fc.property(fc.nat(), fc.constantFrom(...'0aZ_-.'), (at, character) => {
        const session = createSession(own, 0);
        const i = at % session.length;
        const changed = session.slice(0, i) + character + session.slice(i + 1);
        expect(isSession(own, changed, 0)).toBe(changed === session);
      }),
      { endOnFailure: true },
    );
  });
});

describe.skipIf(postgresPrograms() === undefined)('servers that share a database', () => {
  let postgres: Postgres;
  beforeAll(async () => {
    postgres = await startPostgres();
  });
  afterAll(() => postgres.stop());

  it('know each other\u2019s sessions, and end them together, open event streams too', async () => {
    const url = await postgres.database();
    const servers = [await testServer({ url, token: TOKEN }), await testServer({ url, token: TOKEN })];
    const [one, other] = servers.map((s) => s.base) as [string, string];
    const cookie = await cookieOf(one);
    expect(await statusWith(other, cookie)).toBe(200);
    const stream = await new Promise<{ status: number | undefined; closed: Promise<unknown> }>((done) => {
      get(`${other}/api/changes`, { headers: { Cookie: cookie } }, (reply) => {
        reply.resume();
        done({ status: reply.statusCode, closed: new Promise((end) => reply.once('close', end)) });
      });
    });
    expect(stream.status).toBe(200);
    await signOut(one, cookie, true);
    expect(await statusWith(other, cookie)).toBe(401);
    await stream.closed;
    for (const server of servers) await server.close();
  });

  it('answer 503 while the database is away, and say so; they live on', async () => {
    const own = await startPostgres();
    const server = await testServer({ url: await own.database(), token: TOKEN });
    const cookie = await cookieOf(server.base);
    expect((await ask(server.base, '/readyz')).status).toBe(200);
    own.stop();
    for (const path of ['/readyz', '/api/movesets', '/api/backup']) {
      const reply = await ask(server.base, path, { Cookie: cookie });
      expect([path, reply.status, reply.headers.get('retry-after')]).toEqual([path, 503, '2']);
    }
    expect((await ask(server.base, '/healthz')).status).toBe(200);
    await server.close();
  });
});
