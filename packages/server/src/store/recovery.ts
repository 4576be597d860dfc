import { existsSync, readFileSync, renameSync } from 'node:fs';
import { open, rename } from 'node:fs/promises';
import { join } from 'node:path';
import { createDatabase } from './database.js';
import { applyEntry, type Entry, JOURNAL_SETTING, putSetting } from './entries.js';
import { examine } from './examine.js';
import { readSecondCopy, type SecondCopy } from './journal.js';
import { freeBytes, RESERVE } from './room.js';
import { syncFolder } from './synced-files.js';

/** The layout of a data folder that this code reads and writes; 1 was a database without a journal. */
const LAYOUT = 2;

export interface Layout {
  database: string;
  journal: string;
}

export const layoutOf = (folder: string): Layout => ({
  database: join(folder, 'database'),
  journal: join(folder, 'journal'),
});

/** A data folder that is ready to be opened. */
export interface Recovered {
  /** The number of the journal's last line. */
  last: number;
  /** Whether the journal lacks something that the database has: then it is written anew. */
  isJournalStale: boolean;
  /** What happened on the way and a person should know, a sentence each. */
  notes: string[];
}

/**
 * Makes sure that a data folder holds a sound database with everything that was ever acknowledged. A database that does
 * not open, or fails its check, is put aside and rebuilt from the journal. Throws, with the folder as it was, when that
 * cannot be done, so that nobody is shown an empty shelf in place of a lost one.
 */
export async function recover(folder: string, release: string): Promise<Recovered> {
  const { database, journal } = layoutOf(folder);
  checkLayout(folder);
  if (freeBytes(folder) < RESERVE)
    throw new Error(`the disk of ${folder} is nearly full; free at least ${RESERVE / 2 ** 20} MB`);
  const recovered = await soundDatabase(database, journal);
  await writeLayout(folder, release);
  return recovered;
}

async function soundDatabase(database: string, journal: string): Promise<Recovered> {
  if (!existsSync(database)) {
    const copy = await readSecondCopy(journal, () => undefined);
    if (copy.entries > 0) return rebuilt(database, journal, 'The database was missing.');
    await createDatabase(database);
    return { last: 0, isJournalStale: false, notes: [] };
  }
  const verdict = await examine(database, journal);
  if (verdict.state === 'sound') {
    const { copy, at, applied } = verdict;
    const notes =
      applied === 0 ? [] : [`The database was given ${counted(applied, 'save')} from the journal.`];
    if (copy.damaged > 0)
      notes.push('The journal was damaged and is written anew from the database; nothing was lost.');
    return { last: at, isJournalStale: !copy.exists || copy.damaged > 0 || copy.last < at, notes };
  }
  const copy = await readSecondCopy(journal, () => undefined);
  if (copy.entries === 0)
    throw new Error(
      `the database in ${database} is damaged (${verdict.reason}), and there is no journal to rebuild it from; restore the folder from a backup, or set GLENMARK_DATA to another folder`,
    );
  const aside = `${database}-damaged-${new Date().toISOString().replaceAll(':', '-').slice(0, 19)}`;
  renameSync(database, aside);
  return rebuilt(
    database,
    journal,
    `The database was damaged (${verdict.reason}) and was put aside as ${aside}.`,
  );
}

/** Makes the database anew from the journal. */
async function rebuilt(database: string, journal: string, what: string): Promise<Recovered> {
  let count = 0;
  let copy!: SecondCopy;
  await createDatabase(database, async (db) => {
    let batch: Entry[] = [];
    const flush = (n?: number): Promise<void> =>
      db.transaction(async (tx) => {
        for (const entry of batch) await applyEntry(tx, entry);
        if (n !== undefined) await putSetting(tx, JOURNAL_SETTING, String(n));
        batch = [];
      });
    copy = await readSecondCopy(journal, async (entries) => {
      batch.push(...entries);
      count += entries.filter((e) => e.op === 'revision').length;
      if (batch.length >= 100) await flush();
    });
    await flush(copy.last);
  });
  const sentence = `${what} It was rebuilt from the journal with ${counted(count, 'revision')}.`;
  const lost =
    copy.damaged === 0
      ? []
      : [`The journal is damaged too: ${counted(copy.damaged, 'line')} could not be read and may be lost.`];
  return { last: copy.last, isJournalStale: copy.damaged > 0, notes: [sentence, ...lost] };
}

const counted = (n: number, noun: string): string => `${n} ${noun}${n === 1 ? '' : 's'}`;

const layoutFile = (folder: string): string => join(folder, 'glenmark.json');

/** Refuses a folder that a newer release wrote, by its name. */
function checkLayout(folder: string): void {
  if (!existsSync(layoutFile(folder))) return;
  let found: { layout?: unknown; release?: unknown };
  try {
    found = JSON.parse(readFileSync(layoutFile(folder), 'utf8')) as typeof found;
  } catch {
    // It is written anew; what matters is in the database and the journal.
    return;
  }
  if (typeof found.layout === 'number' && found.layout > LAYOUT)
    throw new Error(
      `the data folder ${folder} was written by Glenmark ${String(found.release)}, which is newer than this one; start that release, or set GLENMARK_DATA to another folder`,
    );
}

async function writeLayout(folder: string, release: string): Promise<void> {
  const draft = await open(`${layoutFile(folder)}.new`, 'w');
  await draft.writeFile(`${JSON.stringify({ layout: LAYOUT, release })}\n`);
  await draft.datasync();
  await draft.close();
  await rename(`${layoutFile(folder)}.new`, layoutFile(folder));
  syncFolder(folder);
}
