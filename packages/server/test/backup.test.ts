import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { ImportedBackup, Scouting } from '@glenmark/contract';
import { createChecker, openStore, type Place, readBackup, type Store, writeBackup } from '@glenmark/server';
import fc from 'fast-check';
import { unzipSync, zipSync } from 'fflate';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { type Postgres, postgresPrograms, startPostgres } from '../../../scripts/postgres.mjs';
import { courier, example, silent, testServer } from './test-server.js';

const folder = mkdtempSync(join(tmpdir(), 'glenmark-backup-'));
const checker = createChecker();
const isHere = postgresPrograms() !== undefined;
let postgres: Postgres | undefined;
/** One database of each sort, emptied between tests: to open one takes a second. */
const stores: Store[] = [];
let made = 0;
const fileOf = (): string => join(folder, `${++made}.zip`);

const open = async (place: Place): Promise<Store> =>
  (await openStore(place, { release: 'test', check: checker.check, log: silent })).store;

beforeAll(async () => {
  for (const name of ['one', 'other']) mkdirSync(join(folder, name));
  stores.push(await open({ folder: join(folder, 'one') }), await open({ folder: join(folder, 'other') }));
  if (!isHere) return;
  postgres = await startPostgres();
  stores.push(await open({ url: await postgres.database() }), await open({ url: await postgres.database() }));
});
afterAll(async () => {
  for (const store of stores) await store.close();
  await checker.close();
  postgres?.stop();
  rmSync(folder, { recursive: true, force: true });
});

const emptied = async (store: Store): Promise<Store> => {
  for (const kind of ['moveset', 'course', 'tape'] as const)
    for (const id of await store.ids(kind)) await store.remove(kind, id, '*');
  return store;
};

const kite = (note: string, name = 'Signal kite'): string =>
  example('signal-kite.yaml')
    .replace(/^note: .*$/m, `note: ${note}`)
    .replace(/^name: .*$/m, `name: ${name}`);

/** Everything that a backup must bring back. */
async function contentsOf(store: Store) {
  const histories = [];
  for (const kind of ['moveset', 'course', 'tape'] as const)
    for (const id of (await store.ids(kind)).sort()) histories.push(await store.history(kind, id));
  return { histories, scoutings: await store.scoutings() };
}

const scoutingOf = (moveset: string, n: number, state: Scouting['state']): Scouting => ({
  moveset,
  courses: ['mill-yard'],
  situations: 100,
  seed: 1,
  id: `${moveset}-${n}`,
  revision: 1,
  state,
  begun: 1,
  seconds: 2,
  done: 100,
  ticks: 500,
  course: 'Mill yard',
  coverage: { states: [], crossings: [], ofStates: 0, ofCrossings: 0 },
  findings: [],
  notes: [],
  problem: null,
  createdAt: new Date(n * 1000).toISOString(),
});

async function carried(from: Store, to: Store): Promise<ImportedBackup> {
  const file = fileOf();
  await writeBackup(from, file, 'test');
  const { histories, scoutings } = await readBackup(file);
  return (await to.addHistories(histories, scoutings)).imported;
}

/** Saves random texts under random names, some of them several times, with labels. */
async function filled(store: Store, saves: { name: string; note: number; label: string | null }[]) {
  for (const { name, note, label } of saves) {
    const id = name.toLowerCase();
    const text = kite(`note ${note}`, name);
    const isThere = (await store.ids('moveset')).includes(id);
    const { revision } = isThere
      ? await store.save('moveset', id, { text, message: `to ${note}` }, '*')
      : await store.create('moveset', { text });
    await store.label('moveset', id, revision, label);
  }
}

const saves = fc.array(
  fc.record({
    name: fc.constantFrom('Kite', 'Kestrel', 'Крыло', '水車'),
    note: fc.nat(99),
    label: fc.constantFrom(null, 'sent to testers', 'ж “quoted”'),
  }),
  { maxLength: 8 },
);

describe('a backup', () => {
  const ways = isHere
    ? ([
        [0, 1],
        [0, 2],
        [2, 3],
        [3, 1],
      ] as const)
    : ([[0, 1]] as const);

  it('brings every revision, label, time and scouting from either database into either', async () => {
    for (const [from, to] of ways)
      await fc.assert(
        fc.asyncProperty(saves, async (done) => {
          const [one, other] = [await emptied(stores[from]!), await emptied(stores[to]!)];
          await filled(one, done);
          const [id] = await one.ids('moveset');
          if (id !== undefined) await one.keepScouting(scoutingOf(id, 1, 'done'));
          await carried(one, other);
          expect(await contentsOf(other)).toEqual(await contentsOf(one));
          // Once more adds nothing.
          const again = await carried(one, other);
          expect([again.added, again.continued, again.beside]).toEqual([[], [], []]);
          expect(await contentsOf(other)).toEqual(await contentsOf(one));
        }),
        { numRuns: 3, endOnFailure: true },
      );
  });

  it('goes on where the documents here end, and loses none that went another way', async () => {
    const [one, other] = [await emptied(stores[0]!), await emptied(stores.at(-1)!)];
    for (const name of ['Same', 'Longer', 'Shorter', 'Apart'])
      await one.create('moveset', { text: kite('first', name) });
    await carried(one, other);
    await one.save('moveset', 'longer', { text: kite('second', 'Longer') }, '*');
    await other.save('moveset', 'shorter', { text: kite('second', 'Shorter') }, '*');
    await one.save('moveset', 'apart', { text: kite('mine', 'Apart') }, '*');
    await other.save('moveset', 'apart', { text: kite('yours', 'Apart') }, '*');
    await one.keepScouting(scoutingOf('apart', 7, 'running'));
    const before = await contentsOf(other);
    expect(await carried(one, other)).toEqual({
      added: [],
      continued: ['Longer'],
      known: expect.arrayContaining(['Same', 'Shorter']) as string[],
      beside: ['Apart'],
    });
    const now = await contentsOf(other);
    for (const revision of before.histories.flat()) expect(now.histories.flat()).toContainEqual(revision);
    expect((await other.read('moveset', 'apart')).text).toBe(kite('yours', 'Apart'));
    expect((await other.read('moveset', 'apart-2')).text).toBe(kite('mine', 'Apart'));
    expect(await other.history('moveset', 'apart-2')).toHaveLength(2);
    expect((await other.history('moveset', 'longer')).map((r) => r.number)).toEqual([1, 2]);
    // What it had found goes along, to the moveset that it is of; nobody searches on.
    expect(now.scoutings).toEqual([{ ...scoutingOf('apart-2', 7, 'stopped'), id: 'apart-2-1' }]);
  });

  it('is added whole or not at all', async () => {
    const [one, other] = [await emptied(stores[0]!), await emptied(stores.at(-1)!)];
    for (const name of ['A', 'B']) await one.create('moveset', { text: kite('first', name) });
    const file = fileOf();
    await writeBackup(one, file, 'test');
    const { histories } = await readBackup(file);
    // The second of them cannot be added: its first revision says that it comes after another one.
    const broken = histories.map((history, i) =>
      i === 0 ? history : history.map((r) => ({ ...r, parent: 9 })),
    );
    await expect(other.addHistories(broken, [])).rejects.toThrow();
    expect(await contentsOf(other)).toEqual({ histories: [], scoutings: [] });
  });
});

describe('a file that is no sound backup', () => {
  let sound: Buffer;
  let parts: Record<string, Uint8Array>;
  beforeAll(async () => {
    const store = await emptied(stores[0]!);
    await store.create('moveset', { text: courier });
    await store.save('moveset', 'courier', { text: courier.replace('6.2', '6.3') }, '*');
    const file = fileOf();
    await writeBackup(store, file, 'test');
    sound = readFileSync(file);
    parts = unzipSync(sound);
  });

  const refusal = async (bytes: Uint8Array): Promise<string> => {
    const file = fileOf();
    writeFileSync(file, bytes);
    return readBackup(file).then(
      () => 'it was read',
      (error: Error) => error.message,
    );
  };
  const TEXT = 'movesets/courier/0001.yaml';
  const manifestWith = (
    change: (manifest: { documents: { revisions: object[] }[] } & object) => object,
  ): Uint8Array => {
    const manifest = JSON.parse(Buffer.from(parts['manifest.json']!).toString()) as Parameters<
      typeof change
    >[0];
    return zipSync({ ...parts, 'manifest.json': Buffer.from(JSON.stringify(change(manifest))) });
  };

  it('is refused with the file in it that is wrong, and what is wrong with it', async () => {
    const { 'manifest.json': _, ...rest } = parts;
    const { [TEXT]: __, ...without } = parts;
    const changed = { ...parts, [TEXT]: Buffer.from(courier.replace('6.2', '6.4')) };
    for (const [bytes, sentence] of [
      [Buffer.from('glenmark: 1'), /this is no zip file/],
      [zipSync(rest), /the zip has no manifest\.json: it is no backup of Glenmark/],
      [zipSync(without), /movesets\/courier\/0001\.yaml is missing/],
      [zipSync(changed), /0001\.yaml is not what was exported: its SHA-256 is [0-9a-f]{64}, expected/],
      [zipSync({ ...parts, 'manifest.json': Buffer.from('{') }), /manifest\.json is no JSON/],
      [manifestWith((m) => ({ ...m, glenmark: 2 })), /manifest\.json, glenmark: /],
      [
        manifestWith((m) => ({
          ...m,
          documents: [{ ...m.documents[0], revisions: m.documents[0]!.revisions.slice(1) }],
        })),
        /manifest\.json, documents\.0: expected revisions 1, 2, 3 and so on/,
      ],
      [
        manifestWith((m) => ({ ...m, documents: [{ ...m.documents[0], id: '../../etc' }] })),
        /manifest\.json, documents\.0\.id: /,
      ],
    ] as const)
      expect(await refusal(bytes)).toMatch(sentence);
  });

  it('is never taken for what it was, whichever byte of it is another one', async () => {
    const file = fileOf();
    await fc.assert(
      fc.asyncProperty(fc.nat(sound.length - 1), fc.integer({ min: 1, max: 255 }), async (at, by) => {
        const bytes = Buffer.from(sound);
        bytes[at] = bytes[at]! ^ by;
        writeFileSync(file, bytes);
        const read = await readBackup(file).catch(
          (error: { problem?: { status: number } }) => error.problem?.status,
        );
        // Bytes that mean nothing, such as times in the zip, may be any.
        if (typeof read === 'object')
          expect(read.histories.flat().map(({ text }) => text)).toEqual([
            courier,
            courier.replace('6.2', '6.3'),
          ]);
        else expect(read).toBe(422);
      }),
      { numRuns: 150, endOnFailure: true },
    );
  });

  it('is refused before it is unpacked when it would be larger than a backup may be', async () => {
    const bomb = Buffer.from(sound);
    // The size of the first file as the list at the end of a zip tells it: 24 bytes after its signature.
    bomb.writeUInt32LE(0x30000000, bomb.indexOf(Buffer.from('PK\x01\x02', 'latin1')) + 24);
    expect(await refusal(bomb)).toContain('unpacked it is larger than 512 MB');
    // One that says it is smaller than it is comes no further than it says.
    bomb.writeUInt32LE(10, bomb.indexOf(Buffer.from('PK\x01\x02', 'latin1')) + 24);
    expect(await refusal(bomb)).toContain('0001.yaml is damaged');
  });
});

describe('a backup over HTTP', () => {
  let served: Awaited<ReturnType<typeof testServer>>;
  beforeAll(async () => {
    served = await testServer();
  });
  afterAll(() => served.close());
  beforeEach(() => emptied(served.store));

  const send = (body: Uint8Array<ArrayBuffer> | string, type = 'application/zip'): Promise<Response> =>
    fetch(`${served.base}/api/backup`, { method: 'POST', headers: { 'Content-Type': type }, body });

  it('is what the same address takes, and the scoutings in it are listed at once', async () => {
    await served.store.create('moveset', { text: courier });
    await served.store.keepScouting(scoutingOf('courier', 1, 'done'));
    const reply = await fetch(`${served.base}/api/backup`);
    expect(reply.headers.get('content-type')).toBe('application/zip');
    expect(reply.headers.get('content-disposition')).toMatch(/filename="glenmark-\d{4}-\d\d-\d\d\.zip"/);
    const zip = new Uint8Array(await reply.arrayBuffer());
    await served.store.remove('moveset', 'courier', '*');
    expect(await (await send(zip)).json()).toMatchObject({ added: ['Courier'] });
    const list = (await (await fetch(`${served.base}/api/movesets/courier/scoutings`)).json()) as Scouting[];
    expect(list.map(({ id, state }) => [id, state])).toEqual([['courier-1', 'done']]);
  });

  it('is refused with a problem when it is none, or of another type', async () => {
    const reply = await send('nothing');
    expect([reply.status, ((await reply.json()) as { type: string }).type]).toEqual([
      422,
      'urn:glenmark:problem:unreadable-backup',
    ]);
    expect((await send('{}', 'application/json')).status).toBe(415);
  });
});
