/** A set of keys of 64 bits in two halves, by open addressing; it grows by itself. */
export interface KeySet {
  readonly size: number;
  /** Adds a key; false when it was there. */
  add(high: number, low: number): boolean;
}

/** Makes an empty set with room for about `room` keys; it takes 8 bytes for each of at most twice as many. */
export function createKeySet(room = 1 << 16): KeySet {
  let capacity = 1 << 10;
  while (capacity < room) capacity *= 2;
  let highs = new Uint32Array(capacity);
  let lows = new Uint32Array(capacity);
  let size = 0;
  const place = (high: number, low: number): number => {
    let i = (low ^ Math.imul(high, 0x9e3779b1)) & (capacity - 1);
    while ((highs[i] !== 0 || lows[i] !== 0) && (highs[i] !== high || lows[i] !== low))
      i = (i + 1) & (capacity - 1);
    return i;
  };
  const grow = (): void => {
    const [oldHighs, oldLows] = [highs, lows];
    capacity *= 2;
    highs = new Uint32Array(capacity);
    lows = new Uint32Array(capacity);
    for (let i = 0; i < oldHighs.length; i++) {
      if (oldHighs[i] === 0 && oldLows[i] === 0) continue;
      const at = place(oldHighs[i]!, oldLows[i]!);
      highs[at] = oldHighs[i]!;
      lows[at] = oldLows[i]!;
    }
  };
  return {
    get size() {
      return size;
    },
    add(high, low) {
      // An empty place is two zeros: that one key is another's.
      const h = high === 0 && low === 0 ? 1 : high;
      const i = place(h, low);
      if (highs[i] !== 0 || lows[i] !== 0) return false;
      highs[i] = h;
      lows[i] = low;
      if (++size > 0.7 * capacity) grow();
      return true;
    },
  };
}
