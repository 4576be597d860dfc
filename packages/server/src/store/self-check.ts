import { sql } from 'drizzle-orm';
import type { EmbeddedDatabase } from './database.js';
import type { Heads } from './entries.js';

/** Texts up to this many characters in all are hashed whole at a start; of more, only the newest revisions. */
const HASHED_WHOLE = 64_000_000;

/**
 * What is wrong with an open database, as one sentence, or undefined when nothing is: every newest revision is there with
 * the right hash, documents and revisions belong together, indexes and tables agree, and nothing that the second copy
 * has is missing.
 */
export async function selfCheck(db: EmbeddedDatabase, expected: Heads): Promise<string | undefined> {
  const rows = async <T>(query: ReturnType<typeof sql>): Promise<T[]> =>
    (await db.execute(query)).rows as T[];
  const heads = await rows<{ key: string; number: number; hash: string | null; hashed: string | null }>(sql`
    select d.kind || '/' || d.id as key, d.head as number, r.hash as hash,
      encode(sha256(convert_to(r.text, 'UTF8')), 'hex') as hashed
    from documents d left join revisions r on r.kind = d.kind and r.id = d.id and r.number = d.head`);
  const there = new Map(heads.map((h) => [h.key, h]));
  for (const { key, number, hash, hashed } of heads) {
    if (hash === null) return `revision ${number} of ${key} is missing`;
    if (hash !== hashed) return `the text of ${key} is not what was saved`;
  }
  for (const [key, { number, hash }] of expected) {
    const found = there.get(key);
    if (found === undefined) return `${key} is missing`;
    if (found.number < number || (found.number === number && found.hash !== hash))
      return `${key} is at an older revision than was saved`;
  }
  const [size] = await rows<{ size: number }>(
    sql`select coalesce(sum(length(text)), 0)::float8 as size from revisions`,
  );
  if ((size?.size ?? 0) <= HASHED_WHOLE) {
    const [wrong] = await rows<{ count: number }>(sql`
      select count(*)::int as count from revisions
      where hash <> encode(sha256(convert_to(text, 'UTF8')), 'hex')`);
    if (wrong!.count > 0) return `${wrong!.count} earlier revisions are not what was saved`;
  }
  const [torn] = await rows<{ count: number }>(sql`
    select count(*)::int as count from documents d
    where d.head <> (select count(*) from revisions r where r.kind = d.kind and r.id = d.id)`);
  if (torn!.count > 0) return `revisions of ${torn!.count} documents are missing`;
  // Throws where a table and its index do not agree.
  await db.execute(sql`create extension if not exists amcheck`);
  await db.execute(sql`
    select bt_index_check(i.indexrelid, true) from pg_index i
    join pg_class c on c.oid = i.indexrelid join pg_am a on a.oid = c.relam
    where a.amname = 'btree' and i.indisready and i.indisvalid`);
  const corrupt = await rows<{ msg: string }>(sql`
    select v.msg from pg_class c join pg_namespace n on n.oid = c.relnamespace,
      lateral verify_heapam(c.oid) v
    where n.nspname = 'public' and c.relkind = 'r'`);
  return corrupt[0]?.msg;
}
