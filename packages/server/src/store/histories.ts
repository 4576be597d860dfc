import type { ImportedBackup } from '@glenmark/contract';
import type { Kind } from '@glenmark/core/model';
import { and, asc, eq } from 'drizzle-orm';
import type { Transaction } from './database.js';
import { addRevision, type Entry, storedRow } from './entries.js';
import { documents, revisions } from './schema.js';

/** All revisions of a document, oldest first. */
export type History = (typeof revisions.$inferSelect)[];

/** Reads a history; empty when there is no such document. */
export const readHistory = (tx: Pick<Transaction, 'select'>, kind: Kind, id: string): Promise<History> =>
  tx
    .select()
    .from(revisions)
    .where(and(eq(revisions.kind, kind), eq(revisions.id, id)))
    .orderBy(asc(revisions.number));

/** What became of a history that was to be added, and under which id it is now. */
export interface Placed {
  id: string;
  how: keyof ImportedBackup;
  entries: Entry[];
}

/** Whether one list of texts begins with all of another. */
const beginsWith = (long: readonly string[], short: readonly string[]): boolean =>
  short.every((hash, i) => hash === long[i]);

/**
 * Adds a history where it belongs, and loses nothing: a document that has as much of it or more stays as it is, one that
 * has its beginning gets the rest, and where the two went different ways it is put beside, under an id of its own.
 */
export async function placeHistory(
  tx: Transaction,
  history: History,
  freeId: (kind: Kind, name: string) => Promise<string>,
): Promise<Placed> {
  const { kind, id } = history[0]!;
  const own = history.map(({ hash }) => hash);
  const alike = await tx
    .select({ id: revisions.id })
    .from(revisions)
    .where(and(eq(revisions.kind, kind), eq(revisions.number, 1), eq(revisions.hash, own[0]!)));
  // The document of the same id first.
  for (const { id: there } of alike.sort((a, b) => Number(b.id === id) - Number(a.id === id))) {
    await tx
      .select({ id: documents.id })
      .from(documents)
      .where(and(eq(documents.kind, kind), eq(documents.id, there)))
      .for('update');
    const known = (await readHistory(tx, kind, there)).map(({ hash }) => hash);
    if (beginsWith(known, own)) return { id: there, how: 'known', entries: [] };
    if (beginsWith(own, known))
      return { id: there, how: 'continued', entries: await add(tx, history.slice(known.length), there) };
  }
  const isTaken = (await readHistory(tx, kind, id)).length > 0;
  const free = isTaken ? await freeId(kind, history.at(-1)!.name) : id;
  return { id: free, how: isTaken ? 'beside' : 'added', entries: await add(tx, history, free) };
}

async function add(tx: Transaction, history: History, id: string): Promise<Entry[]> {
  const entries: Entry[] = [];
  for (const revision of history) {
    const row = { ...revision, id };
    await addRevision(tx, row);
    entries.push({ op: 'revision', row: storedRow(row) });
  }
  return entries;
}
