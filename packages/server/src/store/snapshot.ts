import { and, asc, eq, gt, or, sql } from 'drizzle-orm';
import type { Database } from './database.js';
import { type Entry, JOURNAL_SETTING, storedRow } from './entries.js';
import { hashOf } from './hash.js';
import { requests, revisions, scoutings, settings } from './schema.js';

/** Revisions read at once. */
const PAGE = 16;

/**
 * Everything in the database as entries of a journal, read page by page so that others are served meanwhile. Throws when a
 * text is not what was saved: then the older snapshot must stay.
 */
export async function* allEntries(db: Database): AsyncGenerator<Entry> {
  let last: { kind: typeof revisions.$inferSelect.kind; id: string; number: number } | undefined;
  for (;;) {
    const after =
      last === undefined
        ? undefined
        : or(
            gt(revisions.kind, last.kind),
            and(eq(revisions.kind, last.kind), gt(revisions.id, last.id)),
            and(eq(revisions.kind, last.kind), eq(revisions.id, last.id), gt(revisions.number, last.number)),
          );
    const rows = await db
      .select()
      .from(revisions)
      .where(after)
      .orderBy(asc(revisions.kind), asc(revisions.id), asc(revisions.number))
      .limit(PAGE);
    for (const row of rows) {
      if (hashOf(row.text) !== row.hash)
        throw new Error(`revision ${row.number} of ${row.kind}/${row.id} is not what was saved`);
      yield { op: 'revision', row: storedRow(row) };
    }
    last = rows.at(-1);
    if (rows.length < PAGE) break;
  }
  for (const row of await db.select().from(scoutings).orderBy(asc(scoutings.createdAt)))
    yield { op: 'scouting', row: storedRow(row) };
  for (const row of await db.select().from(requests)) yield { op: 'request', row: storedRow(row) };
  const rest = await db
    .select()
    .from(settings)
    .where(sql`${settings.key} <> ${JOURNAL_SETTING}`);
  for (const { key, value } of rest) yield { op: 'setting', key, value };
}
