import type { Database, Transaction } from './database.js';
import type { Entry } from './entries.js';

/** A change: what it gives, and what a journal keeps of it; without entries nothing was changed. */
export interface Changed<T> {
  result: T;
  entries: Entry[];
}

/** A place where documents are kept: a database, and how a change of it becomes safe. */
export interface Keeping {
  db: Database;
  /**
   * Does a change, all of it or nothing. Resolves when it is safe: whatever fails later, it is there. `bytes` are those of
   * the texts in it. A change may be done again from its beginning when another one got in its way.
   */
  write<T>(change: (tx: Transaction) => Promise<Changed<T>>, bytes?: number): Promise<T>;
  /** Calls back when any server that shares the database says that documents changed, or may have. */
  listen(heard: () => void): Promise<void>;
  /** Fails when nothing can be read or written. */
  ping(): Promise<void>;
  close(): Promise<void>;
}
