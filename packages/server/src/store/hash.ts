import { createHash } from 'node:crypto';

/** SHA-256 of a text, hexadecimal. */
export const hashOf = (text: string): string => createHash('sha256').update(text).digest('hex');
