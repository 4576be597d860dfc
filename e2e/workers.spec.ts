import { type ChildProcess, spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { postgresPrograms, startPostgres } from '../scripts/postgres.mjs';
import { choose, expect, startServer, test } from './app.js';

test.skip(postgresPrograms() === undefined, 'PostgreSQL is not on this machine');

/** A worker as a process; `ended` when it is gone. */
function startWorker(url: string): { child: ChildProcess; ended: Promise<unknown> } {
  const args = ['packages/cli/bin/glenmark.js', 'worker', '--database', url, '--threads', '1'];
  const child = spawn(process.execPath, args, { cwd: new URL('..', import.meta.url).pathname });
  return { child, ended: new Promise((done) => child.once('exit', done)) };
}

test('a team scouts with workers on two servers; one of them is killed and the search goes on', async ({
  page: app,
  context,
}) => {
  test.setTimeout(540_000);
  const postgres = await startPostgres();
  const url = await postgres.database();
  const data = mkdtempSync(join(tmpdir(), 'glenmark-e2e-'));
  const env = { DATABASE_URL: url };
  const servers = [await startServer(data, '0', env), await startServer(data, '0', env)];
  await app.goto(servers[0]!.url);
  await app.getByRole('link', { name: 'Courier draft' }).click();
  await app.getByRole('tab', { name: 'Findings', exact: true }).click();
  const panel = app.getByRole('complementary', { name: 'Scouting' });

  // Nobody is there yet; what is begun waits.
  await expect(panel.getByText(/^No worker is there: a scouting waits/)).toBeVisible();
  await choose(panel.getByRole('combobox', { name: 'Situations' }), '20,000');
  await choose(panel.getByRole('combobox', { name: 'Parts of each course' }), '2');
  await panel.getByRole('button', { name: 'Start scouting' }).click();
  await expect(panel.getByText('waits for its turn')).toBeVisible();

  const first = startWorker(url);
  const workers = panel.getByRole('table', { name: 'Workers' });
  await expect(workers.getByRole('row', { name: new RegExp(`:${first.child.pid} [12] `) })).toBeVisible({
    timeout: 180_000,
  });
  first.child.kill('SIGKILL');
  await first.ended;
  await expect(panel.getByText('What was searched is kept; it goes on when one comes.')).toBeVisible({
    timeout: 60_000,
  });
  const second = startWorker(url);

  // Seen on the other server, too, with what each part found.
  const other = await context.newPage();
  await other.goto(app.url().replace(servers[0]!.url, servers[1]!.url));
  for (const window of [app, other]) {
    const own = window.getByRole('complementary', { name: 'Scouting' });
    await expect(own.getByText('done', { exact: true })).toBeVisible({ timeout: 180_000 });
    const parts = own.getByRole('table', { name: 'Parts' });
    for (const part of ['1', '2']) {
      const row = parts.getByRole('row', { name: new RegExp(`^${part} `) });
      expect(Number((await row.getByRole('cell').first().innerText()).replace(',', ''))).toBeGreaterThan(
        9000,
      );
    }
    await expect(window.getByRole('article').filter({ hasText: /Vault is a trap/ })).toContainText(
      'witnessed',
    );
  }

  second.child.kill('SIGTERM');
  await second.ended;
  for (const { child } of servers) {
    const ended = new Promise((done) => child.once('exit', done));
    child.kill('SIGTERM');
    await ended;
  }
  postgres.stop();
  rmSync(data, { recursive: true, force: true });
});
