/**
 * A set of keys of 63 bits in two halves, by open addressing; it grows by itself. Each key can be marked once. The lowest
 * bit of the high half is not part of a key: there the mark is.
 */
export interface KeySet {
  readonly size: number;
  /** Adds a key; false when it was there. */
  add(high: number, low: number): boolean;
  /** Adds the first so many keys of a list: high, low, high, low, … */
  addAll(keys: Uint32Array, count: number): void;
  /** Marks a key that is in the set; false when it was marked already. */
  mark(high: number, low: number): boolean;
  /** Calls `visit` with every key. */
  each(visit: (high: number, low: number) => void): void;
}

const MARK = 1;

/**
 * Makes an empty set with room for about `room` keys; it takes 8 bytes for each of at most three times as many. Keys that
 * are known elsewhere are as if they were in it, and marked, but are not counted.
 */
export function createKeySet(room = 1 << 16, known?: (high: number, low: number) => boolean): KeySet {
  let capacity = 1 << 10;
  while (capacity < room) capacity *= 2;
  // Both halves of a key lie together, so that to look at it costs one access to memory that is far away.
  let words = new Uint32Array(2 * capacity);
  let size = 0;

  /** An empty place is two zeros: that one key is another's. */
  const highOf = (high: number, low: number): number => {
    const own = (high & ~MARK) >>> 0;
    return own === 0 && low === 0 ? 2 : own;
  };
  const first = (high: number, low: number): number => (low ^ Math.imul(high, 0x9e3779b1)) & (capacity - 1);
  /** The place among the words of a key, or of the empty place where it would be. */
  const place = (high: number, low: number): number => {
    let i = first(high, low);
    for (;;) {
      const [h, l] = [words[2 * i]!, words[2 * i + 1]!];
      if ((h === 0 && l === 0) || (l === low && (h & ~MARK) >>> 0 === high)) return 2 * i;
      i = (i + 1) & (capacity - 1);
    }
  };
  const grow = (): void => {
    const old = words;
    capacity *= 2;
    words = new Uint32Array(2 * capacity);
    for (let i = 0; i < old.length; i += 2) {
      if (old[i] === 0 && old[i + 1] === 0) continue;
      const at = place((old[i]! & ~MARK) >>> 0, old[i + 1]!);
      words[at] = old[i]!;
      words[at + 1] = old[i + 1]!;
    }
  };
  const add = (high: number, low: number): boolean => {
    const own = highOf(high, low);
    const at = place(own, low);
    if (words[at] !== 0 || words[at + 1] !== 0 || known?.(own, low) === true) return false;
    words[at] = own;
    words[at + 1] = low;
    if (++size > 0.7 * capacity) grow();
    return true;
  };
  /** What is read ahead: nobody looks at it, but what it was read from is near by then. */
  const ahead = new Uint32Array(1);
  return {
    get size() {
      return size;
    },
    add,
    addAll(keys, count) {
      // All are touched before any is added: the memory answers many questions in the time of one.
      for (let k = 0; k < 2 * count; k += 2)
        ahead[0]! ^= words[2 * first(highOf(keys[k]!, keys[k + 1]!), keys[k + 1]!)]!;
      for (let k = 0; k < 2 * count; k += 2) add(keys[k]!, keys[k + 1]!);
    },
    mark(high, low) {
      const own = highOf(high, low);
      const at = place(own, low);
      if ((words[at]! & MARK) !== 0 || known?.(own, low) === true) return false;
      words[at] = words[at]! | MARK;
      return true;
    },
    each(visit) {
      for (let i = 0; i < words.length; i += 2)
        if (words[i] !== 0 || words[i + 1] !== 0) visit((words[i]! & ~MARK) >>> 0, words[i + 1]!);
    },
  };
}
