/**
 * A set of digests of keys in a few bits each: a Bloom filter (1970, "Space/time trade-offs in hash coding with allowable
 * errors") whose bits for one digest lie together (Putze, Sanders, Singler 2007, "Cache-, hash- and space-efficient Bloom
 * filters"). It may say that it has one that was never added, and never the other way round.
 */
export type KeyFilter = Uint8Array;

/** Bits for each digest, and how many of them one sets: of a hundred others about one is taken for one that was added. */
const BITS = 10;
const HASHES = 7;
/** The bits of a digest lie in so many bytes, which memory gives at once. */
const BLOCK = 64;

/** A filter with room for so many digests, at most 200 million of them, empty; its length is a power of two. */
export function createFilter(keys: number): KeyFilter {
  let bytes = 2 * BLOCK;
  while (8 * bytes < keys * BITS) bytes *= 2;
  return new Uint8Array(bytes);
}

/** Where the block of a digest begins: by its highest bits, so that digests in ascending order go through memory once. */
const blockOf = (filter: KeyFilter, digest: number): number =>
  (digest >>> (Math.clz32(filter.length / BLOCK) + 1)) * BLOCK;

// Which bits of its block are those of a digest: steps from one mix of it, as wide as another part of the mix says (Kirsch
// and Mitzenmacher 2006, "Less hashing, same performance").
const mixOf = (digest: number): number => Math.imul(digest ^ (digest >>> 15), 0x2c1b3c6d);
const stepOf = (mix: number): number => (mix >>> 20) | 1;

export function addDigest(filter: KeyFilter, digest: number): void {
  const block = blockOf(filter, digest);
  const mix = mixOf(digest);
  const step = stepOf(mix);
  for (let i = 0, at = mix >>> 9; i < HASHES; i++, at += step) {
    const byte = block + ((at >>> 3) & (BLOCK - 1));
    filter[byte] = filter[byte]! | (1 << (at & 7));
  }
}

export function hasDigest(filter: KeyFilter, digest: number): boolean {
  const block = blockOf(filter, digest);
  const mix = mixOf(digest);
  const step = stepOf(mix);
  for (let i = 0, at = mix >>> 9; i < HASHES; i++, at += step)
    if ((filter[block + ((at >>> 3) & (BLOCK - 1))]! & (1 << (at & 7))) === 0) return false;
  return true;
}
