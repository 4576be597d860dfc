import { sql } from 'drizzle-orm';
import type { Logger } from 'pino';
import { CHANNEL } from './changes.js';
import { openDatabase } from './database.js';
import { newestGeneration, openJournal, writeSnapshot } from './journal.js';
import type { Keeping } from './keeping.js';
import { layoutOf, recover } from './recovery.js';
import { freeBytes as freeOnDisk, RESERVE } from './room.js';
import { allEntries } from './snapshot.js';
import { createWriter } from './writer.js';

export interface FolderOptions {
  /** The release that writes, for a later reader. */
  release: string;
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

/**
 * Opens a data folder, which has a database of its own and a journal beside it: recovered if need be, with what a person
 * should know of that in `notes`.
 */
export async function openFolder(
  folder: string,
  { release, log, free = freeOnDisk, snapshotFrom = SNAPSHOT_FROM }: FolderOptions,
): Promise<{ keeping: Keeping; notes: string[] }> {
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

  const keeping: Keeping = {
    db,
    write: (change, bytes) => writer.write(change, bytes),
    listen: async (heard) => void (await client.listen(CHANNEL, heard)),
    async ping() {
      if (writer.broken()) throw new Error('the database failed');
      await db.execute(sql`select 1`);
    },
    async close() {
      await snapshot;
      await writer.idle();
      // On a full disk PostgreSQL cannot end in order; the journal has what its own log has not.
      if (free(folder) >= RESERVE) await client.close();
    },
  };
  return { keeping, notes };
}
