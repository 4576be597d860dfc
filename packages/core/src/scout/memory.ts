import type { Tried } from './moves.js';

/** The move that led to a situation: from which one (−1 where it began), and which input for how many ticks. */
export interface Origin {
  parent: number;
  /** The same array for the same input. */
  input: readonly number[];
  ticks: number;
}

/** The situations that may be expanded: how each came about, and the latest of them in full. */
export interface Memory {
  readonly size: number;
  /** Remembers a situation, to which an input led in at most 255 ticks; gives its node. */
  add(parent: number, input: ArrayLike<number>, ticks: number, situation: Float64Array): number;
  /** A situation in full; undefined when it was let go to make room. */
  situationOf(node: number): Float64Array | undefined;
  /** What was tried from a situation, and what is by now. */
  triedOf(node: number): Tried;
  setTried(node: number, tried: Tried): void;
  originOf(node: number): Origin;
  /** The spawn at which a situation's way begins, and the inputs of that way, one a tick. */
  wayTo(node: number): { start: number; inputs: number[][] };
}

/**
 * Makes a memory that keeps at most `full` situations in full (oldest let go first), and of all how they came about and
 * what was tried from them: 15 bytes each. The first `starts` stay.
 */
export function createMemory(length: number, full: number, starts: number): Memory {
  const buffers = new Float64Array(full * length);
  const owner = new Int32Array(full).fill(-1);
  let parents = new Int32Array(1 << 14);
  let moves = new Int32Array(1 << 14);
  let ticks = new Uint8Array(1 << 14);
  let likely = new Int32Array(1 << 14);
  let others = new Uint16Array(1 << 14);
  let size = 0;
  const inputs: number[][] = [];
  const inputIds = new Map<number, number[]>();
  const idOf = (input: ArrayLike<number>): number => {
    let hash = 0;
    for (let i = 0; i < input.length; i++) hash = Math.imul(hash, 31) + input[i]! * 2;
    let ids = inputIds.get(hash);
    if (ids === undefined) inputIds.set(hash, (ids = []));
    let id = ids.find((known) => {
      const old = inputs[known]!;
      return old.length === input.length && old.every((value, i) => value === input[i]);
    });
    if (id === undefined) {
      id = inputs.push(Array.from(input)) - 1;
      ids.push(id);
    }
    return id;
  };
  const slotOf = (node: number): number =>
    node < starts ? node : starts + ((node - starts) % (full - starts));
  return {
    get size() {
      return size;
    },
    add(parent, input, count, situation) {
      if (size === parents.length) {
        parents = grown(parents, new Int32Array(2 * size));
        moves = grown(moves, new Int32Array(2 * size));
        ticks = grown(ticks, new Uint8Array(2 * size));
        likely = grown(likely, new Int32Array(2 * size));
        others = grown(others, new Uint16Array(2 * size));
      }
      const id = idOf(input);
      const node = size++;
      parents[node] = parent;
      moves[node] = id;
      ticks[node] = count;
      const slot = slotOf(node);
      owner[slot] = node;
      buffers.set(situation, slot * length);
      return node;
    },
    situationOf(node) {
      const slot = slotOf(node);
      return owner[slot] === node ? buffers.subarray(slot * length, (slot + 1) * length) : undefined;
    },
    triedOf: (node) => ({ likely: likely[node]!, others: others[node]! }),
    setTried(node, tried) {
      likely[node] = tried.likely;
      others[node] = tried.others;
    },
    originOf: (node) => ({ parent: parents[node]!, input: inputs[moves[node]!]!, ticks: ticks[node]! }),
    wayTo(node) {
      const way: number[][] = [];
      let at = node;
      while (parents[at]! >= 0) {
        for (let i = 0; i < ticks[at]!; i++) way.push(inputs[moves[at]!]!);
        at = parents[at]!;
      }
      return { start: at, inputs: way.reverse() };
    },
  };
}

function grown<T extends Int32Array | Uint16Array | Uint8Array>(from: T, to: T): T {
  to.set(from);
  return to;
}
