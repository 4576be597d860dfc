import { statfsSync } from 'node:fs';
import { ProblemError } from '../problem.js';

/**
 * Bytes that must be free before anything is written, beside what is written itself. PostgreSQL inside the process does not
 * survive a full disk: it must never meet one. Two segments of its log fit in this, with room to spare.
 */
export const RESERVE = 64 * 2 ** 20;

/** How often a text is written at most: in the journal with escapes, in PostgreSQL's log, in its table. */
const COPIES = 6;

/** Bytes that must be free for writing so many bytes of texts. */
export const neededFor = (bytes: number): number => RESERVE + COPIES * bytes;

/** Bytes free for us on the disk of a folder. */
export const freeBytes = (folder: string): number => {
  const { bavail, bsize } = statfsSync(folder);
  return bavail * bsize;
};

export const noRoom = (): ProblemError =>
  new ProblemError(
    507,
    `Nothing was saved: the disk of the data folder is nearly full. Free at least ${RESERVE / 2 ** 20} MB; reading goes on meanwhile.`,
    { type: 'urn:glenmark:problem:disk-full', title: 'The disk is full' },
  );
