import { createHash } from 'node:crypto';
import { PGlite } from '@electric-sql/pglite';
import {
  etagOf,
  type Draft,
  type Revision,
  type Scouting,
  type StoredDocument,
  type Summary,
} from '@glenmark/contract';
import {
  type Diagnostic,
  isUsable,
  type Kind,
  readCourse,
  readMoveset,
  readTape,
  slugOf,
} from '@glenmark/core';
import { and, asc, desc, eq } from 'drizzle-orm';
import { drizzle, type PgliteDatabase } from 'drizzle-orm/pglite';
import { migrate } from 'drizzle-orm/pglite/migrator';
import { ProblemError, unreadable } from './problem.js';
import * as schema from './schema.js';
import { documents, revisions, scoutings, settings } from './schema.js';

type Database = PgliteDatabase<typeof schema>;

/** The documents and their revisions. Every method either does all of what it says or throws and changes nothing. */
export interface Store {
  list(kind: Kind): Promise<Summary[]>;
  read(kind: Kind, id: string, number?: number): Promise<StoredDocument>;
  revisions(kind: Kind, id: string): Promise<Revision[]>;
  create(kind: Kind, draft: Draft): Promise<StoredDocument>;
  save(kind: Kind, id: string, draft: Draft, ifMatch: string): Promise<StoredDocument>;
  remove(kind: Kind, id: string, ifMatch: string): Promise<void>;
  setting(key: string): Promise<string | undefined>;
  setSetting(key: string, value: string): Promise<void>;
  /** All scoutings that are kept, oldest first. */
  scoutings(): Promise<Scouting[]>;
  keepScouting(scouting: Scouting): Promise<void>;
  dropScouting(id: string): Promise<void>;
  close(): Promise<void>;
}

/** Opens (and creates and migrates) the database in a folder. */
export async function openStore(folder: string, migrations: string): Promise<Store> {
  const client = await PGlite.create(folder);
  const db = drizzle(client, { schema });
  await migrate(db, { migrationsFolder: migrations });
  return storeOn(db, () => client.close());
}

const hashOf = (text: string): string => createHash('sha256').update(text).digest('hex');

/** What is wrong with a text as a document of a kind; the name it gives itself when nothing is. */
export function readDocument(kind: Kind, text: string): { name: string; diagnostics: Diagnostic[] } {
  const { file, diagnostics } = { moveset: readMoveset, course: readCourse, tape: readTape }[kind](text);
  return { name: file?.name ?? '', diagnostics };
}

function checked(kind: Kind, draft: Draft): { name: string; hash: string; text: string; message: string } {
  const { name, diagnostics } = readDocument(kind, draft.text);
  if (!isUsable(diagnostics)) throw unreadable(diagnostics);
  return { name, hash: hashOf(draft.text), text: draft.text, message: draft.message ?? '' };
}

function storeOn(db: Database, close: () => Promise<void>): Store {
  const one = (kind: Kind, id: string) => and(eq(documents.kind, kind), eq(documents.id, id));
  const missing = (kind: Kind, id: string): ProblemError =>
    new ProblemError(404, `There is no ${kind} '${id}'.`);

  async function head(tx: Pick<Database, 'select'>, kind: Kind, id: string) {
    const rows = await tx
      .select({ document: documents, revision: revisions })
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

  /** The newest revision, if it is the one the caller has seen. */
  async function matchedHead(tx: Pick<Database, 'select'>, kind: Kind, id: string, ifMatch: string) {
    const current = await head(tx, kind, id);
    if (ifMatch !== etagOf({ revision: current.number, hash: current.hash })) {
      throw new ProblemError(
        412,
        `Nothing was saved: '${id}' has moved on to revision ${current.number}. Read it again and choose what to keep.`,
        {
          type: 'urn:glenmark:problem:stale-save',
          title: 'Somebody else saved first',
          current: current.number,
        },
      );
    }
    return current;
  }

  async function freeId(tx: Pick<Database, 'select'>, kind: Kind, name: string): Promise<string> {
    const base = slugOf(name).slice(0, 100).replace(/-+$/, '');
    const taken = new Set(
      (await tx.select({ id: documents.id }).from(documents).where(eq(documents.kind, kind))).map(
        (d) => d.id,
      ),
    );
    for (let n = 1; ; n++) {
      const id = n === 1 ? base : `${base}-${n}`;
      if (!taken.has(id)) return id;
    }
  }

  const toDocument = (r: typeof revisions.$inferSelect): StoredDocument => ({
    kind: r.kind,
    id: r.id,
    name: r.name,
    revision: r.number,
    updatedAt: r.createdAt.toISOString(),
    text: r.text,
    hash: r.hash,
    message: r.message,
  });

  return {
    async list(kind) {
      const rows = await db
        .select()
        .from(documents)
        .where(eq(documents.kind, kind))
        .orderBy(desc(documents.updatedAt), documents.id);
      return rows.map((d) => ({
        kind: d.kind,
        id: d.id,
        name: d.name,
        revision: d.head,
        updatedAt: d.updatedAt.toISOString(),
      }));
    },
    async read(kind, id, number) {
      if (number === undefined) return toDocument(await head(db, kind, id));
      const rows = await db
        .select()
        .from(revisions)
        .where(and(eq(revisions.kind, kind), eq(revisions.id, id), eq(revisions.number, number)));
      if (rows[0] === undefined)
        throw new ProblemError(404, `There is no revision ${number} of the ${kind} '${id}'.`);
      return toDocument(rows[0]);
    },
    async revisions(kind, id) {
      await head(db, kind, id);
      const rows = await db
        .select()
        .from(revisions)
        .where(and(eq(revisions.kind, kind), eq(revisions.id, id)))
        .orderBy(desc(revisions.number));
      return rows.map((r) => ({
        number: r.number,
        parent: r.parent,
        hash: r.hash,
        message: r.message,
        createdAt: r.createdAt.toISOString(),
      }));
    },
    async create(kind, draft) {
      const { name, ...content } = checked(kind, draft);
      return db.transaction(async (tx) => {
        const id = await freeId(tx, kind, name);
        const now = new Date();
        await tx.insert(documents).values({ kind, id, name, head: 1, updatedAt: now });
        const row = { kind, id, number: 1, parent: null, name, createdAt: now, ...content };
        await tx.insert(revisions).values(row);
        return toDocument(row);
      });
    },
    async save(kind, id, draft, ifMatch) {
      const { name, ...content } = checked(kind, draft);
      return db.transaction(async (tx) => {
        const current = await matchedHead(tx, kind, id, ifMatch);
        if (current.hash === content.hash) return toDocument(current);
        const now = new Date();
        const row = {
          kind,
          id,
          number: current.number + 1,
          parent: current.number,
          name,
          createdAt: now,
          ...content,
        };
        await tx.insert(revisions).values(row);
        await tx.update(documents).set({ head: row.number, name, updatedAt: now }).where(one(kind, id));
        return toDocument(row);
      });
    },
    async remove(kind, id, ifMatch) {
      await db.transaction(async (tx) => {
        await matchedHead(tx, kind, id, ifMatch);
        await tx.delete(documents).where(one(kind, id));
      });
    },
    async setting(key) {
      return (await db.select().from(settings).where(eq(settings.key, key)))[0]?.value;
    },
    async setSetting(key, value) {
      await db
        .insert(settings)
        .values({ key, value })
        .onConflictDoUpdate({ target: settings.key, set: { value } });
    },
    async scoutings() {
      const rows = await db.select().from(scoutings).orderBy(asc(scoutings.createdAt));
      return rows.map((row) => JSON.parse(row.state) as Scouting);
    },
    async keepScouting(scouting) {
      const { id, moveset, createdAt } = scouting;
      const state = JSON.stringify(scouting);
      await db
        .insert(scoutings)
        .values({ id, moveset, state, createdAt: new Date(createdAt) })
        .onConflictDoUpdate({ target: scoutings.id, set: { state } });
    },
    async dropScouting(id) {
      await db.delete(scoutings).where(eq(scoutings.id, id));
    },
    close,
  };
}
