import { createHash, createHmac, randomBytes, timingSafeEqual } from 'node:crypto';

/** What sessions are signed with; servers that share a database share it. */
export interface SessionKeys {
  /** Random, made once for the data; it never leaves the server. */
  secret: string;
  /** Counts how often everybody was signed out: a session of an earlier time holds no more. */
  generation: number;
  /** `digestOf` the access token: with another token, no session of the one before holds. */
  token: string;
}

/** How long a session holds (ms). */
export const HOLDS = 30 * 24 * 60 * 60 * 1000;

/** The SHA-256 of a text, in hexadecimal. Tokens are long and random, so nothing slower is needed. */
export const digestOf = (text: string): string => createHash('sha256').update(text).digest('hex');

/** Whether two texts are the same, in a time that does not depend on where they differ. */
export const isSame = (a: string, b: string): boolean =>
  timingSafeEqual(createHash('sha256').update(a).digest(), createHash('sha256').update(b).digest());

const signed = ({ secret, generation, token }: SessionKeys, until: string, id: string): string =>
  createHmac('sha256', secret).update(`${generation}.${token}.${until}.${id}`).digest('base64url');

/** A new session, as the cookie has it: until when it holds, a random name, and a signature (RFC 2104) over both. */
export function createSession(keys: SessionKeys, now: number): string {
  const until = (now + HOLDS).toString(36);
  const id = randomBytes(18).toString('base64url');
  return `${until}.${id}.${signed(keys, until, id)}`;
}

/** Whether a cookie is a session that these keys made and that still holds. */
export function isSession(keys: SessionKeys, cookie: string, now: number): boolean {
  const [until = '', id = '', signature = '', ...more] = cookie.split('.');
  const holds = more.length === 0 && Number.parseInt(until, 36) > now;
  // Both are worked out, whatever the first says.
  return isSame(signature, signed(keys, until, id)) && holds;
}
