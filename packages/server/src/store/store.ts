import {
  etagOf,
  type Draft,
  type Revision,
  type Scouting,
  type StoredDocument,
  type Summary,
} from '@glenmark/contract';
import { type Kind, slugOf } from '@glenmark/core/model';
import { and, asc, desc, eq, gt, lt, or, sql } from 'drizzle-orm';
import type { Logger } from 'pino';
import type { Check, Checked } from '../checking/checker.js';
import { ifMatchNames } from '../etags.js';
import { ProblemError, unreadable } from '../problem.js';
import { cursorOf, readCursor } from './cursor.js';
import { openDatabase, type Transaction } from './database.js';
import { type Entry, putLabel, putRevision, putSetting, storedRow } from './entries.js';
import { hashOf } from './hash.js';
import { newestGeneration, openJournal, writeSnapshot } from './journal.js';
import { layoutOf, recover } from './recovery.js';
import { freeBytes as freeOnDisk, RESERVE } from './room.js';
import { documents, requests, revisions, scoutings, settings } from './schema.js';
import { allEntries } from './snapshot.js';
import { createWriter } from './writer.js';

/** A request that may be repeated: its key, and what it asks for as a hash. */
export interface RequestKey {
  key: string;
  hash: string;
}

/** A part of a list: at most `limit`, those after the `cursor` of the part before. */
export interface Page {
  limit?: number;
  cursor?: string;
}

/** The documents and their revisions. Every method either does all of what it says or throws and changes nothing. */
export interface Store {
  /** Fails when the data cannot be read or written. */
  ping(): Promise<void>;
  list(kind: Kind, page?: Page): Promise<{ items: Summary[]; next?: string }>;
  read(kind: Kind, id: string, number?: number): Promise<StoredDocument>;
  revisions(kind: Kind, id: string): Promise<Revision[]>;
  create(kind: Kind, draft: Draft, key?: RequestKey): Promise<StoredDocument>;
  /** Adds several documents and settings, all or none. */
  createAll(drafts: readonly { kind: Kind; draft: Draft }[], set?: Record<string, string>): Promise<void>;
  save(kind: Kind, id: string, draft: Draft, ifMatch: string): Promise<StoredDocument>;
  /** Labels a revision; null takes its label away. */
  label(kind: Kind, id: string, number: number, label: string | null): Promise<Revision>;
  /** Removes a document with its revisions, and a moveset's scoutings. */
  remove(kind: Kind, id: string, ifMatch: string): Promise<void>;
  setting(key: string): Promise<string | undefined>;
  /** What an earlier request under this key made, such as `scouting/courier-1`. */
  madeBy(key: RequestKey): Promise<string | undefined>;
  remember(key: RequestKey, made: string): Promise<void>;
  /** All scoutings that are kept, oldest first. */
  scoutings(): Promise<Scouting[]>;
  /** Keeps a scouting as it stands. With `passing` it is not worth a line of the journal: another state follows soon. */
  keepScouting(scouting: Scouting, options?: { passing?: boolean }): Promise<void>;
  dropScouting(id: string): Promise<void>;
  close(): Promise<void>;
}

export interface StoreOptions {
  /** The release that writes, for a later reader. */
  release: string;
  check: Check;
  log: Logger;
  /** Bytes free on the disk of a folder; for tests. */
  free?: (folder: string) => number;
  /** Bytes of a journal from which on a snapshot is made; for tests. */
  snapshotFrom?: number;
}

/** A journal grows to this before the first snapshot is made, and then to the size of the last one. */
const SNAPSHOT_FROM = 16 * 2 ** 20;
/** Bytes of texts after which the database is tidied. */
const TIDY_AFTER = 32 * 2 ** 20;
/** How long a request is remembered by its key (ms). */
const REMEMBERED = 24 * 60 * 60 * 1000;
/** Documents in a part of a list, when nobody says how many. */
const MAX_LISTED = 1000;

/** Opens a data folder: recovered if need be, with what a person should know of that in `notes`. */
export async function openStore(
  folder: string,
  { release, check, log, free = freeOnDisk, snapshotFrom = SNAPSHOT_FROM }: StoreOptions,
): Promise<{ store: Store; notes: string[] }> {
  const layout = layoutOf(folder);
  const { last, isJournalStale, notes } = await recover(folder, release);
  const newest = newestGeneration(layout.journal);
  const generation = isJournalStale ? newest + 1 : Math.max(1, newest);
  const journal = await openJournal(layout.journal, generation);
  const { db, client } = await openDatabase(layout.database);
  let current = generation;
  let limit = snapshotFrom;
  let snapshot: Promise<void> | undefined;
  let written = 0;

  const writer = createWriter({
    db,
    journal,
    last,
    free: () => free(folder),
    committed(bytes, more) {
      written += more;
      if (bytes > limit) snapshot ??= begunAnew();
      else if (written > TIDY_AFTER) void tidied();
    },
  });

  /** Begins the journal anew, and writes all that is there as its snapshot. */
  async function begunAnew(): Promise<void> {
    try {
      const next = current + 1;
      const after = await writer.turnTo(() => openJournal(layout.journal, next));
      current = next;
      await snapshotOf(next, after);
    } catch (error) {
      // The older generation stays, and is read before the new journal.
      log.error({ err: error }, 'a snapshot could not be written');
      limit *= 2;
    } finally {
      snapshot = undefined;
    }
  }

  async function snapshotOf(generation: number, after: number): Promise<void> {
    if (free(folder) < RESERVE + 2 * limit) throw new Error('the disk is nearly full');
    const bytes = await writeSnapshot(layout.journal, generation, after, allEntries(db));
    limit = Math.max(snapshotFrom, bytes);
    await tidied();
  }

  /** In this mode PostgreSQL does neither by itself: its log, and what was replaced in its tables, would grow for ever. */
  async function tidied(): Promise<void> {
    written = 0;
    try {
      await client.exec('vacuum documents, scoutings, settings, requests');
      await client.exec('checkpoint');
    } catch (error) {
      log.error({ err: error }, 'the database could not be tidied');
    }
  }

  if (isJournalStale)
    snapshot = snapshotOf(generation, last)
      .catch((error: unknown) => log.error({ err: error }, 'a snapshot could not be written'))
      .finally(() => (snapshot = undefined));

  const one = (kind: Kind, id: string) => and(eq(documents.kind, kind), eq(documents.id, id));
  const missing = (kind: Kind, id: string): ProblemError =>
    new ProblemError(404, `There is no ${kind} '${id}'.`);

  const noRevision = (kind: Kind, id: string, number: number): ProblemError =>
    new ProblemError(404, `There is no revision ${number} of the ${kind} '${id}'.`);

  async function head(tx: Pick<Transaction, 'select'>, kind: Kind, id: string) {
    const rows = await tx
      .select({ revision: revisions })
      .from(documents)
      .innerJoin(
        revisions,
        and(
          eq(revisions.kind, documents.kind),
          eq(revisions.id, documents.id),
          eq(revisions.number, documents.head),
        ),
      )
      .where(one(kind, id));
    if (rows[0] === undefined) throw missing(kind, id);
    return rows[0].revision;
  }

  const isNamed = (row: RevisionRow, ifMatch: string): boolean =>
    ifMatchNames(ifMatch, etagOf({ revision: row.number, hash: row.hash }));

  const stale = (row: RevisionRow): ProblemError =>
    new ProblemError(
      412,
      `Nothing was saved: '${row.id}' has moved on to revision ${row.number}. Read it again and choose what to keep.`,
      {
        type: 'urn:glenmark:problem:stale-save',
        title: 'Somebody else saved first',
        current: row.number,
      },
    );

  async function freeId(tx: Transaction, kind: Kind, name: string): Promise<string> {
    const base = slugOf(name);
    const list = await tx.select({ id: documents.id }).from(documents).where(eq(documents.kind, kind));
    const taken = new Set(list.map((d) => d.id));
    for (let n = 1; ; n++) {
      const id = n === 1 ? base : `${base}-${n}`;
      if (!taken.has(id)) return id;
    }
  }

  /** Reads a draft by the rules of its kind; throws what is wrong with it. */
  async function checked(kind: Kind, draft: Draft): Promise<Content> {
    const result: Checked = await check(kind, draft.text);
    if (result.errors > 0) throw unreadable(result.diagnostics, result.errors);
    return { name: result.name, text: draft.text, hash: hashOf(draft.text), message: draft.message ?? '' };
  }

  async function added(
    tx: Transaction,
    kind: Kind,
    content: Content,
    createdAt = new Date(),
  ): Promise<RevisionRow> {
    const id = await freeId(tx, kind, content.name);
    const row = { kind, id, number: 1, parent: null, label: null, createdAt, ...content };
    await putRevision(tx, row);
    return row;
  }

  const entryOf = (row: RevisionRow): Entry => ({ op: 'revision', row: storedRow(row) });

  async function requestBy(tx: Pick<Transaction, 'select'>, { key, hash }: RequestKey) {
    const [row] = await tx.select().from(requests).where(eq(requests.key, key));
    if (row === undefined || row.createdAt.getTime() < Date.now() - REMEMBERED) return undefined;
    if (row.hash !== hash)
      throw new ProblemError(
        422,
        'Nothing was saved: this Idempotency-Key was used for another request. Take a new key for a new request.',
      );
    return row.made;
  }

  /** Notes what a request made; the entry for the journal. */
  async function noted(tx: Transaction, { key, hash }: RequestKey, made: string): Promise<Entry> {
    const row = { key, hash, made, createdAt: new Date() };
    await tx.delete(requests).where(lt(requests.createdAt, new Date(Date.now() - REMEMBERED)));
    await tx.insert(requests).values(row).onConflictDoUpdate({ target: requests.key, set: row });
    return { op: 'request', row: storedRow(row) };
  }

  const store: Store = {
    async ping() {
      if (writer.broken()) throw new Error('the database failed');
      await db.execute(sql`select 1`);
    },
    async list(kind, { limit: max = MAX_LISTED, cursor } = {}) {
      const from = cursor === undefined ? undefined : readCursor(cursor);
      const after =
        from &&
        or(
          lt(documents.updatedAt, from.updatedAt),
          and(eq(documents.updatedAt, from.updatedAt), gt(documents.id, from.id)),
        );
      const rows = await db
        .select()
        .from(documents)
        .where(and(eq(documents.kind, kind), after))
        .orderBy(desc(documents.updatedAt), asc(documents.id))
        .limit(max + 1);
      const items = rows.slice(0, max).map((d) => ({
        kind: d.kind,
        id: d.id,
        name: d.name,
        revision: d.head,
        updatedAt: d.updatedAt.toISOString(),
      }));
      return rows.length > max ? { items, next: cursorOf(items.at(-1)!) } : { items };
    },
    async read(kind, id, number) {
      if (number === undefined) return toDocument(await head(db, kind, id));
      const rows = await db
        .select()
        .from(revisions)
        .where(and(eq(revisions.kind, kind), eq(revisions.id, id), eq(revisions.number, number)));
      if (rows[0] === undefined) throw noRevision(kind, id, number);
      return toDocument(rows[0]);
    },
    async revisions(kind, id) {
      await head(db, kind, id);
      const rows = await db
        .select(REVISION)
        .from(revisions)
        .where(and(eq(revisions.kind, kind), eq(revisions.id, id)))
        .orderBy(desc(revisions.number));
      return rows.map(toRevision);
    },
    async create(kind, draft, key) {
      const content = await checked(kind, draft);
      return writer.write(async (tx) => {
        const made = key === undefined ? undefined : await requestBy(tx, key);
        if (made !== undefined)
          return { result: toDocument(await head(tx, kind, made.slice(kind.length + 1))), entries: [] };
        const row = await added(tx, kind, content);
        const entries = [entryOf(row)];
        if (key !== undefined) entries.push(await noted(tx, key, `${kind}/${row.id}`));
        return { result: toDocument(row), entries };
      }, bytesOf(content.text));
    },
    async createAll(drafts, set = {}) {
      const contents = await Promise.all(drafts.map(({ kind, draft }) => checked(kind, draft)));
      await writer.write(
        async (tx) => {
          const entries: Entry[] = [];
          const now = Date.now();
          // Each a moment later than the one before, so that a list shows them in their order.
          for (const [i, content] of contents.entries())
            entries.push(entryOf(await added(tx, drafts[i]!.kind, content, new Date(now + i))));
          for (const [key, value] of Object.entries(set)) {
            await putSetting(tx, key, value);
            entries.push({ op: 'setting', key, value });
          }
          return { result: undefined, entries };
        },
        contents.reduce((sum, { text }) => sum + bytesOf(text), 0),
      );
    },
    async save(kind, id, draft, ifMatch) {
      const content = await checked(kind, draft);
      return writer.write(async (tx) => {
        const current = await head(tx, kind, id);
        // A save whose answer was lost comes again with the old revision: what it wants is there already.
        if (current.hash === content.hash) return { result: toDocument(current), entries: [] };
        if (!isNamed(current, ifMatch)) throw stale(current);
        const { number } = current;
        const row = {
          kind,
          id,
          number: number + 1,
          parent: number,
          label: null,
          createdAt: new Date(),
          ...content,
        };
        await putRevision(tx, row);
        return { result: toDocument(row), entries: [entryOf(row)] };
      }, bytesOf(content.text));
    },
    label: (kind, id, number, label) =>
      writer.write(async (tx) => {
        await head(tx, kind, id);
        const row = await putLabel(tx, { kind, id, number, label });
        if (row === undefined) throw noRevision(kind, id, number);
        return { result: toRevision(row), entries: [{ op: 'label', kind, id, number, label }] };
      }),
    remove: (kind, id, ifMatch) =>
      writer.write(async (tx) => {
        const current = await head(tx, kind, id);
        if (!isNamed(current, ifMatch)) throw stale(current);
        await tx.delete(documents).where(one(kind, id));
        const entries: Entry[] = [{ op: 'remove', kind, id }];
        if (kind === 'moveset') {
          const gone = await tx.delete(scoutings).where(eq(scoutings.moveset, id)).returning();
          entries.push(...gone.map((s): Entry => ({ op: 'dropScouting', id: s.id })));
        }
        return { result: undefined, entries };
      }),
    async setting(key) {
      return (await db.select().from(settings).where(eq(settings.key, key)))[0]?.value;
    },
    madeBy: (key) => requestBy(db, key),
    remember: (key, made) =>
      writer.write(async (tx) => ({ result: undefined, entries: [await noted(tx, key, made)] })),
    async scoutings() {
      const rows = await db.select().from(scoutings).orderBy(asc(scoutings.createdAt));
      return rows.map((row) => JSON.parse(row.state) as Scouting);
    },
    keepScouting(scouting, { passing = false } = {}) {
      const { id, moveset, createdAt } = scouting;
      const row = { id, moveset, state: JSON.stringify(scouting), createdAt: new Date(createdAt) };
      return writer.write(async (tx) => {
        await tx.insert(scoutings).values(row).onConflictDoUpdate({ target: scoutings.id, set: row });
        return { result: undefined, entries: passing ? [] : [{ op: 'scouting', row: storedRow(row) }] };
      }, bytesOf(row.state));
    },
    dropScouting: (id) =>
      writer.write(async (tx) => {
        await tx.delete(scoutings).where(eq(scoutings.id, id));
        return { result: undefined, entries: [{ op: 'dropScouting', id }] };
      }),
    async close() {
      await snapshot;
      await writer.idle();
      // On a full disk PostgreSQL cannot end in order; the journal has what its own log has not.
      if (free(folder) >= RESERVE) await client.close();
    },
  };
  return { store, notes };
}

const bytesOf = (text: string): number => Buffer.byteLength(text);

type RevisionRow = typeof revisions.$inferSelect;

interface Content {
  name: string;
  text: string;
  hash: string;
  message: string;
}

/** What is told of a revision in a list. */
const REVISION = {
  number: revisions.number,
  parent: revisions.parent,
  hash: revisions.hash,
  message: revisions.message,
  label: revisions.label,
  createdAt: revisions.createdAt,
};

const toRevision = ({
  number,
  parent,
  hash,
  message,
  label,
  createdAt,
}: Pick<RevisionRow, keyof typeof REVISION>): Revision => ({
  number,
  parent,
  hash,
  message,
  label,
  createdAt: createdAt.toISOString(),
});

const toDocument = (r: RevisionRow): StoredDocument => ({
  kind: r.kind,
  id: r.id,
  name: r.name,
  revision: r.number,
  updatedAt: r.createdAt.toISOString(),
  text: r.text,
  hash: r.hash,
  message: r.message,
});
