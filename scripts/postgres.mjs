// A PostgreSQL server of our own, for tests and campaigns: in a temporary folder, on a free port of this machine.
import { execFileSync } from 'node:child_process';
import { chownSync, existsSync, mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { createServer } from 'node:net';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { root } from './build.mjs';

const { Client } = createRequire(join(root, 'packages/server/package.json'))('pg');

/** Where Debian keeps the programs of its PostgreSQL servers. */
const DEBIAN = '/usr/lib/postgresql';
/** PostgreSQL refuses to run as root, so it runs as nobody. */
const NOBODY = 65534;

/** The folder of the newest PostgreSQL programs; undefined where there are none. */
export function postgresPrograms() {
  const versions = existsSync(DEBIAN) ? readdirSync(DEBIAN).map(Number) : [];
  const newest = Math.max(...versions.filter((version) => version >= 15));
  return Number.isFinite(newest) ? join(DEBIAN, String(newest), 'bin') : undefined;
}

/** Starts one. `prepare` is given its folder before anything is in it; what it gives back is called at the end. */
export async function startPostgres({ prepare = () => () => undefined } = {}) {
  const programs = postgresPrograms();
  if (programs === undefined) throw new Error(`there is no PostgreSQL 15 or newer in ${DEBIAN}`);
  const folder = mkdtempSync(join(tmpdir(), 'glenmark-postgres-'));
  const release = prepare(folder);
  const isRoot = process.getuid?.() === 0;
  if (isRoot) chownSync(folder, NOBODY, NOBODY);
  const data = join(folder, 'data');
  const port = await freePort();
  const run = (program, ...args) =>
    execFileSync(join(programs, program), args, {
      cwd: folder,
      stdio: 'ignore',
      env: { PATH: process.env.PATH, LC_ALL: 'C.UTF-8' },
      ...(isRoot ? { uid: NOBODY, gid: NOBODY } : {}),
    });
  const start = () =>
    run(
      'pg_ctl',
      ...['start', '--wait', '-D', data, '-l', join(folder, 'log')],
      // Processes are killed here, and no machine: what the kernel has is enough.
      ...['-o', `-p ${port} -c listen_addresses=127.0.0.1 -c unix_socket_directories=${folder} -c fsync=off`],
    );
  const isRunning = () => {
    try {
      run('pg_isready', '--quiet', '--host=127.0.0.1', `--port=${port}`);
      return true;
    } catch {
      return false;
    }
  };
  run('initdb', '-D', data, '-U', 'glenmark', '--auth', 'trust', '--encoding', 'UTF8', '--no-sync');
  start();
  const urlOf = (database) => `postgres://glenmark@127.0.0.1:${port}/${database}`;
  const asked = async (...query) => {
    const client = new Client({ connectionString: urlOf('postgres') });
    await client.connect();
    try {
      return await client.query(...query);
    } finally {
      await client.end();
    }
  };
  let made = 0;
  return {
    folder,
    /** The URL of an empty database that nobody else uses. */
    async database() {
      const name = `test${++made}`;
      await asked(`create database ${name}`);
      return urlOf(name);
    },
    /** Ends the server as a crash would, and starts it again. */
    crash() {
      run('pg_ctl', 'stop', '--mode', 'immediate', '-D', data);
      start();
    },
    /** Kills the first of its processes; the others notice and end. */
    kill() {
      const pid = Number(readFileSync(join(data, 'postmaster.pid'), 'utf8').split('\n')[0]);
      process.kill(pid, 'SIGKILL');
    },
    /** Starts it again after it was killed, once nothing of it is left; it does nothing while it runs. */
    async revive() {
      for (let tries = 0; ; tries++)
        try {
          return isRunning() ? undefined : start();
        } catch (error) {
          if (tries === 60) throw error;
          await new Promise((later) => setTimeout(later, 500));
        }
    },
    /** Cuts some of the connections to it. */
    cut: (count) =>
      asked(
        `select pg_terminate_backend(pid) from (select pid from pg_stat_activity where application_name like 'glenmark%' order by random() limit $1) as picked`,
        [count],
      ),
    stop() {
      try {
        run('pg_ctl', 'stop', '--mode', 'fast', '-D', data);
      } catch {
        // It does not run any more. What was kept is thrown away all the same.
      }
      release();
      rmSync(folder, { recursive: true, force: true });
    },
  };
}

function freePort() {
  return new Promise((done, fail) => {
    const server = createServer();
    server.once('error', fail);
    server.listen(0, '127.0.0.1', () => {
      const { port } = server.address();
      server.close(() => done(port));
    });
  });
}
