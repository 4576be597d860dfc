import { and, eq } from 'drizzle-orm';
import type { Kind } from '@glenmark/core/model';
import type { Transaction } from './database.js';
import { documents, requests, revisions, scoutings, settings } from './schema.js';

/**
 * What the journal holds: each change of the data as the rows that come of it. Applying an entry again changes nothing, so
 * that a journal can be replayed over data that has some of it already.
 */
export type Entry =
  | { op: 'revision'; row: StoredRevision }
  | { op: 'label'; kind: Kind; id: string; number: number; label: string | null }
  | { op: 'remove'; kind: Kind; id: string }
  | { op: 'scouting'; row: Stored<typeof scoutings.$inferSelect> }
  | { op: 'dropScouting'; id: string }
  | { op: 'setting'; key: string; value: string }
  | { op: 'request'; row: Stored<typeof requests.$inferSelect> };

/** A row as it stands in JSON. */
type Stored<Row> = { [K in keyof Row]: Row[K] extends Date ? string : Row[K] };
export type StoredRevision = Stored<typeof revisions.$inferSelect>;

/** The setting that says which line of the journal the database has got to. */
export const JOURNAL_SETTING = 'journal';

/** A row of the database as it stands in JSON. */
export const storedRow = <Row extends { createdAt: Date }>(row: Row): Stored<Row> =>
  ({ ...row, createdAt: row.createdAt.toISOString() }) as Stored<Row>;

const liveRow = <Row extends { createdAt: Date }>(row: Stored<Row>): Row =>
  ({ ...row, createdAt: new Date(row.createdAt as string) }) as unknown as Row;

/** Adds a revision on top of its document, or as the first of a new one; fails when either is there already. */
export async function addRevision(tx: Transaction, row: typeof revisions.$inferSelect): Promise<void> {
  const { kind, id, name, number: head, createdAt: updatedAt } = row;
  if (row.parent === null) await tx.insert(documents).values({ kind, id, name, head, updatedAt });
  else
    await tx
      .update(documents)
      .set({ name, head, updatedAt })
      .where(and(eq(documents.kind, kind), eq(documents.id, id)));
  await tx.insert(revisions).values(row);
}

/** Puts a revision in place, as the newest of its document, whether it is there already or not. */
export async function putRevision(tx: Transaction, row: typeof revisions.$inferSelect): Promise<void> {
  const { kind, id, name, number: head, createdAt: updatedAt } = row;
  await tx
    .insert(documents)
    .values({ kind, id, name, head, updatedAt })
    .onConflictDoUpdate({ target: [documents.kind, documents.id], set: { name, head, updatedAt } });
  await tx
    .insert(revisions)
    .values(row)
    .onConflictDoUpdate({ target: [revisions.kind, revisions.id, revisions.number], set: row });
}

/** Labels a revision, or takes its label away; gives its row, undefined when there is none. */
export async function putLabel(
  tx: Transaction,
  { kind, id, number, label }: { kind: Kind; id: string; number: number; label: string | null },
): Promise<typeof revisions.$inferSelect | undefined> {
  const rows = await tx
    .update(revisions)
    .set({ label })
    .where(and(eq(revisions.kind, kind), eq(revisions.id, id), eq(revisions.number, number)))
    .returning();
  return rows[0];
}

export async function putSetting(tx: Transaction, key: string, value: string): Promise<void> {
  await tx
    .insert(settings)
    .values({ key, value })
    .onConflictDoUpdate({ target: settings.key, set: { value } });
}

/** Applies an entry to the database. */
export async function applyEntry(tx: Transaction, entry: Entry): Promise<void> {
  switch (entry.op) {
    case 'revision':
      return putRevision(tx, liveRow<typeof revisions.$inferSelect>(entry.row));
    case 'label':
      await putLabel(tx, entry);
      return;
    case 'remove':
      await tx.delete(documents).where(and(eq(documents.kind, entry.kind), eq(documents.id, entry.id)));
      return;
    case 'scouting': {
      const row = liveRow<typeof scoutings.$inferSelect>(entry.row);
      await tx.insert(scoutings).values(row).onConflictDoUpdate({ target: scoutings.id, set: row });
      return;
    }
    case 'dropScouting':
      await tx.delete(scoutings).where(eq(scoutings.id, entry.id));
      return;
    case 'setting':
      return putSetting(tx, entry.key, entry.value);
    case 'request': {
      const row = liveRow<typeof requests.$inferSelect>(entry.row);
      await tx.insert(requests).values(row).onConflictDoUpdate({ target: requests.key, set: row });
    }
  }
}

/** The newest revision of each document, as `kind/id`, with its number and hash. */
export type Heads = Map<string, { number: number; hash: string }>;

/** What an entry makes of the newest revisions. */
export function applyToHeads(heads: Heads, entry: Entry): void {
  if (entry.op === 'revision')
    heads.set(`${entry.row.kind}/${entry.row.id}`, { number: entry.row.number, hash: entry.row.hash });
  else if (entry.op === 'remove') heads.delete(`${entry.kind}/${entry.id}`);
}
