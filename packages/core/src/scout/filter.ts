/**
 * A set of digests of keys in a few bits each (Bloom 1970, "Space/time trade-offs in hash coding with allowable errors"). It
 * may say that it has one that was never added, and never the other way round.
 */
export type KeyFilter = Uint8Array;

/** Bits for each digest, and how many of them one sets: of a hundred others about one is taken for one that was added. */
const BITS = 10;
const HASHES = 7;

/** A filter with room for so many digests, at most 200 million of them, empty; its length is a power of two. */
export function createFilter(keys: number): KeyFilter {
  let bytes = 8;
  while (8 * bytes < keys * BITS) bytes *= 2;
  return new Uint8Array(bytes);
}

// The bits of a digest are steps from itself, as wide as another mix of it says (Kirsch and Mitzenmacher 2006, "Less
// hashing, same performance").
const stepOf = (digest: number): number => Math.imul(digest ^ (digest >>> 15), 0x2c1b3c6d) | 1;

export function addDigest(filter: KeyFilter, digest: number): void {
  const mask = filter.length * 8 - 1;
  const step = stepOf(digest);
  for (let i = 0, at = digest | 0; i < HASHES; i++, at = (at + step) | 0) {
    const bit = at & mask;
    filter[bit >>> 3] = filter[bit >>> 3]! | (1 << (bit & 7));
  }
}

export function hasDigest(filter: KeyFilter, digest: number): boolean {
  const mask = filter.length * 8 - 1;
  const step = stepOf(digest);
  for (let i = 0, at = digest | 0; i < HASHES; i++, at = (at + step) | 0) {
    const bit = at & mask;
    if ((filter[bit >>> 3]! & (1 << (bit & 7))) === 0) return false;
  }
  return true;
}
