import {
  etagOf,
  type Draft,
  type ImportedBackup,
  type Revision,
  type Scouting,
  type StoredDocument,
  type Summary,
} from '@glenmark/contract';
import { type Kind, slugOf } from '@glenmark/core/model';
import { and, asc, desc, eq, gt, lt, or } from 'drizzle-orm';
import type { Logger } from 'pino';
import type { Check, Checked } from '../checking/checker.js';
import { ifMatchNames } from '../etags.js';
import { ProblemError, unreadable } from '../problem.js';
import { type ChangeFeed, createChangeFeed, noteChanges } from './changes.js';
import { cursorOf, readCursor } from './cursor.js';
import { locked, type Transaction } from './database.js';
import { type FolderOptions, openFolder } from './folder.js';
import { openPostgres } from './postgres.js';
import { addRevision, type Entry, putLabel, putSetting, storedRow } from './entries.js';
import { type History, placeHistory, readHistory } from './histories.js';
import { keptScoutings, type KeptScoutings, placeScoutings } from './kept-scoutings.js';
import { madeBy, remembered, type RequestKey } from './requests.js';
import { REVISION, type RevisionRow, toDocument, toRevision } from './revision-rows.js';
import { hashOf } from './hash.js';
import type { Keeping } from './keeping.js';
import { documents, revisions, scoutings, settings } from './schema.js';

/** A part of a list: at most `limit`, those after the `cursor` of the part before. */
export interface Page {
  limit?: number;
  cursor?: string;
}

/** The setting that says that something was done, and what it becomes then. */
export interface Once {
  setting: string;
  becomes: string;
}

/** The documents and their revisions. Every method either does all of what it says or throws and changes nothing. */
export interface Store extends KeptScoutings {
  /** Fails when the data cannot be read or written. */
  ping(): Promise<void>;
  list(kind: Kind, page?: Page): Promise<{ items: Summary[]; next?: string }>;
  read(kind: Kind, id: string, number?: number): Promise<StoredDocument>;
  revisions(kind: Kind, id: string): Promise<Revision[]>;
  create(kind: Kind, draft: Draft, key?: RequestKey): Promise<StoredDocument>;
  /** Adds several documents, all or none. With `once` they are added one time only, whoever asks, and however many at once. */
  createAll(drafts: readonly { kind: Kind; draft: Draft }[], once?: Once): Promise<void>;
  save(kind: Kind, id: string, draft: Draft, ifMatch: string): Promise<StoredDocument>;
  /** Labels a revision; null takes its label away. */
  label(kind: Kind, id: string, number: number, label: string | null): Promise<Revision>;
  /** Removes a document with its revisions, and a moveset's scoutings. */
  remove(kind: Kind, id: string, ifMatch: string): Promise<void>;
  /** The ids of all documents of a kind. */
  ids(kind: Kind): Promise<string[]>;
  /** All revisions of a document with their texts, oldest first; none when there is no such document. */
  history(kind: Kind, id: string): Promise<History>;
  /** Adds histories, and scoutings of movesets among them, all or none. What is here already stays. */
  addHistories(
    histories: readonly History[],
    scoutings: readonly Scouting[],
  ): Promise<{ imported: ImportedBackup; scoutings: Scouting[] }>;
  setting(key: string): Promise<string | undefined>;
  /** Makes a setting of what it is now, undefined when it is not set; nobody else changes it meanwhile. Gives what it became. */
  changeSetting(key: string, change: (now: string | undefined) => string): Promise<string>;
  /** What an earlier request under this key made, such as `scouting/courier-1`. */
  madeBy(key: RequestKey): Promise<string | undefined>;
  remember(key: RequestKey, made: string): Promise<void>;
  /** Tells of documents that are saved and removed: see `ChangeFeed`. */
  follow: ChangeFeed['follow'];
  close(): Promise<void>;
}

/** Documents in a part of a list, when nobody says how many. */
const MAX_LISTED = 1000;

/** Where a server's documents are: in a folder of its own, or in a PostgreSQL database that it may share. */
export type Place = { folder: string } | { url: string };

export interface StoreOptions extends FolderOptions {
  check: Check;
}

/** Opens the documents at a place, with what a person should know of that in `notes`. */
export async function openStore(
  place: Place,
  { check, ...options }: StoreOptions,
): Promise<{ store: Store; notes: string[] }> {
  if ('url' in place) {
    const keeping = await openPostgres(place.url, options.log);
    return { store: await createStore(keeping, check, options.log), notes: [] };
  }
  const { keeping, notes } = await openFolder(place.folder, options);
  return { store: await createStore(keeping, check, options.log), notes };
}

/** The store of what is kept somewhere. */
async function createStore(keeping: Keeping, check: Check, log: Logger): Promise<Store> {
  const { db } = keeping;
  const feed = createChangeFeed(db, (error) => log.error({ err: error }, 'changes could not be read'));
  await keeping.listen(feed.wake);

  /** Does a change, and tells those who follow what became of documents. */
  const write: Keeping['write'] = (change, bytes) =>
    keeping.write(async (tx) => {
      const changed = await change(tx);
      await noteChanges(tx, changed.entries);
      return changed;
    }, bytes);

  const one = (kind: Kind, id: string) => and(eq(documents.kind, kind), eq(documents.id, id));
  const missing = (kind: Kind, id: string): ProblemError =>
    new ProblemError(404, `There is no ${kind} '${id}'.`);

  const noRevision = (kind: Kind, id: string, number: number): ProblemError =>
    new ProblemError(404, `There is no revision ${number} of the ${kind} '${id}'.`);

  /** The newest revision. */
  async function head(tx: Pick<Transaction, 'select'>, kind: Kind, id: string): Promise<RevisionRow> {
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

  /** The same, of a document that nobody else changes until the transaction ends. */
  async function ownHead(tx: Transaction, kind: Kind, id: string): Promise<RevisionRow> {
    await tx.select({ id: documents.id }).from(documents).where(one(kind, id)).for('update');
    return head(tx, kind, id);
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
    await addRevision(tx, row);
    return row;
  }

  const settingIn = async (tx: Pick<Transaction, 'select'>, key: string): Promise<string | undefined> =>
    (await tx.select().from(settings).where(eq(settings.key, key)))[0]?.value;

  const entryOf = (row: RevisionRow): Entry => ({ op: 'revision', row: storedRow(row) });

  const store: Store = {
    ping: () => keeping.ping(),
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
      return write(async (tx) => {
        if (key !== undefined) await locked(tx, `request ${key.key}`);
        const made = key === undefined ? undefined : await madeBy(tx, key);
        if (made !== undefined)
          return { result: toDocument(await head(tx, kind, made.slice(kind.length + 1))), entries: [] };
        const row = await added(tx, kind, content);
        const entries = [entryOf(row)];
        if (key !== undefined) entries.push(await remembered(tx, key, `${kind}/${row.id}`));
        return { result: toDocument(row), entries };
      }, bytesOf(content.text));
    },
    async createAll(drafts, once) {
      const contents = await Promise.all(drafts.map(({ kind, draft }) => checked(kind, draft)));
      await write(
        async (tx) => {
          const entries: Entry[] = [];
          if (once !== undefined) {
            await locked(tx, `setting ${once.setting}`);
            if ((await settingIn(tx, once.setting)) !== undefined) return { result: undefined, entries };
          }
          const now = Date.now();
          // Each a moment later than the one before, so that a list shows them in their order.
          for (const [i, content] of contents.entries())
            entries.push(entryOf(await added(tx, drafts[i]!.kind, content, new Date(now + i))));
          if (once !== undefined) {
            await putSetting(tx, once.setting, once.becomes);
            entries.push({ op: 'setting', key: once.setting, value: once.becomes });
          }
          return { result: undefined, entries };
        },
        contents.reduce((sum, { text }) => sum + bytesOf(text), 0),
      );
    },
    async save(kind, id, draft, ifMatch) {
      const content = await checked(kind, draft);
      return write(async (tx) => {
        const current = await ownHead(tx, kind, id);
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
        await addRevision(tx, row);
        return { result: toDocument(row), entries: [entryOf(row)] };
      }, bytesOf(content.text));
    },
    label: (kind, id, number, label) =>
      write(async (tx) => {
        await ownHead(tx, kind, id);
        const row = await putLabel(tx, { kind, id, number, label });
        if (row === undefined) throw noRevision(kind, id, number);
        return { result: toRevision(row), entries: [{ op: 'label', kind, id, number, label }] };
      }),
    remove: (kind, id, ifMatch) =>
      write(async (tx) => {
        const current = await ownHead(tx, kind, id);
        if (!isNamed(current, ifMatch)) throw stale(current);
        await tx.delete(documents).where(one(kind, id));
        const entries: Entry[] = [{ op: 'remove', kind, id }];
        if (kind === 'moveset') {
          const gone = await tx.delete(scoutings).where(eq(scoutings.moveset, id)).returning();
          entries.push(...gone.map((s): Entry => ({ op: 'dropScouting', id: s.id })));
        }
        return { result: undefined, entries };
      }),
    async ids(kind) {
      const rows = await db.select({ id: documents.id }).from(documents).where(eq(documents.kind, kind));
      return rows.map(({ id }) => id);
    },
    history: (kind, id) => readHistory(db, kind, id),
    addHistories(histories, found) {
      const bytes = histories.flat().reduce((sum, { text }) => sum + bytesOf(text), 0);
      return write(async (tx) => {
        const imported: ImportedBackup = { added: [], continued: [], known: [], beside: [] };
        const entries: Entry[] = [];
        const movesets = new Map<string, string>();
        for (const history of histories) {
          const placed = await placeHistory(tx, history, (kind, name) => freeId(tx, kind, name));
          imported[placed.how].push(history.at(-1)!.name);
          entries.push(...placed.entries);
          if (history[0]!.kind === 'moveset') movesets.set(history[0]!.id, placed.id);
        }
        const kept = await placeScoutings(tx, found, movesets);
        return { result: { imported, scoutings: kept.placed }, entries: [...entries, ...kept.entries] };
      }, bytes);
    },
    setting: (key) => settingIn(db, key),
    changeSetting: (key, change) =>
      write(async (tx) => {
        await locked(tx, `setting ${key}`);
        const now = await settingIn(tx, key);
        const value = change(now);
        if (value === now) return { result: value, entries: [] };
        await putSetting(tx, key, value);
        return { result: value, entries: [{ op: 'setting', key, value }] };
      }),
    madeBy: (key) => madeBy(db, key),
    remember: (key, made) =>
      write(async (tx) => ({ result: undefined, entries: [await remembered(tx, key, made)] })),
    ...keptScoutings(db, write),
    follow: (after, next, anew) => feed.follow(after, next, anew),
    async close() {
      await feed.idle();
      await keeping.close();
    },
  };
  return store;
}

const bytesOf = (text: string): number => Buffer.byteLength(text);

interface Content {
  name: string;
  text: string;
  hash: string;
  message: string;
}
