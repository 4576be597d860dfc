import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createChecker, lockFolder, openStore } from '@glenmark/server';
import pino from 'pino';
import { afterAll, describe, expect, it } from 'vitest';
import { postgresPrograms, startPostgres } from '../../../scripts/postgres.mjs';
import { glenmark, root } from './glenmark.js';

const folder = mkdtempSync(join(tmpdir(), 'glenmark-cli-backup-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const at = (name: string): string => join(folder, name);
const text = readFileSync(join(root, 'examples/signal-kite.yaml'), 'utf8');

/** Makes a data folder with a moveset of two revisions. */
async function filled(data: string): Promise<void> {
  const unlock = lockFolder(data);
  const checker = createChecker();
  const log = pino({ level: 'silent' });
  const { store } = await openStore({ folder: data }, { release: 'test', check: checker.check, log });
  await store.create('moveset', { text });
  await store.save('moveset', 'signal-kite', { text: `${text}# again\n` }, '*');
  await store.close();
  await checker.close();
  unlock();
}

describe('a backup from the command line', () => {
  it('holds a folder whole, and is taken by another folder and by PostgreSQL', async () => {
    await filled(at('one'));
    const out = glenmark('export', at('all.zip'), '--data', at('one'));
    expect(out).toMatchObject({ status: 0, err: '' });
    expect(out.out).toContain('all.zip: 1 document, 2 revisions, 0 scoutings; each was read again');
    expect(glenmark('import', at('all.zip'), '--data', at('other')).out).toBe(
      'Added: Signal kite.\nScoutings that were not here: 0.\n',
    );
    // Once more adds nothing, and what is exported from there is the same.
    expect(glenmark('import', at('all.zip'), '--data', at('other')).out).toContain(
      'Here already: Signal kite.',
    );
    if (postgresPrograms() === undefined) return;
    const postgres = await startPostgres();
    const url = await postgres.database();
    expect(glenmark('import', at('all.zip'), '--database', url).out).toContain('Added: Signal kite.');
    expect(glenmark('export', at('back.zip'), '--database', url).out).toContain('1 document, 2 revisions');
    postgres.stop();
  });

  it('says in a sentence what stands in its way, and leaves what was there', async () => {
    writeFileSync(at('none.zip'), 'nothing');
    const none = glenmark('import', at('none.zip'), '--data', at('empty'));
    expect(none.status).toBe(2);
    expect(none.err).toMatch(/none\.zip: Nothing was imported: this is no zip file \(.*\)\.\n$/);
    expect(existsSync(at('empty'))).toBe(false);
    expect(glenmark('import', at('missing.zip')).err).toMatch(/missing\.zip: there is no such file\n$/);
    expect(glenmark('export', at('a.yaml')).err).toMatch(
      /export needs --to for a moveset, or the name of a \.zip/,
    );
    const unlock = lockFolder(at('busy'));
    const busy = glenmark('export', at('none.zip'), '--data', at('busy'));
    unlock();
    expect(busy).toMatchObject({ status: 2, out: '' });
    expect(busy.err).toContain('is in use by another Glenmark server');
    expect(readFileSync(at('none.zip'), 'utf8')).toBe('nothing');
    const away = glenmark('export', at('x.zip'), '--database', 'postgres://nobody@127.0.0.1:1/none');
    expect(away.status).toBe(2);
    expect(away.err).toContain('ECONNREFUSED');
  });
});
