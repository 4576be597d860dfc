import {
  appendFileSync,
  cpSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  statSync,
  truncateSync,
  writeFileSync,
} from 'node:fs';
import { randomBytes } from 'node:crypto';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Scouting } from '@glenmark/contract';
import { createChecker, lockFolder, openStore, type Store, type StoreOptions } from '@glenmark/server';
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { example, silent } from './test-server.js';

const kite = (note: string): string => example('signal-kite.yaml').replace(/^note: .*$/m, `note: ${note}`);
const checker = createChecker();
afterAll(() => checker.close());

/** A data folder with a document that was saved once; each test gets a copy. */
let template: string;
let folder: string;

beforeAll(async () => {
  template = mkdtempSync(join(tmpdir(), 'glenmark-store-'));
  folder = template;
  const { store } = await open();
  await store.create('moveset', { text: kite('first') });
  await store.save('moveset', 'signal-kite', { text: kite('second') }, '*');
  await store.close();
});
afterAll(() => rmSync(template, { recursive: true, force: true }));

beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'glenmark-store-'));
  cpSync(template, folder, { recursive: true });
});
afterEach(() => rmSync(folder, { recursive: true, force: true }));

const open = (more: Partial<StoreOptions> = {}): Promise<{ store: Store; notes: string[] }> =>
  openStore({ folder }, { release: '1.2.3', check: checker.check, log: silent, ...more });

async function saved(
  more?: Partial<StoreOptions>,
): Promise<{ store: Store; save: (note: string) => Promise<unknown> }> {
  const { store } = await open(more);
  return {
    store,
    save: (note) => store.save('moveset', 'signal-kite', { text: kite(note) }, '*'),
  };
}

/** The bytes of all files in a folder. */
const sizeOf = (path: string): number =>
  readdirSync(path, { recursive: true, withFileTypes: true })
    .filter((e) => e.isFile())
    .reduce((sum, e) => sum + statSync(join(e.parentPath, e.name)).size, 0);

const journals = (): string[] => readdirSync(join(folder, 'journal')).sort();
const noteOf = async (store: Store): Promise<string | undefined> =>
  /^note: (.*)$/m.exec((await store.read('moveset', 'signal-kite')).text)?.[1];

describe('a data folder that was damaged', () => {
  it('is rebuilt from the journal when its database does not open, and the old one is put aside', async () => {
    rmSync(join(folder, 'database/global/pg_control'));
    const { store: again, notes } = await open();
    expect(notes).toHaveLength(1);
    expect(notes[0]).toMatch(
      /The database was damaged \(.*\) and was put aside as .*database-damaged-\d{4}-.*It was rebuilt from the journal with 2 revisions\./,
    );
    expect(await noteOf(again)).toBe('second');
    expect((await again.revisions('moveset', 'signal-kite')).map((r) => r.number)).toEqual([2, 1]);
    expect(readdirSync(folder).filter((f) => f.startsWith('database-damaged'))).toHaveLength(1);
    await again.close();
  });

  it('is rebuilt when its database was made anew over the old one, or is missing', async () => {
    rmSync(join(folder, 'database/PG_VERSION'));
    const { store: again, notes } = await open();
    expect(notes[0]).toContain('its PG_VERSION is missing');
    expect(await noteOf(again)).toBe('second');
    await again.close();
    rmSync(join(folder, 'database'), { recursive: true });
    const { store: third, notes: told } = await open();
    expect(told).toEqual(['The database was missing. It was rebuilt from the journal with 2 revisions.']);
    expect(await noteOf(third)).toBe('second');
    await third.close();
  });

  it('is rebuilt with the labels of its revisions', async () => {
    const { store } = await open();
    expect((await store.label('moveset', 'signal-kite', 1, 'sent to testers')).label).toBe('sent to testers');
    await store.label('moveset', 'signal-kite', 2, 'second thoughts');
    expect((await store.label('moveset', 'signal-kite', 2, null)).label).toBeNull();
    await expect(store.label('moveset', 'signal-kite', 9, 'x')).rejects.toThrow(
      "There is no revision 9 of the moveset 'signal-kite'.",
    );
    await expect(store.label('moveset', 'nobody', 1, 'x')).rejects.toThrow("There is no moveset 'nobody'.");
    await store.close();
    rmSync(join(folder, 'database'), { recursive: true });
    const { store: rebuilt } = await open();
    expect((await rebuilt.revisions('moveset', 'signal-kite')).map((r) => r.label)).toEqual([
      null,
      'sent to testers',
    ]);
    await rebuilt.close();
  });

  it('gives a database from before a save the rest from the journal', async () => {
    const older = join(folder, 'older');
    cpSync(join(folder, 'database'), older, { recursive: true });
    const { store: again } = await open();
    await again.save('moveset', 'signal-kite', { text: kite('third') }, '*');
    await again.close();
    rmSync(join(folder, 'database'), { recursive: true });
    cpSync(older, join(folder, 'database'), { recursive: true });
    const { store: third, notes } = await open();
    expect(notes).toEqual(['The database was given 1 save from the journal.']);
    expect(await noteOf(third)).toBe('third');
    await third.close();
  });

  it('writes a damaged journal anew from the database, and loses nothing when that breaks later', async () => {
    const file = join(folder, 'journal', journals()[0]!);
    const bytes = readFileSync(file);
    bytes[200]! ^= 4;
    writeFileSync(file, bytes);
    const { store: again, notes } = await open();
    expect(notes).toEqual([
      'The journal was damaged and is written anew from the database; nothing was lost.',
    ]);
    await again.close();
    rmSync(join(folder, 'database/global/pg_control'));
    const { store: third, notes: told } = await open();
    expect(told[0]).toContain('rebuilt from the journal with 2 revisions');
    expect(await noteOf(third)).toBe('second');
    await third.close();
  });

  it('passes over a line that was cut while it was written, and goes on behind it', async () => {
    appendFileSync(join(folder, 'journal', journals()[0]!), '0badc0de {"n":99,"entr');
    const { store: again, notes } = await open();
    expect(notes).toEqual([]);
    await again.save('moveset', 'signal-kite', { text: kite('third') }, '*');
    await again.close();
    rmSync(join(folder, 'database'), { recursive: true });
    const { store: third } = await open();
    expect(await noteOf(third)).toBe('third');
    await third.close();
  });

  it('is refused, and left as it is, when there is nothing to rebuild it from', async () => {
    rmSync(join(folder, 'journal'), { recursive: true });
    truncateSync(join(folder, 'database/global/pg_control'), 10);
    await expect(open()).rejects.toThrow(
      /is damaged .*there is no journal to rebuild it from; restore the folder/,
    );
    expect(readdirSync(folder)).toContain('database');
  });

  it('written by a newer release is refused by its name', async () => {
    writeFileSync(join(folder, 'glenmark.json'), '{"layout":99,"release":"9.0.0"}');
    await expect(open()).rejects.toThrow('was written by Glenmark 9.0.0, which is newer than this one');
  });
});

describe('the journal', () => {
  it('begins anew with a snapshot when it has grown, and both give everything back', async () => {
    const { store, save } = await saved({ snapshotFrom: 20_000 });
    for (let i = 0; i < 12; i++) await save(`number ${i} ${'x'.repeat(2000)}`);
    await store.remove('moveset', 'signal-kite', '*');
    await store.create('moveset', { text: kite('again') });
    await store.close();
    expect(journals()[0]).not.toBe('journal-1.jsonl');
    expect(journals().some((f) => f.startsWith('snapshot-'))).toBe(true);
    rmSync(join(folder, 'database'), { recursive: true });
    const { store: again } = await open();
    expect(await noteOf(again)).toBe('again');
    expect(await again.revisions('moveset', 'signal-kite')).toHaveLength(1);
    await again.close();
  });

  it('keeps what a text may hold: line separators, quotes, characters of four bytes', async () => {
    const { store } = await open();
    await store.remove('moveset', 'signal-kite', '*');
    const text = kite('"a\u2028b \u{1F3ED} \\"c\\""');
    await store.create('moveset', { text });
    await store.close();
    rmSync(join(folder, 'database'), { recursive: true });
    const { store: again } = await open();
    expect((await again.read('moveset', 'signal-kite')).text).toBe(text);
    await again.close();
  });
});

describe('a disk that is nearly full', () => {
  it('refuses saves with 507 while reading goes on, and takes them again when there is room', async () => {
    let free = 1e12;
    const { store, save } = await saved({ free: () => free });
    free = 1e6;
    await expect(save('third')).rejects.toMatchObject({ problem: { status: 507 } });
    expect(await noteOf(store)).toBe('second');
    free = 1e12;
    await save('third');
    expect(await noteOf(store)).toBe('third');
    await store.close();
  });
});

describe('a scouting that is kept again and again', () => {
  it('does not make the database grow for ever', async () => {
    const { store } = await open();
    const base = {
      id: 'signal-kite-1',
      moveset: 'signal-kite',
      createdAt: '2026-01-01T00:00:00.000Z',
      state: 'running',
    };
    const sizes: number[] = [];
    for (let round = 0; round < 3; round++) {
      // Texts that cannot be pressed into less.
      for (let i = 0; i < 40; i++)
        await store.keepScouting(
          { ...base, notes: [randomBytes(750_000).toString('base64')] } as unknown as Scouting,
          { passing: true },
        );
      await store.ping();
      sizes.push(sizeOf(join(folder, 'database')));
    }
    // The first round makes room that the others use again.
    expect(sizes[2]! - sizes[0]!).toBeLessThan(40 * 1_000_000);
    await store.close();
  });
});

describe('many saves at once', () => {
  it('are each whole or refused, in one order', async () => {
    const { store } = await saved();
    const { revision, hash } = await store.read('moveset', 'signal-kite');
    const etag = `"${revision}-${hash.slice(0, 12)}"`;
    const results = await Promise.allSettled([
      ...Array.from({ length: 20 }, (_, i) =>
        store.save('moveset', 'signal-kite', { text: kite(`n${i}`) }, etag),
      ),
      ...Array.from({ length: 10 }, () => store.create('moveset', { text: kite('other') })),
    ]);
    expect(results.slice(0, 20).filter((r) => r.status === 'fulfilled')).toHaveLength(1);
    expect(results.slice(20).every((r) => r.status === 'fulfilled')).toBe(true);
    const { items } = await store.list('moveset');
    expect(new Set(items.map((d) => d.id)).size).toBe(11);
    await store.close();
  });
});

describe('one owner of a data folder', () => {
  it('is refused a second time, and open again once the first has let go', () => {
    const release = lockFolder(folder);
    expect(() => lockFolder(folder)).toThrow(
      /in use by another Glenmark server; stop that one, or set GLENMARK_DATA/,
    );
    release();
    lockFolder(folder)();
  });

  it('does not mind what an older release left there', () => {
    writeFileSync(join(folder, 'server.pid'), String(process.pid));
    lockFolder(folder)();
  });
});
