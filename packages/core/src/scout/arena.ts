import type { Fast } from '../machine/index.js';

/** The longest move (ticks). */
export const LONGEST = 32;

/** Where the expanding of situations reads and writes: it may be memory that several threads share. */
export interface Arena {
  buffer: ArrayBufferLike;
  /** The situation to expand in a slot. */
  situation(slot: number): Float64Array;
  /** What comes of one of the moves from it. */
  outcome(slot: number, move: number): ArenaOutcome;
}

export interface ArenaOutcome {
  /**
   * How many ticks the move took; 1 when the body left the course in the last of them: then it ended there; and 1 when it
   * did what a guard asks for.
   */
  took: Float64Array;
  /** What the controls were held at. */
  input: Float64Array;
  /** Keys of the situations after each tick: high, low, high, low, … */
  keys: Uint32Array;
  /** The situation at the end. */
  end: Float64Array;
}

/** How many bytes an arena takes. */
export const arenaBytes = (fast: Fast, slots: number, moves: number): number =>
  slots * slotSize(fast, moves) * Float64Array.BYTES_PER_ELEMENT;

/** Eight-byte words in a slot: its situation, and for each move what it took, the input, the end, and the keys. */
const slotSize = (fast: Fast, moves: number): number => fast.layout.size + moves * moveSize(fast);

const TOOK = 3;
const moveSize = ({ machine, layout }: Fast): number =>
  TOOK + machine.controls.length + layout.size + LONGEST;

/** An arena of so many slots over memory of its own, or over what is given. */
export function createArena(
  fast: Fast,
  slots: number,
  moves: number,
  buffer: ArrayBufferLike = new ArrayBuffer(arenaBytes(fast, slots, moves)),
): Arena {
  const controls = fast.machine.controls.length;
  const { size } = fast.layout;
  const stride = slotSize(fast, moves);
  const words = (from: number, length: number): Float64Array =>
    new Float64Array(buffer, from * Float64Array.BYTES_PER_ELEMENT, length);
  const situations = Array.from({ length: slots }, (_, slot) => words(slot * stride, size));
  const outcomes = Array.from({ length: slots * moves }, (_, i): ArenaOutcome => {
    const slot = Math.floor(i / moves);
    let at = slot * stride + size + (i % moves) * moveSize(fast);
    const next = (length: number): Float64Array => words((at += length) - length, length);
    return {
      took: next(TOOK),
      input: next(controls),
      end: next(size),
      keys: new Uint32Array(buffer, at * Float64Array.BYTES_PER_ELEMENT, 2 * LONGEST),
    };
  });
  return {
    buffer,
    situation: (slot) => situations[slot]!,
    outcome: (slot, move) => outcomes[slot * moves + move]!,
  };
}
