import { type ImportedBackup, isUnderWay, type Scouting } from '@glenmark/contract';
import type { Kind } from '@glenmark/core/model';
import { and, asc, eq } from 'drizzle-orm';
import type { Transaction } from './database.js';
import { addRevision, type Entry, storedRow } from './entries.js';
import { documents, revisions, scoutings } from './schema.js';

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

/** A scouting as a row of its table. */
export const scoutingRow = (scouting: Scouting): typeof scoutings.$inferSelect => ({
  id: scouting.id,
  moveset: scouting.moveset,
  state: JSON.stringify(scouting),
  createdAt: new Date(scouting.createdAt),
});

/**
 * Adds what scoutings found of movesets, which may have other ids here, and gives what was not here yet. One that was under
 * way is stopped: what it had found is told.
 */
export async function placeScoutings(
  tx: Transaction,
  found: readonly Scouting[],
  movesets: ReadonlyMap<string, string>,
): Promise<Scouting[]> {
  const rows = await tx.select().from(scoutings);
  const here = new Map(rows.map((row) => [row.id, row]));
  const placed: Scouting[] = [];
  for (const scouting of found) {
    const moveset = movesets.get(scouting.moveset);
    const isHere = [...here.values()].some(
      (row) => row.moveset === moveset && row.createdAt.toISOString() === scouting.createdAt,
    );
    if (moveset === undefined || isHere) continue;
    let n = 1;
    while (here.has(`${moveset}-${n}`)) n++;
    const state = isUnderWay(scouting) ? 'stopped' : scouting.state;
    const own: Scouting = { ...scouting, id: `${moveset}-${n}`, moveset, state };
    here.set(own.id, scoutingRow(own));
    await tx.insert(scoutings).values(scoutingRow(own));
    placed.push(own);
  }
  return placed;
}
