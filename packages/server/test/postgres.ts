import { execFileSync } from 'node:child_process';
import { chownSync, existsSync, mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { createServer, type AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Client } from 'pg';

/** A PostgreSQL server of our own, in a temporary folder and on a free port of this machine. */
export interface Postgres {
  /** The URL of an empty database that nobody else uses. */
  database(): Promise<string>;
  /** Ends the server as a crash would, and starts it again. */
  crash(): void;
  stop(): void;
}

/** Where Debian keeps the programs of its PostgreSQL servers. */
const DEBIAN = '/usr/lib/postgresql';
/** PostgreSQL refuses to run as root, so it runs as nobody. */
const NOBODY = 65534;

/** The folder of the newest PostgreSQL programs; undefined where there are none. */
export function postgresPrograms(): string | undefined {
  const versions = existsSync(DEBIAN) ? readdirSync(DEBIAN).map(Number) : [];
  const newest = Math.max(...versions.filter((version) => version >= 15));
  return Number.isFinite(newest) ? join(DEBIAN, String(newest), 'bin') : undefined;
}

export async function startPostgres(): Promise<Postgres> {
  const programs = postgresPrograms();
  if (programs === undefined) throw new Error(`there is no PostgreSQL 15 or newer in ${DEBIAN}`);
  const folder = mkdtempSync(join(tmpdir(), 'glenmark-postgres-'));
  const isRoot = process.getuid?.() === 0;
  if (isRoot) chownSync(folder, NOBODY, NOBODY);
  const data = join(folder, 'data');
  const port = await freePort();
  const run = (program: string, ...args: string[]): void =>
    void execFileSync(join(programs, program), args, {
      cwd: folder,
      stdio: 'ignore',
      env: { PATH: process.env['PATH'], LC_ALL: 'C.UTF-8' },
      ...(isRoot ? { uid: NOBODY, gid: NOBODY } : {}),
    });
  const start = (): void =>
    run(
      'pg_ctl',
      ...['start', '--wait', '-D', data, '-l', join(folder, 'log')],
      ...['-o', `-p ${port} -c listen_addresses=127.0.0.1 -c unix_socket_directories=${folder} -c fsync=off`],
    );
  run('initdb', '-D', data, '-U', 'glenmark', '--auth', 'trust', '--encoding', 'UTF8', '--no-sync');
  start();
  const urlOf = (database: string): string => `postgres://glenmark@127.0.0.1:${port}/${database}`;
  let made = 0;
  return {
    async database() {
      const name = `test${++made}`;
      const client = new Client({ connectionString: urlOf('postgres') });
      await client.connect();
      await client.query(`create database ${name}`);
      await client.end();
      return urlOf(name);
    },
    crash() {
      run('pg_ctl', 'stop', '--mode', 'immediate', '-D', data);
      start();
    },
    stop() {
      run('pg_ctl', 'stop', '--mode', 'fast', '-D', data);
      rmSync(folder, { recursive: true, force: true });
    },
  };
}

function freePort(): Promise<number> {
  return new Promise((done, fail) => {
    const server = createServer();
    server.once('error', fail);
    server.listen(0, '127.0.0.1', () => {
      const { port } = server.address() as AddressInfo;
      server.close(() => done(port));
    });
  });
}
