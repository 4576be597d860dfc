// (f) Requests that are slow, many, large or odd, while a scouting runs: others are answered meanwhile, and memory comes back.
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { get } from 'node:http';
import { connect } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Worker } from 'node:worker_threads';
import { HOSTILE, kindOfHostile } from './hostile.mjs';
import { ask, makeDocuments, startServer, stopServer } from './server.mjs';

/** How long what must happen some time is waited for (ms). */
const PATIENCE = 60_000;

const pause = (ms) => new Promise((resume) => setTimeout(resume, ms));

/** Asks for the health of a server, from a thread of its own, until it is told to stop; how long the slowest answer took. */
function watchHealth(url) {
  const worker = new Worker(
    `const { parentPort, workerData: url } = require('node:worker_threads');
    let slowest = 0, failed = 0, goesOn = true;
    parentPort.once('message', () => (goesOn = false));
    (async () => {
      while (goesOn) {
        const began = performance.now();
        const status = await fetch(url + '/healthz').then((r) => r.status).catch(() => 0);
        if (status !== 200) failed++;
        slowest = Math.max(slowest, performance.now() - began);
        await new Promise((resume) => setTimeout(resume, 20));
      }
      parentPort.postMessage({ slowest: Math.round(slowest), failed });
    })();`,
    { eval: true, workerData: url },
  );
  return {
    stop: () =>
      new Promise((done) => {
        worker.once('message', done);
        worker.postMessage('stop');
      }),
  };
}

const megabytes = (pid) =>
  Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))[1]) / 1024;

/** Connections that send a request's head a byte at a time; how many of them the server never closes. */
async function loris(url, count) {
  const { port } = new URL(url);
  const sockets = Array.from({ length: count }, () => {
    const socket = connect(Number(port), '127.0.0.1');
    socket.on('error', () => undefined);
    socket.write('GET / HTTP/1.1\r\nHost: localhost\r\nX-Slow: ');
    return socket;
  });
  const drip = setInterval(() => sockets.forEach((s) => s.writable && s.write('a')), 1000);
  const stillOpen = () => sockets.filter((s) => !s.destroyed).length;
  for (const until = performance.now() + PATIENCE; stillOpen() > 0 && performance.now() < until;)
    await pause(100);
  clearInterval(drip);
  const left = stillOpen();
  sockets.forEach((s) => s.destroy());
  return left;
}

/** Opens and closes event streams of a scouting, so many at a time. */
async function streams(url, id, count) {
  let refused = 0;
  for (let opened = 0; opened < count; opened += 100)
    await Promise.all(
      Array.from(
        { length: 100 },
        () =>
          new Promise((done) => {
            const request = get(`${url}/api/scoutings/${id}/events`, { agent: false }, (reply) => {
              if (reply.statusCode !== 200) refused++;
              reply.on('error', () => undefined);
              reply.once('data', () => {
                request.destroy();
                done();
              });
              if (reply.statusCode !== 200) reply.resume().once('end', done);
            });
            request.on('error', () => done());
          }),
      ),
    );
  return refused;
}

/**
 * `slow` connections, `opened` event streams and the documents `only` names (otherwise all). A stop that is heeded after
 * more than `heeded` (ms) is late.
 */
export async function floods({ slow, opened, only, heeded = PATIENCE }) {
  const data = mkdtempSync(join(tmpdir(), 'glenmark-floods-'));
  const server = await startServer(data);
  const { url, child } = server;
  try {
    await makeDocuments(url, 1);
    const begin = (moveset) =>
      ask(url, 'POST', '/api/scoutings', { moveset, courses: ['mill-yard'], situations: 50_000_000 });
    const { body: running } = await begin('courier');
    const { body: waiting } = await begin('writer0');
    await ask(url, 'GET', '/healthz');
    // Every odd document, four at a time.
    let unanswered = 0;
    const took = [];
    const health = watchHealth(url);
    const names = Object.keys(HOSTILE).filter((name) => only === undefined || only.includes(name));
    const queue = [...names];
    const sender = async () => {
      for (let name = queue.shift(); name !== undefined; name = queue.shift()) {
        const began = performance.now();
        const path = `/api/${kindOfHostile(name)}`;
        const reply = await ask(url, 'POST', path, { text: HOSTILE[name] }).catch(() => ({}));
        if (![201, 400, 413, 422, 503].includes(reply.status)) {
          unanswered++;
          process.stderr.write(`${name}: ${reply.status}\n`);
        }
        took.push(performance.now() - began);
      }
    };
    await Promise.all([sender(), sender(), sender(), sender()]);
    const saving = await health.stop();
    const lorisHealth = watchHealth(url);
    const slowLeft = await loris(url, slow);
    const slowly = await lorisHealth.stop();
    await streams(url, waiting.id, Math.min(opened, 500));
    await pause(1000);
    const before = megabytes(child.pid);
    const refused = await streams(url, waiting.id, opened);
    // What is let go comes back with the next collections, while the running scouting grows: the least of a while.
    let min = Infinity;
    for (let n = 0; n < 20; n++) {
      await pause(opened > 1000 ? 500 : 50);
      min = Math.min(min, megabytes(child.pid));
    }
    const grown = Math.round(min - before);
    // A stop is heeded soon, and the server ends in order.
    const stopping = performance.now();
    await ask(url, 'POST', `/api/scoutings/${running.id}/stop`, {});
    for (;;) {
      const { body } = await ask(url, 'GET', `/api/scoutings/${running.id}`);
      if (body.state !== 'running' || performance.now() - stopping > PATIENCE) break;
      await pause(20);
    }
    const stopped = Math.round(performance.now() - stopping);
    const { code } = await stopServer(server);
    return {
      documents: names.length,
      unanswered,
      slowestDocument: `${Math.round(Math.max(...took))} ms`,
      slowestHealth: `${Math.max(saving.slowest, slowly.slowest)} ms`,
      unhealthy: saving.failed + slowly.failed,
      slowConnectionsLeft: slowLeft,
      streams: opened,
      refused,
      memoryGrown: `${grown} MB`,
      stopHeeded: `${stopped} ms`,
      lateStops: stopped > heeded ? 1 : 0,
      badExits: code === 0 ? 0 : 1,
    };
  } finally {
    child.kill('SIGKILL');
    rmSync(data, { recursive: true, force: true });
  }
}
