import type { Summary } from '@glenmark/contract';
import { ProblemError } from '../problem.js';

/** Where the next part of a list begins, as a client gets it: nothing to take apart. */
export const cursorOf = ({ updatedAt, id }: Summary): string =>
  Buffer.from(JSON.stringify([updatedAt, id])).toString('base64url');

/** What a cursor says. Throws a problem for one that this server never gave. */
export function readCursor(cursor: string): { updatedAt: Date; id: string } {
  try {
    const [time, id] = JSON.parse(Buffer.from(cursor, 'base64url').toString()) as [string, string];
    const updatedAt = new Date(time);
    if (typeof id === 'string' && !Number.isNaN(updatedAt.getTime())) return { updatedAt, id };
  } catch {
    // Told below.
  }
  throw new ProblemError(400, `The cursor '${cursor.slice(0, 100)}' is none that this server gave.`);
}
