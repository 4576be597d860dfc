import { isUnderWay, type Scouting } from '@glenmark/contract';
import { asc, eq } from 'drizzle-orm';
import { type Database, locked, type Transaction } from './database.js';
import { type Entry, storedRow } from './entries.js';
import type { Keeping } from './keeping.js';
import { scoutings } from './schema.js';

/** Scoutings as they are kept beside the documents. */
export interface KeptScoutings {
  /** All scoutings that are kept, oldest first. */
  scoutings(): Promise<Scouting[]>;
  /** Keeps a scouting as it stands. With `passing` it is not worth a line of the journal: another state follows soon. */
  keepScouting(scouting: Scouting, options?: { passing?: boolean }): Promise<void>;
  /** Keeps the scouting that is made of those that there are, under an id that is free; nobody else begins one meanwhile. */
  beginScouting(moveset: string, make: (all: readonly Scouting[], id: string) => Scouting): Promise<Scouting>;
  dropScouting(id: string): Promise<void>;
}

export function keptScoutings(db: Database, write: Keeping['write']): KeptScoutings {
  const all = async (tx: Pick<Transaction, 'select'>): Promise<Scouting[]> => {
    const rows = await tx
      .select({ state: scoutings.state })
      .from(scoutings)
      .orderBy(asc(scoutings.createdAt));
    return rows.map(({ state }) => JSON.parse(state) as Scouting);
  };
  return {
    scoutings: () => all(db),
    keepScouting(scouting, { passing = false } = {}) {
      const row = scoutingRow(scouting);
      return write(async (tx) => {
        await tx.insert(scoutings).values(row).onConflictDoUpdate({ target: scoutings.id, set: row });
        return { result: undefined, entries: passing ? [] : [entryOf(scouting)] };
      }, Buffer.byteLength(row.state));
    },
    beginScouting: (moveset, make) =>
      write(async (tx) => {
        await locked(tx, `scoutings of ${moveset}`);
        const here = await all(tx);
        const scouting = make(here, freeId(moveset, new Set(here.map(({ id }) => id))));
        if (here.includes(scouting)) return { result: scouting, entries: [] };
        await tx.insert(scoutings).values(scoutingRow(scouting));
        return { result: scouting, entries: [entryOf(scouting)] };
      }),
    dropScouting: (id) =>
      write(async (tx) => {
        await tx.delete(scoutings).where(eq(scoutings.id, id));
        return { result: undefined, entries: [{ op: 'dropScouting', id }] };
      }),
  };
}

/** The first id of a moveset's scoutings that is not taken. */
function freeId(moveset: string, taken: Pick<ReadonlySet<string>, 'has'>): string {
  let n = 1;
  while (taken.has(`${moveset}-${n}`)) n++;
  return `${moveset}-${n}`;
}

const entryOf = (scouting: Scouting): Entry => ({ op: 'scouting', row: storedRow(scoutingRow(scouting)) });

/** A scouting as a row of its table. */
export const scoutingRow = (scouting: Scouting): typeof scoutings.$inferSelect => ({
  id: scouting.id,
  moveset: scouting.moveset,
  state: JSON.stringify(scouting),
  createdAt: new Date(scouting.createdAt),
  underWay: isUnderWay(scouting),
});

/**
 * Adds what scoutings found of movesets, which may have other ids here, and gives what was not here yet. One that was under
 * way is stopped: what it had found is told.
 */
export async function placeScoutings(
  tx: Transaction,
  found: readonly Scouting[],
  movesets: ReadonlyMap<string, string>,
): Promise<{ placed: Scouting[]; entries: Entry[] }> {
  const rows = await tx
    .select({ id: scoutings.id, moveset: scoutings.moveset, createdAt: scoutings.createdAt })
    .from(scoutings);
  const here = new Map(rows.map((row) => [row.id, row]));
  const placed: Scouting[] = [];
  for (const scouting of found) {
    const moveset = movesets.get(scouting.moveset);
    const isHere = [...here.values()].some(
      (row) => row.moveset === moveset && row.createdAt.toISOString() === scouting.createdAt,
    );
    if (moveset === undefined || isHere) continue;
    const state = isUnderWay(scouting) ? 'stopped' : scouting.state;
    const own: Scouting = { ...scouting, id: freeId(moveset, here), moveset, state };
    here.set(own.id, scoutingRow(own));
    await tx.insert(scoutings).values(scoutingRow(own));
    placed.push(own);
  }
  return { placed, entries: placed.map(entryOf) };
}
