/**
 * Keys as they travel from one shard to another: 32 bits of each, in ascending order, as differences in bytes of seven bits
 * (LEB128). A million keys take about two bytes each, and of a million others one in four thousand is taken for one of them.
 */
export type Digests = Uint8Array;

/** 32 bits of a key; the lowest bit of its high half is no part of it. The mix is the finalizer of MurmurHash3. */
export function digestOf(high: number, low: number): number {
  let mix = low ^ Math.imul(high & ~1, 0x9e3779b1);
  mix = Math.imul(mix ^ (mix >>> 16), 0x85ebca6b);
  mix = Math.imul(mix ^ (mix >>> 13), 0xc2b2ae35);
  return (mix ^ (mix >>> 16)) >>> 0;
}

/** Packs digests, in any order; equal ones are packed once. */
export function packDigests(digests: Uint32Array): Digests {
  const sorted = digests.slice().sort();
  const bytes = new Uint8Array(5 * sorted.length);
  let length = 0;
  let last = -1;
  for (const digest of sorted) {
    if (digest === last) continue;
    let rest = digest - Math.max(last, 0);
    last = digest;
    for (; rest > 0x7f; rest = Math.floor(rest / 0x80)) bytes[length++] = (rest & 0x7f) | 0x80;
    bytes[length++] = rest;
  }
  return bytes.slice(0, length);
}

/** Calls `visit` with each, in ascending order. */
export function eachDigest(digests: Digests, visit: (digest: number) => void): void {
  let [digest, rest, place] = [0, 0, 1];
  for (const byte of digests) {
    rest += (byte & 0x7f) * place;
    place *= 0x80;
    if (byte > 0x7f) continue;
    digest += rest;
    visit(digest);
    [rest, place] = [0, 1];
  }
}
