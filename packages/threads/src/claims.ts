import { SLOTS } from '@glenmark/core/scout';

/** Who expands what of the two rounds that may be under way: shared by all threads, so that none waits for another. */
export interface Claims {
  buffer: SharedArrayBuffer;
  /** Begins a round: nothing of it is claimed. */
  begin(turn: number): void;
  /** Claims the next of so many tasks for somebody; −1 when all are claimed. */
  next(turn: number, count: number, id: number): number;
  /** Who claimed a task; −1 nobody. */
  ownerOf(turn: number, task: number): number;
}

/** Whole numbers for a round: how many tasks are claimed, then who claimed each. */
const SIZE = 1 + SLOTS;

export function createClaims(
  buffer = new SharedArrayBuffer(2 * SIZE * Int32Array.BYTES_PER_ELEMENT),
): Claims {
  const list = new Int32Array(buffer);
  return {
    buffer,
    begin: (turn) =>
      void list.fill(-1, turn * SIZE + 1, (turn + 1) * SIZE).fill(0, turn * SIZE, turn * SIZE + 1),
    next(turn, count, id) {
      const task = Atomics.add(list, turn * SIZE, 1);
      if (task >= count) return -1;
      Atomics.store(list, turn * SIZE + 1 + task, id);
      return task;
    },
    ownerOf: (turn, task) => Atomics.load(list, turn * SIZE + 1 + task),
  };
}
