// A server process as the campaigns need it: started, killed, asked.
import { spawn } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { root } from '../build.mjs';

const MAIN = join(root, 'packages/server/dist/main.js');

/** Starts a server on a data folder; `preload` runs in it first. Fails with what it printed when it ends instead. */
export function startServer(data, { preload, env = {} } = {}) {
  return new Promise((done, failed) => {
    const child = spawn(process.execPath, [...(preload ? ['--import', preload] : []), MAIN], {
      env: {
        ...process.env,
        PORT: '0',
        HOST: '',
        GLENMARK_TOKEN: '',
        LOG_LEVEL: 'error',
        GLENMARK_DATA: data,
        ...env,
      },
      stdio: ['ignore', 'pipe', 'pipe'],
    });
    let out = '';
    const ended = new Promise((over) => child.once('exit', (code, signal) => over({ code, signal })));
    const read = (chunk) => {
      out += chunk;
      const url = /at (http:\S+)\//.exec(out)?.[1];
      if (url) done({ child, url, ended, out: () => out });
    };
    child.stdout.on('data', read);
    child.stderr.on('data', read);
    child.once('exit', (code) =>
      failed(Object.assign(new Error(out.trim() || `ended with ${code}`), { code })),
    );
  });
}

/** Ends a server in order. */
export async function stopServer({ child, ended }) {
  child.kill('SIGTERM');
  return ended;
}

/** Asks a server; gives status, ETag and body. */
export async function ask(url, method, path, body, headers = {}) {
  const reply = await fetch(url + path, {
    method,
    headers: body === undefined ? headers : { 'Content-Type': 'application/json', ...headers },
    body: body === undefined ? undefined : JSON.stringify(body),
    signal: AbortSignal.timeout(60_000),
  });
  const text = await reply.text();
  const isJson = /json/.test(reply.headers.get('content-type') ?? '');
  return { status: reply.status, etag: reply.headers.get('etag'), body: isJson ? JSON.parse(text) : text };
}

export const sample = (file) => readFileSync(join(root, 'examples', file), 'utf8');

/** A moveset that differs from all others by its note. */
export const kiteNamed = (name, note) =>
  sample('signal-kite.yaml')
    .replace(/^note: .*$/m, `note: ${JSON.stringify(note)}`)
    .replace(/^name: .*$/m, `name: ${name}`);

/** A source of random numbers from a seed (mulberry32). */
export function randomFrom(seed) {
  let a = seed >>> 0;
  const next = () => {
    a = (a + 0x6d2b79f5) >>> 0;
    let t = Math.imul(a ^ (a >>> 15), 1 | a);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 2 ** 32;
  };
  return {
    next,
    below: (n) => Math.floor(next() * n),
    pick: (list) => list[Math.floor(next() * list.length)],
  };
}

/**
 * Writers that save to documents of their own, one after the other, until the server goes; what was acknowledged. `first`
 * resolves with the first save.
 */
export function saving(url, writers, acknowledged) {
  let goesOn = true;
  let begun;
  const first = new Promise((done) => (begun = done));
  const work = writers.map(async (id) => {
    let { etag } = await ask(url, 'GET', `/api/movesets/${id}`).catch(() => ({}));
    for (let n = 0; goesOn && etag; n++) {
      const text = kiteNamed(id, `${id} ${n} ${'x'.repeat(n % 4000)} ${Math.random()}`);
      const reply = await ask(url, 'PUT', `/api/movesets/${id}`, { text }, { 'If-Match': etag }).catch(
        () => undefined,
      );
      if (reply === undefined) break;
      if (reply.status !== 200)
        throw new Error(`a save was answered ${reply.status}: ${JSON.stringify(reply.body)}`);
      etag = reply.etag;
      acknowledged.push({ id, revision: reply.body.revision, text });
      begun();
    }
  });
  return { stop: () => (goesOn = false), first, done: Promise.all(work) };
}

/** How many acknowledged saves a server does not have. */
export async function lostOf(url, acknowledged) {
  let lost = 0;
  for (const { id, revision, text } of acknowledged) {
    const { status, body } = await ask(url, 'GET', `/api/movesets/${id}/revisions/${revision}`);
    if (status !== 200 || body.text !== text) lost++;
  }
  return lost;
}

/** Makes the writers' documents. */
export async function makeDocuments(url, count) {
  const ids = [];
  for (let i = 0; i < count; i++) {
    const { status, body } = await ask(url, 'POST', '/api/movesets', {
      text: kiteNamed(`writer${i}`, 'first'),
    });
    if (status !== 201) throw new Error(`a document was refused: ${JSON.stringify(body)}`);
    ids.push(body.id);
  }
  return ids;
}
