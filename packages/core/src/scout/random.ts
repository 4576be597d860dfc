/** A generator of whole numbers from 0 to `below` − 1 with 32 bits of state (mulberry32), the same for the same seed. */
export function createRandom(seed: number): (below: number) => number {
  let state = seed | 0;
  return (below) => {
    state = (state + 0x6d2b79f5) | 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return Math.floor((((t ^ (t >>> 14)) >>> 0) / 4294967296) * below);
  };
}

/** One seed out of two, spread over all bits. */
export function mixed(a: number, b: number): number {
  let h = Math.imul(a ^ 0x9e3779b9, 0x85ebca6b) ^ Math.imul(b + 0x7f4a7c15, 0xc2b2ae35);
  h ^= h >>> 15;
  return Math.imul(h, 0x27d4eb2f) ^ (h >>> 13);
}
