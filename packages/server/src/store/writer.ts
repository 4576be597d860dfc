import { ProblemError } from '../problem.js';
import type { Database, Transaction } from './database.js';
import { JOURNAL_SETTING, putSetting } from './entries.js';
import type { Journal, Line } from './journal.js';
import type { Changed } from './keeping.js';
import { neededFor, noRoom } from './room.js';

/** Most changes that are committed together, and most bytes of texts in them, unless one alone has more. */
const BATCH = 64;
const BATCH_BYTES = 4_000_000;

export interface WriterOptions {
  db: Database;
  journal: Journal;
  /** The number of the last line. */
  last: number;
  /** Bytes free on the disk. */
  free: () => number;
  /** Told after a commit, with the bytes in the journal, and those of the texts that were written. */
  committed: (journal: number, written: number) => void;
}

export interface Writer {
  /**
   * Does a change, all of it or nothing. Resolves when it is on the disk, in the journal and in the database. `bytes` are
   * those of the texts in it.
   */
  write<T>(change: (tx: Transaction) => Promise<Changed<T>>, bytes?: number): Promise<T>;
  /** Goes on in another journal, once what is under way is done; gives the number of the last line before it. */
  turnTo(open: () => Promise<Journal>): Promise<number>;
  /** Why nothing can be written any more, after the database itself failed. */
  broken(): boolean;
  /** Resolves when nothing is under way. */
  idle(): Promise<void>;
}

interface Waiting {
  bytes: number;
  change: (tx: Transaction) => Promise<Changed<unknown>>;
  resolve: (result: never) => void;
  reject: (error: unknown) => void;
}

/**
 * Commits changes in their order, those that wait at the same time together: one transaction, one line of the journal
 * each, one sync of the journal before the commit. What stands in the journal is never taken back.
 */
export function createWriter({ db, journal: first, last: before, free, committed }: WriterOptions): Writer {
  let journal = first;
  let last = before;
  let isBroken = false;
  const waiting: Waiting[] = [];
  let running: Promise<void> | undefined;

  /** Does the changes of a batch in one transaction; one that is refused leaves the others as they are. */
  async function commit(batch: readonly Waiting[]): Promise<(() => void)[]> {
    const lines: Line[] = [];
    let isJournaled = false;
    try {
      return await db.transaction(async (tx) => {
        const answers: (() => void)[] = [];
        for (const { change, resolve, reject } of batch) {
          try {
            const { result, entries } = await tx.transaction((inner) => change(inner));
            if (entries.length > 0) lines.push({ n: last + lines.length + 1, entries });
            answers.push(() => resolve(result as never));
          } catch (error) {
            answers.push(() => reject(error));
          }
        }
        if (lines.length > 0) {
          await putSetting(tx, JOURNAL_SETTING, String(last + lines.length));
          await journal.append(lines);
          isJournaled = true;
        }
        return answers;
      });
    } catch (error) {
      // The journal is ahead of the database now: the next start gives it the rest.
      isBroken ||= isJournaled;
      throw (error as NodeJS.ErrnoException).code === 'ENOSPC' ? noRoom() : error;
    } finally {
      if (isJournaled) last += lines.length;
    }
  }

  async function work(): Promise<void> {
    while (waiting.length > 0) {
      const batch = nextBatch(waiting);
      const bytes = batch.reduce((sum, w) => sum + w.bytes, 0);
      const refusal = isBroken ? failed() : free() < neededFor(bytes) ? noRoom() : undefined;
      try {
        if (refusal !== undefined) throw refusal;
        for (const answer of await commit(batch)) answer();
        committed(journal.bytes(), bytes);
      } catch (error) {
        for (const { reject } of batch) reject(error);
      }
    }
  }

  const begin = (): Promise<void> =>
    (running ??= work().finally(() => {
      running = undefined;
      // One that came after the last look, and found somebody at work.
      if (waiting.length > 0) void begin();
    }));

  return {
    write: (change, bytes = 0) =>
      new Promise((resolve, reject) => {
        waiting.push({ bytes, change, resolve, reject });
        // Those that come in the same turn of the loop are committed together.
        if (running === undefined) setImmediate(() => void begin());
      }),
    async turnTo(open) {
      await running;
      const next = await open();
      // Nothing was awaited since the last check of `running` but the opening; a batch begun meanwhile is let end.
      await running;
      const old = journal;
      journal = next;
      await old.close();
      return last;
    },
    broken: () => isBroken,
    idle: async () => {
      while (running !== undefined || waiting.length > 0) await begin();
      await journal.close();
    },
  };
}

/** Takes what is committed next off those that wait. */
function nextBatch(waiting: Waiting[]): Waiting[] {
  let bytes = 0;
  const end = waiting.findIndex((w, i) => (bytes += w.bytes) > BATCH_BYTES && i > 0);
  return waiting.splice(0, Math.min(BATCH, end < 0 ? waiting.length : end));
}

const failed = (): ProblemError =>
  new ProblemError(
    503,
    'Nothing was saved: the database failed. What was saved before is safe in the journal; restart the server.',
  );
