// (g) Two servers and three workers on one PostgreSQL: any of them killed, connections cut, the disk full, a clock that
// jumps, under concurrent saves and scoutings.
import { spawn, spawnSync } from 'node:child_process';
import { closeSync, mkdtempSync, openSync, rmSync, writeSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { isDeepStrictEqual } from 'node:util';
import { root } from '../build.mjs';
import { startPostgres } from '../postgres.mjs';
import { ask, kiteNamed, randomFrom, startServer, stopServer } from './server.mjs';

const CLI = join(root, 'packages/cli/bin/glenmark.js');
const CLOCK = new URL('./clock-preload.mjs', import.meta.url).href;
/** Disk of the database (MiB), when this machine lets us give it one of its own. */
const DISK = 400;
/** How long a scouting may take (ms) before it counts as never ended. */
const PATIENCE = 300_000;

const later = (ms) => new Promise((done) => setTimeout(done, ms));

/** A worker process; fails with what it printed when it ends instead. */
function startWorker(url, { preload } = {}) {
  return new Promise((done, failed) => {
    const args = [
      ...(preload ? ['--import', preload] : []),
      CLI,
      'worker',
      '--database',
      url,
      '--threads',
      '1',
    ];
    const child = spawn(process.execPath, args, { env: { ...process.env, LOG_LEVEL: 'silent' } });
    const ended = new Promise((over) => child.once('exit', (code) => over(code)));
    let out = '';
    const read = (chunk) => {
      out += chunk;
      if (out.includes(' is there with ')) done({ child, ended });
    };
    child.stdout.on('data', read);
    child.stderr.on('data', read);
    void ended.then((code) => failed(new Error(out.trim() || `the worker ended with ${code}`)));
  });
}

/** Starts something again and again until it is there: the database may be away for a moment. */
async function persistently(start) {
  for (let tries = 0; ; tries++)
    try {
      return await start();
    } catch (error) {
      if (tries === 30) throw error;
      await later(1000);
    }
}

/** A small disk of its own for the database; none where we may not have one. */
function smallDisk(folder) {
  const { status } = spawnSync('mount', ['-t', 'tmpfs', '-o', `size=${DISK}m`, 'tmpfs', folder], {
    stdio: 'ignore',
  });
  return status === 0 ? () => void spawnSync('umount', ['-l', folder]) : undefined;
}

/** Writes a file until there is no room on its disk for more. */
function fill(file) {
  const some = Buffer.alloc(65_536);
  const open = openSync(file, 'w');
  try {
    for (;;) writeSync(open, some);
  } catch (error) {
    if (error.code !== 'ENOSPC') throw error;
  } finally {
    closeSync(open);
  }
}

/** Saves one document again and again on one server, always over what was acknowledged last; `stop` ends it. */
function saver(url, name, acknowledged) {
  let isOver = false;
  const work = async () => {
    let count = 0;
    while (!isOver) {
      const at = await url();
      try {
        const known = await ask(at, 'GET', `/api/movesets/${name}`);
        const text = kiteNamed(name, `save ${count++}`);
        const reply =
          known.status === 404
            ? await ask(at, 'POST', '/api/movesets', { text })
            : await ask(at, 'PUT', `/api/movesets/${name}`, { text }, { 'If-Match': known.etag });
        if (reply.status === 200 || reply.status === 201)
          acknowledged.push({ id: reply.body.id, revision: reply.body.revision, text });
      } catch {
        // Not acknowledged.
      }
      // Often, and yet with time left for the scouting on a small machine.
      await later(400);
    }
  };
  const done = work();
  return async () => {
    isOver = true;
    await done;
  };
}

export async function cluster({ rounds, situations, seed = 1 }) {
  const random = randomFrom(seed);
  let hasDisk = false;
  const postgres = await startPostgres({
    prepare(folder) {
      const release = smallDisk(folder);
      hasDisk = release !== undefined;
      return release ?? (() => undefined);
    },
  });
  const data = mkdtempSync(join(tmpdir(), 'glenmark-cluster-'));
  const acknowledged = [];
  const figures = {
    rounds,
    killed: 0,
    died: 0,
    cut: 0,
    filled: 0,
    acknowledged: 0,
    lost: 0,
    scoutings: 0,
    wrongReports: 0,
    unfinished: 0,
    notStarted: 0,
  };
  const url = await postgres.database();
  const env = { DATABASE_URL: url };
  /** Counts a process that ends without being told to. */
  const watched = async (start) => {
    const one = { ...(await start), isMeant: false };
    void one.ended.then(() => {
      if (!one.isMeant) figures.died++;
    });
    return one;
  };
  const killed = async (one) => {
    one.isMeant = true;
    one.child.kill('SIGKILL');
    await one.ended;
  };
  const aServer = () => watched(startServer(data, { env }));
  const aWorker = (i) => watched(startWorker(url, i === 2 ? { preload: CLOCK } : {}));
  const servers = [await aServer(), await aServer()];
  const workers = [await aWorker(0), await aWorker(1), await aWorker(2)];
  try {
    const [{ url: at }] = servers;
    await ask(at, 'POST', '/api/samples/restore');
    const begin = async () =>
      (
        await ask(servers[random.below(2)].url, 'POST', '/api/scoutings', {
          moveset: 'courier-draft',
          courses: ['mill-yard'],
          situations,
          parts: 3,
        })
      ).body.id;
    const endOf = async (id) => {
      for (const until = Date.now() + PATIENCE; Date.now() < until; await later(300)) {
        const reply = await ask(servers[random.below(2)].url, 'GET', `/api/scoutings/${id}`).catch(
          () => undefined,
        );
        if (reply?.status === 200 && !['queued', 'running'].includes(reply.body.state)) {
          const { state, findings, coverage, done, ticks } = reply.body;
          return { state, findings, coverage, done, ticks };
        }
      }
      return undefined;
    };
    // What every scouting must come to: one that nobody disturbed.
    const expected = await endOf(await begin());
    if (expected?.state !== 'done') throw new Error(`the first scouting ended as ${expected?.state}`);

    const savers = ['ferry', 'sluice', 'quay', 'weir'].map((name, i) =>
      saver(() => Promise.resolve(servers[i % 2].url), name, acknowledged),
    );
    const victims = [
      'server',
      'server',
      'worker',
      'worker',
      'worker',
      'postgres',
      'connections',
      ...(hasDisk ? ['disk'] : []),
    ];
    for (let round = 0; round < rounds; round++) {
      const id = await persistently(begin);
      const ending = endOf(id);
      await later(random.below(4000));
      const victim = random.pick(victims);
      try {
        if (victim === 'server') {
          const i = random.below(2);
          await killed(servers[i]);
          servers[i] = await persistently(aServer);
          figures.killed++;
        } else if (victim === 'worker') {
          const i = random.below(3);
          await killed(workers[i]);
          workers[i] = await persistently(() => aWorker(i));
          figures.killed++;
        } else if (victim === 'postgres') {
          postgres.kill();
          await later(random.below(2000));
          await postgres.revive();
          figures.killed++;
        } else if (victim === 'connections') {
          await postgres.cut(1 + random.below(12));
          figures.cut++;
        } else {
          const filler = join(postgres.folder, 'filler');
          fill(filler);
          await later(2000 + random.below(3000));
          rmSync(filler);
          await postgres.revive();
          figures.filled++;
        }
      } catch (error) {
        process.stderr.write(`round ${round}, ${victim}: ${error.message}\n`);
        figures.notStarted++;
        break;
      }
      const report = await ending;
      figures.scoutings++;
      if (report === undefined) figures.unfinished++;
      else if (!isDeepStrictEqual(report, expected)) figures.wrongReports++;
      figures.acknowledged = acknowledged.length;
      // Half an hour is long to wait without a word.
      process.stderr.write(`round ${round + 1} of ${rounds}: ${victim}; ${JSON.stringify(figures)}\n`);
    }
    for (const stop of savers) await stop();
    for (const { id, revision, text } of acknowledged) {
      const reply = await ask(servers[0].url, 'GET', `/api/movesets/${id}/revisions/${revision}`);
      if (reply.status !== 200 || reply.body.text !== text) figures.lost++;
    }
    figures.acknowledged = acknowledged.length;
    return figures;
  } finally {
    for (const one of [...workers, ...servers]) {
      one.isMeant = true;
      await stopServer(one);
    }
    postgres.stop();
    rmSync(data, { recursive: true, force: true });
  }
}
