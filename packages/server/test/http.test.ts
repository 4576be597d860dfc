import { get } from 'node:http';
import type { AddressInfo } from 'node:net';
import { connect } from 'node:net';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Writable } from 'node:stream';
import { Validator } from '@seriousme/openapi-schema-validator';
import { type Endpoint, ENDPOINTS, etagOf, type StoredDocument } from '@glenmark/contract';
import { Ajv2020 } from 'ajv/dist/2020.js';
import pino from 'pino';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { courier, example, testServer, type TestServer } from './test-server.js';

const lines: { msg: string; path: string; status: number; id: string }[] = [];
const log = pino(
  { level: 'info' },
  new Writable({
    write(chunk: Buffer, _, done) {
      lines.push(JSON.parse(chunk.toString()) as (typeof lines)[number]);
      done();
    },
  }),
);

let served: TestServer;
let base: string;

beforeAll(async () => {
  served = await testServer({ log, hosts: ['127.0.0.1', 'localhost', '[::1]'] });
  ({ base } = served);
});
afterAll(() => served.close());

const send = (method: string, path: string, body?: unknown, headers: Record<string, string> = {}) =>
  fetch(base + path, {
    method,
    headers: body === undefined ? headers : { 'Content-Type': 'application/json', ...headers },
    body: body === undefined ? undefined : JSON.stringify(body),
  });

const create = async (text: string, headers?: Record<string, string>): Promise<StoredDocument> =>
  (await (await send('POST', '/api/import', { text }, headers)).json()) as StoredDocument;

const named = (name: string): string => courier.replace('name: Courier', `name: ${name}`);

/** What a raw request is answered, for what `fetch` would not send. */
function raw(text: string): Promise<string> {
  const { port } = served.server.address() as AddressInfo;
  return new Promise((done, fail) => {
    const socket = connect(port, '127.0.0.1', () => socket.write(text));
    let answer = '';
    socket.on('data', (chunk) => (answer += chunk.toString()));
    socket.on('close', () => done(answer));
    socket.on('error', fail);
  });
}
const rawGet = (path: string, host: string): Promise<string> =>
  raw(`GET ${path} HTTP/1.1\r\nHost: ${host}\r\nConnection: close\r\n\r\n`);

describe('the OpenAPI document', () => {
  it('is valid by the schema of OpenAPI 3.1', async () => {
    const document = (await (await send('GET', '/openapi.json')).json()) as Record<string, unknown>;
    const { valid, errors } = await new Validator().validate(document);
    expect(errors ?? []).toEqual([]);
    expect(valid).toBe(true);
  });

  it('describes what every endpoint of the running server answers', async () => {
    const moveset = await create(courier);
    const course = await create(example('mill-yard.yaml'));
    const id = `${moveset.id}-1`;
    const steps: [string, string, string, object?, Record<string, string>?][] = [
      ['health', 'GET', '/healthz'],
      ['ready', 'GET', '/readyz'],
      ['workers', 'GET', '/api/workers'],
      ['metrics', 'GET', '/metrics'],
      ['exportBackup', 'GET', '/api/backup'],
      ['session', 'GET', '/api/session'],
      ['signOut', 'POST', '/api/sign-out', { everywhere: false }],
      ['import', 'POST', '/api/import', { text: example('signal-kite.yaml') }],
      ['restoreSamples', 'POST', '/api/samples/restore'],
      ['list', 'GET', '/api/movesets'],
      ['create', 'POST', '/api/movesets', { text: courier }],
      ['read', 'GET', `/api/movesets/${moveset.id}`],
      ['revisions', 'GET', `/api/movesets/${moveset.id}/revisions`],
      ['revision', 'GET', `/api/movesets/${moveset.id}/revisions/1`],
      ['label', 'PUT', `/api/movesets/${moveset.id}/revisions/1/label`, { label: ' sent to testers ' }],
      ['file', 'GET', `/api/movesets/${moveset.id}/file`],
      [
        'save',
        'PUT',
        `/api/movesets/${moveset.id}`,
        { text: courier.replace('6.2', '6.3') },
        { 'If-Match': etagOf(moveset) },
      ],
      ['scout', 'POST', '/api/scoutings', { moveset: moveset.id, courses: [course.id], situations: 200 }],
      ['scouting', 'GET', `/api/scoutings/${id}`],
      ['scoutings', 'GET', `/api/movesets/${moveset.id}/scoutings`],
      ['watchChanges', 'GET', '/api/changes'],
      ['watchScouting', 'GET', `/api/scoutings/${id}/events`],
      ['stopScouting', 'POST', `/api/scoutings/${id}/stop`],
      ['resumeScouting', 'POST', `/api/scoutings/${id}/resume`],
      ['remove', 'DELETE', `/api/movesets/${moveset.id}`, undefined, { 'If-Match': '*' }],
    ];
    // That of a backup has tests of its own.
    expect([...steps.map(([name]) => name), 'importBackup'].sort()).toEqual(Object.keys(ENDPOINTS).sort());
    const document = (await (await send('GET', '/openapi.json')).json()) as {
      paths: Record<
        string,
        Record<string, { responses: Record<string, { content?: Record<string, { schema: object }> }> }>
      >;
    };
    const ajv = new Ajv2020({ strict: false, validateFormats: false });
    for (const [name, method, path, body, headers] of steps) {
      const endpoint: Endpoint = ENDPOINTS[name as keyof typeof ENDPOINTS];
      const reply = await send(method, path, body, headers);
      expect([name, reply.status]).toEqual([name, endpoint.reply.status]);
      const described = document.paths[endpoint.path]![endpoint.method]!.responses[reply.status]!;
      // What is saved from now on is told for ever.
      if (name === 'watchChanges') await reply.body!.cancel();
      const text = name === 'watchChanges' ? '' : await reply.text();
      const json = described.content?.['application/json'];
      if (json !== undefined)
        expect([name, ajv.validate(json.schema, JSON.parse(text))]).toEqual([name, true]);
      if (endpoint.reply.etag === true) expect(reply.headers.get('etag')).toMatch(/^"\d+-\w{12}"$/);
      if (endpoint.reply.location === true) {
        const made = await send('GET', reply.headers.get('location')!);
        expect([name, made.status]).toEqual([name, 200]);
      }
    }
  });
});

describe('conditions', () => {
  it('If-None-Match of a document, a list or OpenAPI is answered 304 while nothing changed', async () => {
    const { id } = await create(courier);
    for (const path of [`/api/movesets/${id}`, '/api/movesets', '/openapi.json']) {
      const etag = (await send('GET', path)).headers.get('etag')!;
      const again = await send('GET', path, undefined, { 'If-None-Match': `"other", ${etag}` });
      expect([path, again.status, await again.text()]).toEqual([path, 304, '']);
    }
  });

  it('If-Match may be any, or one of a list, and never a weak tag', async () => {
    const document = await create(courier);
    const path = `/api/movesets/${document.id}`;
    const save = async (text: string, ifMatch: string): Promise<number> =>
      (await send('PUT', path, { text }, { 'If-Match': ifMatch })).status;
    expect(await save(courier.replace('6.2', '6.3'), `"nothing", ${etagOf(document)}`)).toBe(200);
    expect(await save(courier.replace('6.2', '6.4'), etagOf(document))).toBe(412);
    expect(await save(courier.replace('6.2', '6.4'), '*')).toBe(200);
    const now = (await send('GET', path)).headers.get('etag')!;
    expect(await save(courier.replace('6.2', '6.5'), `W/${now}`)).toBe(412);
  });

  it('a save that comes again because its answer was lost is answered with the revision that it made', async () => {
    const document = await create(courier);
    const path = `/api/movesets/${document.id}`;
    const text = courier.replace('6.2', '7.1');
    for (let i = 0; i < 2; i++) {
      const reply = await send('PUT', path, { text }, { 'If-Match': etagOf(document) });
      expect([reply.status, ((await reply.json()) as StoredDocument).revision]).toEqual([200, 2]);
    }
  });

  it('a create that is repeated with its Idempotency-Key makes one document', async () => {
    const text = named('Ferry hand');
    const made = await Promise.all(
      Array.from({ length: 5 }, () => create(text, { 'Idempotency-Key': 'ferry' })),
    );
    expect(new Set(made.map((d) => d.id))).toEqual(new Set(['ferry-hand']));
    const other = await send('POST', '/api/import', { text: named('Other') }, { 'Idempotency-Key': 'ferry' });
    expect(other.status).toBe(422);
  });
});

describe('lists', () => {
  it('come in parts that together are the whole', async () => {
    for (let i = 0; i < 5; i++) await create(named(`Listed ${i}`));
    const whole = ((await (await send('GET', '/api/movesets')).json()) as { id: string }[]).map((d) => d.id);
    const parts: string[] = [];
    let next: string | undefined = '/api/movesets?limit=3';
    while (next !== undefined) {
      const reply: Response = await send('GET', next);
      const part = (await reply.json()) as { id: string }[];
      expect(part.length).toBeLessThanOrEqual(3);
      parts.push(...part.map((d) => d.id));
      next = /<([^>]+)>; rel="next"/.exec(reply.headers.get('link') ?? '')?.[1];
    }
    expect(parts).toEqual(whole);
    expect((await send('GET', '/api/movesets?limit=0')).status).toBe(400);
    expect((await send('GET', '/api/movesets?cursor=nonsense')).status).toBe(400);
  });
});

describe('requests that are wrong', () => {
  it('say which methods there are, which types are given, and that HEAD is GET without a body', async () => {
    const wrong = await send('PATCH', '/api/movesets', {});
    expect([wrong.status, wrong.headers.get('allow')]).toEqual([405, expect.stringContaining('POST')]);
    expect((await send('GET', '/api/movesets', undefined, { Accept: 'image/png' })).status).toBe(406);
    const head = await send('HEAD', '/api/movesets');
    expect([head.status, await head.text()]).toEqual([200, '']);
  });

  it('are answered by problems that name the request as the log does', async () => {
    const reply = await send('GET', '/api/movesets/nobody');
    const { instance } = (await reply.json()) as { instance: string };
    await expect
      .poll(() => lines.find((l) => `urn:uuid:${l.id}` === instance))
      .toMatchObject({ msg: 'request', path: '/api/movesets/nobody', status: 404 });
  });

  it('with a malformed address, NUL or half a character get 400 or 422, and nothing is stored', async () => {
    for (const path of ['/api/movesets/%', '/api/movesets/%ff', '/%c0%80', '/api/movesets/a%00b'])
      expect([path, (await rawGet(path, 'localhost')).slice(9, 12)]).toEqual([path, '400']);
    for (const draft of [
      { text: `${courier}# \0` },
      { text: `${courier}# \ud800` },
      { text: courier, message: 'a\0b' },
      { text: courier, message: '\udc00' },
    ])
      expect([400, 422]).toContain((await send('POST', '/api/movesets', draft)).status);
  });

  it('with a Host that is none get 400 without a stack in the log; other names of this machine are answered', async () => {
    const before = lines.length;
    for (const host of ['', 'a b', 'x:y:z', '[::1', 'user@localhost', 'localhost/..'])
      expect([host, (await rawGet('/healthz', host)).slice(9, 12)]).toEqual([host, '400']);
    for (const host of ['localhost:4680', '127.0.0.1', '[::1]:99', 'LOCALHOST'])
      expect([host, (await rawGet('/healthz', host)).slice(9, 12)]).toEqual([host, '200']);
    expect((await rawGet('/healthz', 'elsewhere.example')).slice(9, 12)).toBe('421');
    expect(JSON.stringify(lines.slice(before))).not.toContain('stack');
  });

  it('larger than the limit are told the limit in bytes', async () => {
    const reply = await send('POST', '/api/import', { text: 'x'.repeat(5_000_000) });
    expect(reply.status).toBe(413);
    expect(((await reply.json()) as { detail: string }).detail).toMatch(
      /larger than the limit of \d{7} bytes/,
    );
    const wide = await send('POST', '/api/import', { text: `kind: moveset\nname: ${'ж'.repeat(1_100_000)}` });
    expect(((await wide.json()) as { detail: string }).detail).toContain('bytes, expected at most 2000000');
  });
});

describe('texts and names', () => {
  it('lose a byte order mark and keep everything else to the letter', async () => {
    const text = named('Marked').replaceAll('\n', '\r\n');
    const made = await create(`\uFEFF${text}`);
    expect(made.text).toBe(text);
  });

  it('in any script get ids of their own', async () => {
    const made = await Promise.all(
      ['Привет', '水車', 'Café', '🪁', '🌊', 'नाव'].map((name) => create(named(name))),
    );
    expect(made.map((d) => d.id).slice(0, 3)).toEqual(['привет', '水車', 'cafe']);
    expect(new Set(made.map((d) => d.id)).size).toBe(6);
    for (const { id, name } of made) {
      const reply = await send('GET', `/api/movesets/${encodeURIComponent(id)}`);
      expect(((await reply.json()) as StoredDocument).name).toBe(name);
    }
  });

  it('a removed moveset takes its scoutings along: a new one of its name has none', async () => {
    const moveset = await create(named('Short lived'));
    const course = await create(example('mill-yard.yaml'));
    await send('POST', '/api/scoutings', {
      moveset: moveset.id,
      courses: [course.id],
      situations: 5_000_000,
    });
    expect((await send('DELETE', `/api/movesets/${moveset.id}`, undefined, { 'If-Match': '*' })).status).toBe(
      204,
    );
    const again = await create(named('Short lived'));
    expect(again.id).toBe(moveset.id);
    expect(await (await send('GET', `/api/movesets/${again.id}/scoutings`)).json()).toEqual([]);
    expect((await send('GET', `/api/scoutings/${again.id}-1`)).status).toBe(404);
  });
});

describe('event streams', () => {
  it('of a waiting scouting are let go when their readers go', async () => {
    const moveset = await create(named('Watched'));
    const course = await create(example('mill-yard.yaml'));
    const request_ = { moveset: moveset.id, courses: [course.id], situations: 5_000_000 };
    const { id } = (await (await send('POST', '/api/scoutings', request_)).json()) as { id: string };
    // More than may be open at once, so each must be let go for the last to be answered.
    for (let round = 0; round < 5; round++) {
      const open = await Promise.all(
        Array.from(
          { length: 60 },
          () =>
            new Promise<{ status: number | undefined; end: () => void }>((done, fail) => {
              const asked = get(`${base}/api/scoutings/${id}/events`, { agent: false }, (reply) => {
                reply.on('error', () => undefined);
                reply.resume();
                done({ status: reply.statusCode, end: () => asked.destroy() });
              });
              asked.on('error', fail);
            }),
        ),
      );
      expect(new Set(open.map((o) => o.status))).toEqual(new Set([200]));
      for (const { end } of open) end();
    }
    await send('POST', `/api/scoutings/${id}/stop`, {});
  });
});

describe('pages', () => {
  it('are kept by their hashed names, checked otherwise, and answered 304 while they are the same', async () => {
    const web = mkdtempSync(join(tmpdir(), 'glenmark-web-'));
    writeFileSync(join(web, 'index.html'), '<style nonce="GLENMARK_NONCE"></style>');
    writeFileSync(join(web, 'main-ABCDEF12.js'), 'let a;');
    writeFileSync(join(web, 'mark.svg'), '<svg/>');
    const paged = await testServer({ web });
    const ask = (path: string, headers: Record<string, string> = {}): Promise<Response> =>
      fetch(paged.base + path, { headers });
    expect((await ask('/main-ABCDEF12.js')).headers.get('cache-control')).toContain('immutable');
    const mark = await ask('/mark.svg');
    expect(mark.headers.get('cache-control')).toBe('no-cache');
    expect((await ask('/mark.svg', { 'If-None-Match': mark.headers.get('etag')! })).status).toBe(304);
    // Every address of the application is its page, each time with a nonce of its own.
    const [one, other] = await Promise.all(['/', '/moveset/x/model'].map(async (p) => (await ask(p)).text()));
    expect(one).toMatch(/nonce="[\w+/=]{20,}"/);
    expect(one).not.toBe(other);
    for (const path of ['/api/nothing', '/missing.js'])
      expect([path, (await ask(path)).status]).toEqual([path, 404]);
    expect((await ask('/..%2fpackage.json')).status).toBe(403);
    await paged.close();
    rmSync(web, { recursive: true });
  });
});
