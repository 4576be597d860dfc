import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { type Revision, type Scouting, etagOf } from '@glenmark/contract';
import {
  createChecker,
  type DocumentChange,
  openStore,
  type Place,
  ProblemError,
  type Store,
} from '@glenmark/server';
import fc from 'fast-check';
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest';
import { type Postgres, postgresPrograms, startPostgres } from '../../../scripts/postgres.mjs';
import { example, silent } from './test-server.js';

const kite = (note: string, name = 'Signal kite'): string =>
  example('signal-kite.yaml')
    .replace(/^note: .*$/m, `note: ${note}`)
    .replace(/^name: .*$/m, `name: ${name}`);
const checker = createChecker();
afterAll(() => checker.close());

const isHere = postgresPrograms() !== undefined;
if (!isHere) process.stderr.write("PostgreSQL is not tested: it needs Debian's package postgresql.\n");
let postgres: Postgres;
beforeAll(async () => {
  if (isHere) postgres = await startPostgres();
});
afterAll(() => {
  if (isHere) postgres.stop();
});

interface Kept {
  place: Place;
  done: () => void;
}

const inFolder = (): Promise<Kept> => {
  const folder = mkdtempSync(join(tmpdir(), 'glenmark-store-'));
  return Promise.resolve({
    place: { folder },
    done: () => rmSync(folder, { recursive: true, force: true }),
  });
};

const inPostgres = async (): Promise<Kept> => ({
  place: { url: await postgres.database() },
  done: () => undefined,
});

/** Places to keep documents: each makes an empty one, and opens it as often as it is asked to. */
const PLACES: [string, () => Promise<Kept>][] = [
  ['a data folder', inFolder],
  ...(isHere ? [['PostgreSQL', inPostgres] as [string, () => Promise<Kept>]] : []),
];

/** Waits until something is so; the test's own limit ends it when it never is. */
async function until(isSo: () => boolean | Promise<boolean>): Promise<void> {
  while (!(await isSo())) await new Promise((later) => setTimeout(later, 20));
}

const statusOf = async (work: Promise<unknown>): Promise<number> => {
  const error: unknown = await work.then(
    () => undefined,
    (reason: unknown) => reason,
  );
  if (!(error instanceof ProblemError)) throw error ?? new Error('it was done');
  return error.problem.status;
};

describe.each(PLACES)('documents in %s', (_, make) => {
  let kept: Kept;
  let store: Store;
  const open = async (): Promise<Store> =>
    (await openStore(kept.place, { release: 'test', check: checker.check, log: silent })).store;

  // To open a data folder takes seconds: one is used by all, and emptied between them.
  beforeAll(async () => {
    kept = await make();
    store = await open();
  });
  afterEach(async () => {
    for (const { id } of (await store.list('moveset')).items) await store.remove('moveset', id, '*');
  });
  afterAll(async () => {
    await store.close();
    kept.done();
  });

  it('are what a list in memory would be, whatever is asked in which order', async () => {
    const name = fc.constantFrom('Kite', 'Kestrel', 'Kite two');
    const asked = fc.oneof(
      fc.record({ do: fc.constant('create' as const), name, note: fc.nat(9) }),
      fc.record({ do: fc.constant('save' as const), name, note: fc.nat(9), isStale: fc.boolean() }),
      fc.record({ do: fc.constant('label' as const), name, label: fc.constantFrom('good', null) }),
      fc.record({ do: fc.constant('remove' as const), name, isStale: fc.boolean() }),
    );
    await fc.assert(
      fc.asyncProperty(fc.array(asked, { minLength: 5, maxLength: 12 }), async (steps) => {
        for (const { id } of (await store.list('moveset')).items) await store.remove('moveset', id, '*');
        const model = new Map<string, { text: string; label: string | null }[]>();
        for (const step of steps) {
          const id = step.name.toLowerCase().replaceAll(' ', '-');
          const now = model.get(id);
          const head = now?.at(-1);
          if (step.do === 'create') {
            const text = kite(`note ${step.note}`, step.name);
            const made = await store.create('moveset', { text });
            // The second of a name has a number behind it.
            if (now !== undefined) {
              expect(made.id).not.toBe(id);
              await store.remove('moveset', made.id, '*');
            } else model.set(id, [{ text, label: null }]);
          } else if (now === undefined || head === undefined)
            expect(await statusOf(store.read('moveset', id))).toBe(404);
          else if (step.do === 'save') {
            const text = kite(`note ${step.note}`, step.name);
            const { hash } = await store.read('moveset', id);
            const ifMatch = step.isStale ? '"0-none"' : etagOf({ revision: now.length, hash });
            const saved = store.save('moveset', id, { text }, ifMatch);
            if (text !== head.text && step.isStale) expect(await statusOf(saved)).toBe(412);
            else {
              await saved;
              if (text !== head.text) now.push({ text, label: null });
            }
          } else if (step.do === 'label') {
            await store.label('moveset', id, now.length, step.label);
            head.label = step.label;
          } else {
            const { hash } = await store.read('moveset', id);
            const ifMatch = step.isStale ? '"0-none"' : etagOf({ revision: now.length, hash });
            if (step.isStale) expect(await statusOf(store.remove('moveset', id, ifMatch))).toBe(412);
            else {
              await store.remove('moveset', id, ifMatch);
              model.delete(id);
            }
          }
        }
        const { items } = await store.list('moveset');
        expect(items.map(({ id }) => id).sort()).toEqual([...model.keys()].sort());
        for (const [id, revisions] of model) {
          const told: Revision[] = await store.revisions('moveset', id);
          expect(told.map(({ label }) => label).reverse()).toEqual(revisions.map(({ label }) => label));
          for (const [i, { text }] of revisions.entries())
            expect((await store.read('moveset', id, i + 1)).text).toBe(text);
        }
      }),
      { numRuns: 6, endOnFailure: true },
    );
  });

  it('are there when the place is opened again', async () => {
    await store.create('moveset', { text: kite('first') });
    await store.save('moveset', 'signal-kite', { text: kite('second') }, '*');
    await store.close();
    store = await open();
    expect((await store.read('moveset', 'signal-kite')).text).toBe(kite('second'));
    expect((await store.revisions('moveset', 'signal-kite')).map((r) => r.number)).toEqual([2, 1]);
  });

  it('are made once by a request that comes several times at once', async () => {
    const key = { key: 'one', hash: 'a' };
    const made = await Promise.all(
      Array.from({ length: 8 }, () => store.create('moveset', { text: kite('first') }, key)),
    );
    expect(new Set(made.map(({ id }) => id))).toEqual(new Set(['signal-kite']));
    expect((await store.list('moveset')).items).toHaveLength(1);
    expect(await statusOf(store.create('moveset', { text: kite('x') }, { key: 'one', hash: 'b' }))).toBe(422);
    expect(await store.madeBy(key)).toBe('moveset/signal-kite');
  });

  it('have ids of their own, although several of a name are made at once', async () => {
    const made = await Promise.all(
      Array.from({ length: 8 }, (_, i) => store.create('moveset', { text: kite(`note ${i}`) })),
    );
    expect(new Set(made.map(({ id }) => id)).size).toBe(8);
  });

  it('are saved by one of those who save over the same revision at once', async () => {
    const { hash } = await store.create('moveset', { text: kite('first') });
    const ifMatch = etagOf({ revision: 1, hash });
    const ends = await Promise.allSettled(
      Array.from({ length: 8 }, (_, i) =>
        store.save('moveset', 'signal-kite', { text: kite(`of ${i}`) }, ifMatch),
      ),
    );
    expect(ends.filter(({ status }) => status === 'fulfilled')).toHaveLength(1);
    expect((await store.revisions('moveset', 'signal-kite')).map((r) => r.number)).toEqual([2, 1]);
  });

  it('are all added, or none', async () => {
    const drafts = ['a', 'b'].map((note) => ({
      kind: 'moveset' as const,
      draft: { text: kite(note, note) },
    }));
    await store.createAll(drafts);
    expect((await store.list('moveset')).items.map(({ id }) => id)).toEqual(['b', 'a']);
    const broken = { kind: 'moveset' as const, draft: { text: 'glenmark: 1' } };
    expect(await statusOf(store.createAll([...drafts, broken]))).toBe(422);
    expect((await store.list('moveset')).items).toHaveLength(2);
  });

  it('are all added one time only when it is to be done once, however many do it at once', async () => {
    const once = { setting: 'samples', becomes: 'loaded' };
    const drafts = ['a', 'b'].map((note) => ({
      kind: 'moveset' as const,
      draft: { text: kite(note, note) },
    }));
    await Promise.all(Array.from({ length: 4 }, () => store.createAll(drafts, once)));
    expect(await store.setting('samples')).toBe('loaded');
    expect((await store.list('moveset')).items.map(({ id }) => id)).toEqual(['b', 'a']);
    for (const { id, hash } of await Promise.all(['a', 'b'].map((id) => store.read('moveset', id))))
      await store.remove('moveset', id, etagOf({ revision: 1, hash }));
    await store.createAll(drafts, once);
    expect((await store.list('moveset')).items).toEqual([]);
  });

  it('are listed in parts that together are the whole', async () => {
    for (let i = 0; i < 7; i++) await store.create('moveset', { text: kite(`note ${i}`, `Kite ${i}`) });
    const seen: string[] = [];
    for (let cursor: string | undefined; ;) {
      const part = await store.list('moveset', { limit: 3, ...(cursor === undefined ? {} : { cursor }) });
      seen.push(...part.items.map(({ id }) => id));
      cursor = part.next;
      if (cursor === undefined) break;
    }
    expect(seen).toEqual((await store.list('moveset')).items.map(({ id }) => id));
  });

  it('are told of in their order to all who follow, from where they were', async () => {
    const told: string[] = [];
    const words = ({ id, revision }: DocumentChange): string => `${id} ${revision ?? 'gone'}`;
    let last = 0;
    const leave = store.follow(
      undefined,
      (change) => {
        last = change.number;
        told.push(words(change));
      },
      () => told.push('anew'),
    );
    await until(async () => {
      // Whoever follows from now on is told of nothing before: so something is done until he is.
      if (told.length === 0) await store.create('tape', { text: example('kite-up.yaml') });
      return told.length > 0;
    });
    told.length = 0;
    await store.create('moveset', { text: kite('first') });
    await store.save('moveset', 'signal-kite', { text: kite('second') }, '*');
    await until(() => told.length === 2);
    expect(told).toEqual(['signal-kite 1', 'signal-kite 2']);
    leave();
    await store.remove('moveset', 'signal-kite', '*');
    const later: string[] = [];
    const leaveAgain = store.follow(
      last,
      (change) => later.push(words(change)),
      () => later.push('anew'),
    );
    await until(() => later.length > 0);
    expect(later).toEqual(['signal-kite gone']);
    expect(told).toHaveLength(2);
    leaveAgain();
    const lost: string[] = [];
    store.follow(
      last + 1000,
      (change) => lost.push(words(change)),
      () => lost.push('anew'),
    )();
    const leaveLost = store.follow(
      last + 1000,
      (change) => lost.push(words(change)),
      () => lost.push('anew'),
    );
    await until(() => lost.length > 0);
    expect(lost).toEqual(['anew']);
    leaveLost();
  });

  it('take their scoutings along when they are removed', async () => {
    await store.create('moveset', { text: kite('first') });
    const scouting = { id: 'one', moveset: 'signal-kite', createdAt: new Date(0).toISOString() } as Scouting;
    await store.keepScouting(scouting);
    await store.keepScouting({ ...scouting, state: 'done' } as Scouting, { passing: true });
    expect(await store.scoutings()).toEqual([{ ...scouting, state: 'done' }]);
    await store.remove('moveset', 'signal-kite', '*');
    expect(await store.scoutings()).toEqual([]);
  });
});

describe.skipIf(!isHere)('a PostgreSQL database', () => {
  const open = async (url: string): Promise<Store> =>
    (await openStore({ url }, { release: 'test', check: checker.check, log: silent })).store;

  it('is migrated once by servers that start together, which then see what the others save', async () => {
    const url = await postgres.database();
    const stores = await Promise.all(Array.from({ length: 4 }, () => open(url)));
    await stores[0]!.create('moveset', { text: kite('first') });
    for (const store of stores) expect((await store.list('moveset')).items).toHaveLength(1);
    const { hash } = await stores[1]!.read('moveset', 'signal-kite');
    const ends = await Promise.allSettled(
      stores.map((store, i) =>
        store.save('moveset', 'signal-kite', { text: kite(`of ${i}`) }, etagOf({ revision: 1, hash })),
      ),
    );
    expect(ends.filter(({ status }) => status === 'fulfilled')).toHaveLength(1);
    await Promise.all(stores.map((store) => store.close()));
  });

  it('is given its samples once by servers that start together', async () => {
    const url = await postgres.database();
    const stores = await Promise.all(Array.from({ length: 4 }, () => open(url)));
    const drafts = [{ kind: 'moveset' as const, draft: { text: kite('sample') } }];
    await Promise.all(
      stores.map((store) => store.createAll(drafts, { setting: 'samples', becomes: 'loaded' })),
    );
    expect((await stores[0]!.list('moveset')).items).toHaveLength(1);
    await Promise.all(stores.map((store) => store.close()));
  });

  it('tells every server that shares it of what another one saves, once it is back from a crash too', async () => {
    const url = await postgres.database();
    const [one, other] = [await open(url), await open(url)];
    const told: string[] = [];
    const leave = other.follow(
      0,
      ({ id, revision }) => told.push(`${id} ${revision}`),
      () => undefined,
    );
    await one.create('moveset', { text: kite('first') });
    await until(() => told.length === 1);
    postgres.crash();
    await until(() =>
      one.save('moveset', 'signal-kite', { text: kite('second') }, '*').then(
        () => true,
        () => false,
      ),
    );
    await until(() => told.length === 2);
    expect(told).toEqual(['signal-kite 1', 'signal-kite 2']);
    leave();
    await Promise.all([one.close(), other.close()]);
  });

  it('that crashes keeps what was saved, and is used again once it is back', async () => {
    const store = await open(await postgres.database());
    await store.create('moveset', { text: kite('first') });
    postgres.crash();
    // The connections that broke are told of, and replaced.
    let again: string | undefined;
    while (again === undefined)
      again = await store.read('moveset', 'signal-kite').then(
        ({ text }) => text,
        () => undefined,
      );
    expect(again).toBe(kite('first'));
    await store.save('moveset', 'signal-kite', { text: kite('second') }, '*');
    await store.close();
  });

  it('that is not there is told of in a sentence', async () => {
    await expect(open('postgres://glenmark@127.0.0.1:1/none')).rejects.toThrow('ECONNREFUSED');
  });
});
