import { type ChildProcess, spawn } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { createChecker, createSharedScoutings, openStore } from '@glenmark/server';
import pino from 'pino';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Postgres, postgresPrograms, startPostgres } from '../../../scripts/postgres.mjs';
import { foundOf, scouted } from '../../server/test/scouted.js';
import { glenmark, root } from './glenmark.js';

describe('a worker', () => {
  it('without a database says what it needs', () => {
    const { status, err } = glenmark('worker');
    expect([status, err]).toEqual([
      2,
      'A worker needs the database that servers share: give --database, or set DATABASE_URL.\n',
    ]);
  });

  it('whose database is not there says so', () => {
    const { status, err } = glenmark('worker', '--database', 'postgres://glenmark@127.0.0.1:1/none');
    expect(status).toBe(2);
    expect(err).toMatch(/^The database cannot be used \(connect .*\); give --database, or set DATABASE_URL/);
  });
});

/** A worker as a process, once it says that it is there. */
function started(
  url: string,
): Promise<{ child: ChildProcess; ended: Promise<number | null>; out: () => string }> {
  const args = [join(root, 'packages/cli/bin/glenmark.js'), 'worker', '--database', url, '--threads', '1'];
  const child = spawn(process.execPath, args, { env: { ...process.env, LOG_LEVEL: 'silent' } });
  const ended = new Promise<number | null>((over) => child.once('close', over));
  let out = '';
  return new Promise((done, fail) => {
    const read = (chunk: Buffer): void => {
      out += chunk.toString();
      if (out.includes(' is there with one thread')) done({ child, ended, out: () => out });
    };
    child.stdout.on('data', read);
    child.stderr.on('data', read);
    void ended.then((code) => fail(new Error(`the worker ended with ${code}: ${out}`)));
  });
}

describe.skipIf(postgresPrograms() === undefined)('workers as processes', () => {
  let postgres: Postgres;
  beforeAll(async () => (postgres = await startPostgres()));
  afterAll(() => postgres.stop());

  it('one of them killed, the other comes to the report that nobody disturbed', async () => {
    const url = await postgres.database();
    const log = pino({ level: 'silent' });
    const checker = createChecker();
    const { store } = await openStore({ url }, { release: 'test', check: checker.check, log });
    const scoutings = await createSharedScoutings({ url, store, log });
    for (const [kind, file] of [
      ['moveset', 'courier-draft'],
      ['course', 'mill-yard'],
    ] as const)
      await store.create(kind, { text: readFileSync(join(root, `examples/${file}.yaml`), 'utf8') });
    const begin = () =>
      scoutings.begin({
        moveset: 'courier-draft',
        courses: ['mill-yard'],
        situations: 6000,
        seed: 3,
        parts: 2,
      });

    const first = await started(url);
    const undisturbed = await scouted(scoutings, (await begin()).id);
    expect(undisturbed.state).toBe('done');

    const { id } = await begin();
    // While it is at a part of it.
    const isAtIt = async (): Promise<boolean> =>
      (await scoutings.read(id)).shared!.workers.some(({ shards }) => shards.length > 0);
    while (!(await isAtIt())) await new Promise((later) => setTimeout(later, 20));
    first.child.kill('SIGKILL');
    await first.ended;
    const second = await started(url);
    const disturbed = await scouted(scoutings, id);
    expect(foundOf(disturbed)).toEqual(foundOf(undisturbed));

    second.child.kill('SIGTERM');
    expect(await second.ended).toBe(0);
    expect(second.out()).toContain('It handed back what it was at.');
    await scoutings.close();
    await store.close();
    await checker.close();
  });
});
