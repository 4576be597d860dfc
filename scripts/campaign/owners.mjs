// (d) Two servers on one data folder: at the same time, through a link, in another process namespace, after a kill.
import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { root } from '../build.mjs';
import { startServer, stopServer } from './server.mjs';

export async function twoServers({ rounds }) {
  const base = mkdtempSync(join(tmpdir(), 'glenmark-owners-'));
  const data = join(base, 'data');
  const link = join(base, 'link');
  let bothRan = 0;
  let neitherRan = 0;
  let namespaces = 0;
  try {
    const first = await startServer(data);
    symlinkSync(data, link);
    const second = await startServer(link).catch((error) => error);
    if (!(second instanceof Error) || !/in use by another/.test(second.message)) bothRan++;
    // In a process namespace of its own, where process numbers say nothing; not every machine lets us make one.
    const apart = spawnSync(
      'unshare',
      ['-p', '-f', process.execPath, join(root, 'packages/server/dist/main.js')],
      {
        env: { ...process.env, PORT: '0', GLENMARK_DATA: data },
        encoding: 'utf8',
        timeout: 30_000,
      },
    );
    if (apart.status === 1 && /in use by another/.test(apart.stderr)) namespaces++;
    else if (/Glenmark is at/.test(apart.stdout ?? '')) bothRan++;
    first.child.kill('SIGKILL');
    await first.ended;
    // What an older release left: the number of a process that is alive and has nothing to do with us.
    writeFileSync(join(data, 'server.pid'), String(process.pid));
    for (let round = 0; round < rounds; round++) {
      const both = await Promise.all([0, 1].map(() => startServer(data).catch(() => undefined)));
      const running = both.filter((server) => server !== undefined);
      if (running.length === 2) bothRan++;
      if (running.length === 0) neitherRan++;
      for (const server of running) await stopServer(server);
    }
    return { rounds, bothRan, neitherRan, refusedAcrossNamespaces: namespaces };
  } finally {
    rmSync(base, { recursive: true, force: true });
  }
}
