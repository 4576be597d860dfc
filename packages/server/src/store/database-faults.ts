import { DatabaseError } from 'pg';
import { ProblemError } from '../problem.js';

/** Codes of PostgreSQL with which a change is worth doing again: a name just taken, two changes that depend on each other. */
const AGAIN = new Set(['23505', '40001', '40P01']);
/** Codes that say the disk, or the memory, has no room. */
const NO_ROOM = new Set(['53100', '53200']);
/** Stands for a connection that ended without a code. */
const LOST = 'ECONNRESET';
/** Codes of a database that cannot be reached, stops, or has no connection left: the fault is not in what was asked. */
const AWAY = /^(?:08|57P|53300|ECONN|EPIPE|ENOTFOUND|EAI_AGAIN|ETIMEDOUT)/;

/** What PostgreSQL, or the connection to it, gave as the code of an error; drizzle wraps what it throws. */
function codeOf(error: unknown): string | undefined {
  for (let at = error; at instanceof Error && !(at instanceof ProblemError); at = at.cause) {
    const { code } = at as NodeJS.ErrnoException;
    if (at instanceof DatabaseError || code !== undefined) return code;
    if (/^Connection terminated|timeout exceeded when trying to connect/.test(at.message)) return LOST;
  }
  return undefined;
}

/** Whether a change that failed may be done when it is begun anew: another one got in its way. */
export const isWorthAgain = (error: unknown): boolean => AGAIN.has(codeOf(error) ?? '');

/** Whether an error says that the database cannot be reached. */
export const isAway = (error: unknown): boolean => AWAY.test(codeOf(error) ?? '');

/** What a client is told of a change that failed: of a database that is full or away by a problem, else the error itself. */
export function faultOfWrite(error: unknown): unknown {
  if (NO_ROOM.has(codeOf(error) ?? ''))
    return new ProblemError(
      507,
      'Nothing was saved: the database has no room. What was saved before is safe.',
      {
        type: 'urn:glenmark:problem:disk-full',
        title: 'The disk is full',
      },
    );
  if (isAway(error))
    return new ProblemError(
      503,
      'The database cannot be reached, so it is not known whether this was saved. Read it again in a moment.',
    );
  return error;
}
