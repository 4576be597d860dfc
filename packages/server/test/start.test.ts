import { type ChildProcess, spawn } from 'node:child_process';
import { cpSync, existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { PGlite } from '@electric-sql/pglite';
import { createChecker, openStore, readConfig } from '@glenmark/server';
import { drizzle } from 'drizzle-orm/pglite';
import { migrate } from 'drizzle-orm/pglite/migrator';
import { createHash } from 'node:crypto';
import { afterAll, describe, expect, it } from 'vitest';
import { postgresPrograms, startPostgres } from '../../../scripts/postgres.mjs';
import { example, root, silent } from './test-server.js';

const folder = mkdtempSync(join(tmpdir(), 'glenmark-start-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

interface Ended {
  code: number | null;
  out: string;
}

/** Starts the server as a process, and gives what it printed once it is ready or has ended. */
function start(
  env: Record<string, string>,
): Promise<{ child: ChildProcess; out: () => string; url: string | undefined; ended: Promise<Ended> }> {
  const child = spawn(process.execPath, [join(root, 'packages/server/dist/main.js')], {
    env: { ...process.env, PORT: '0', ...env },
  });
  let out = '';
  const ended = new Promise<Ended>((done) => child.once('close', (code) => done({ code, out })));
  return new Promise((done) => {
    const read = (chunk: Buffer): void => {
      out += chunk.toString();
      const url = /at (http:\S+)/.exec(out)?.[1];
      if (url !== undefined) done({ child, out: () => out, url, ended });
    };
    child.stdout.on('data', read);
    child.stderr.on('data', read);
    void ended.then(() => done({ child, out: () => out, url: undefined, ended }));
  });
}

describe('a start that fails', () => {
  it('because of its port says so before the data is touched', async () => {
    const busy = createServer().listen(0, '127.0.0.1');
    await new Promise((done) => busy.once('listening', done));
    const port = String((busy.address() as AddressInfo).port);
    const data = join(folder, 'untouched');
    const { ended } = await start({ PORT: port, GLENMARK_DATA: data });
    const { code, out } = await ended;
    expect([code, out]).toEqual([
      1,
      `Glenmark could not start: port ${port} is in use; stop what uses it, or set PORT\n`,
    ]);
    expect(existsSync(data)).toBe(false);
    busy.close();
  });

  it('because of its environment says so in one sentence', async () => {
    for (const [env, sentence] of [
      [{ LOG_LEVEL: 'loud' }, /LOG_LEVEL is 'loud', expected trace, debug/],
      [{ HOST: '192.0.2.1' }, /this machine has no address 192\.0\.2\.1; set HOST/],
      [{ GLENMARK_TOKEN: 'short' }, /GLENMARK_TOKEN has 5 characters, expected at least 16/],
    ] as const) {
      const { code, out } = await (await start({ GLENMARK_DATA: join(folder, 'none'), ...env })).ended;
      expect(code).toBe(1);
      expect(out).toMatch(sentence);
      expect(out.trim().split('\n')).toHaveLength(1);
    }
  });
});

describe.skipIf(postgresPrograms() === undefined)('a server on PostgreSQL', () => {
  it('shares its database with others; when one is killed the others go on', async () => {
    const postgres = await startPostgres();
    const DATABASE_URL = (await postgres.database()).replace('glenmark@', 'glenmark:secret@');
    // They make the tables together, too.
    const servers = await Promise.all([start({ DATABASE_URL }), start({ DATABASE_URL })]);
    const [one, other] = servers;
    expect(one.out()).toMatch(/\(data in postgres:\/\/127\.0\.0\.1:\d+\/test1\)/);
    expect(one.out()).not.toContain('secret');
    const reply = await fetch(`${one.url}api/movesets`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ text: example('courier.yaml').replace('name: Courier', 'name: Ferry hand') }),
    });
    expect(reply.status).toBe(201);
    one.child.kill('SIGKILL');
    await one.ended;
    expect((await fetch(`${other.url}api/movesets/ferry-hand`)).status).toBe(200);
    const next = await start({ DATABASE_URL });
    expect((await fetch(`${next.url}api/movesets/ferry-hand`)).status).toBe(200);
    for (const { child, ended } of [other, next]) {
      child.kill('SIGTERM');
      expect((await ended).code).toBe(0);
    }
    postgres.stop();
  });

  it('that is not there is told of in a sentence', async () => {
    const { code, out } = await (await start({ DATABASE_URL: 'postgres://glenmark@127.0.0.1:1/none' })).ended;
    expect(code).toBe(1);
    expect(out).toMatch(/^Glenmark could not start: the database cannot be reached \(.*\); set DATABASE_URL/);
  });
});

describe('a server that runs', () => {
  it('beyond loopback prints a token and asks for it; it ends in order with event streams open', async () => {
    const data = join(folder, 'reachable');
    const { child, out, url, ended } = await start({ HOST: '0.0.0.0', GLENMARK_DATA: data });
    const port = new URL(url!).port;
    const own = `http://127.0.0.1:${port}`;
    const refused = await fetch(`${own}/api/movesets`, { headers: { Accept: 'application/json' } });
    expect(refused.status).toBe(401);
    const token = (): string | undefined => /asks for a token: (\S+)/.exec(out())?.[1];
    await expect.poll(token).toBeDefined();
    const headers = {
      Authorization: `Bearer ${token()!}`,
      'Content-Type': 'application/json',
    };
    const begun = await fetch(`${own}/api/scoutings`, {
      method: 'POST',
      headers,
      body: JSON.stringify({ moveset: 'courier', courses: ['mill-yard'], situations: 50_000_000 }),
    });
    const { id } = (await begun.json()) as { id: string };
    const streams = await Promise.all(
      Array.from({ length: 5 }, () => fetch(`${own}/api/scoutings/${id}/events`, { headers })),
    );
    child.kill('SIGTERM');
    expect((await ended).code).toBe(0);
    for (const stream of streams) await stream.body?.cancel().catch(() => undefined);
    // Begun anew at the next start: a server that was stopped in order does not count as a failed try.
    const next = await start({ GLENMARK_DATA: data });
    const again = (await (await fetch(`${next.url!}api/scoutings/${id}`)).json()) as {
      state: string;
      begun: number;
    };
    expect([again.state, again.begun]).toEqual(['running', 1]);
    next.child.kill('SIGTERM');
    expect((await next.ended).code).toBe(0);
  });
});

describe('the database of the previous release', () => {
  /** A folder with the migrations of an earlier release only: those whose names it says. */
  function migrationsTo(isIts: (tag: string) => boolean): string {
    const migrations = join(folder, `migrations ${Math.random()}`);
    cpSync(join(root, 'packages/server/migrations'), migrations, { recursive: true });
    const journal = join(migrations, 'meta/_journal.json');
    const written = JSON.parse(readFileSync(journal, 'utf8')) as { entries: { tag: string }[] };
    const entries = written.entries.filter(({ tag }) => isIts(tag));
    writeFileSync(journal, JSON.stringify({ ...written, entries }));
    return migrations;
  }

  it('knows which of its scoutings are under way', async () => {
    const client = await PGlite.create();
    await migrate(drizzle(client), { migrationsFolder: migrationsTo((tag) => tag < '0006') });
    for (const state of ['queued', 'running', 'done', 'stopped', 'failed'])
      await client.query(`insert into scoutings values ($1, 'courier', $2, now())`, [
        `courier ${state}`,
        JSON.stringify({ id: `courier ${state}`, state }),
      ]);
    await migrate(drizzle(client), { migrationsFolder: migrationsTo(() => true) });
    const { rows } = await client.query(`select id from scoutings where under_way order by id`);
    expect(rows).toEqual([{ id: 'courier queued' }, { id: 'courier running' }]);
    await client.close();
  });

  it('is opened, migrated and given a journal, with every revision', async () => {
    const data = join(folder, 'previous');
    mkdirSync(data, { recursive: true });
    // The tables as that release made them, by its own migrations.
    const migrations = migrationsTo((tag) => tag < '0002');
    const client = await PGlite.create(join(data, 'database'));
    await migrate(drizzle(client), { migrationsFolder: migrations });
    const texts = ['first', 'second'].map((note) =>
      example('signal-kite.yaml').replace(/^note: .*$/m, `note: ${note}`),
    );
    await client.query(
      `insert into documents values ('moveset', 'signal-kite', 'Signal kite', 2, '2026-10-01T10:00:00Z')`,
    );
    for (const [i, text] of texts.entries())
      await client.query(
        `insert into revisions values ('moveset', 'signal-kite', $1, $2, 'Signal kite', $3, 'm', $4, now())`,
        [i + 1, i === 0 ? null : i, createHash('sha256').update(text).digest('hex'), text],
      );
    await client.query(`insert into settings values ('samples', 'loaded')`);
    await client.close();
    writeFileSync(join(data, 'server.pid'), '1');

    const checker = createChecker();
    const open = () => openStore({ folder: data }, { release: 'test', check: checker.check, log: silent });
    const { store, notes } = await open();
    expect(notes).toEqual([]);
    expect((await store.read('moveset', 'signal-kite')).text).toBe(texts[1]);
    expect((await store.read('moveset', 'signal-kite', 1)).text).toBe(texts[0]);
    await store.close();
    rmSync(join(data, 'database'), { recursive: true });
    const { store: rebuilt } = await open();
    expect((await rebuilt.revisions('moveset', 'signal-kite')).map((r) => r.number)).toEqual([2, 1]);
    expect(await rebuilt.setting('samples')).toBe('loaded');
    await rebuilt.close();
    await checker.close();
  });
});

describe('the environment', () => {
  it('counts empty values as not set, and knows what only this machine can reach', () => {
    expect(readConfig({ HOST: '', PORT: '', GLENMARK_TOKEN: '' })).toMatchObject({
      host: '127.0.0.1',
      port: 4680,
      token: undefined,
    });
    for (const host of ['localhost', '127.0.0.1', '127.3.2.1', '::1', '[::1]'])
      expect([host, readConfig({ HOST: host }).token]).toEqual([host, undefined]);
    for (const host of ['0.0.0.0', '::', '192.168.1.4', '127.0.0.1.example'])
      expect([host, readConfig({ HOST: host }).token]).toEqual([host, 'make']);
    expect(readConfig({ HOST: '::1' }).hosts).toContain('[::1]');
    const token = 'sixteen characters';
    expect(readConfig({ GLENMARK_TOKEN: token }).token).toBe(token);
  });
});
