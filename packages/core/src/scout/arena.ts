import type { Fast } from '../machine/index.js';
import type { Result } from './events.js';

/** Moves tried from a situation each time it is expanded. */
export const MOVES = 4;

/** The longest move (ticks). */
export const LONGEST = 32;

/** Where the expanding of situations reads and writes: it may be memory that several threads share. */
export interface Arena {
  buffer: ArrayBufferLike;
  /** The situation to expand in a slot. */
  situation(slot: number): Float64Array;
  /** What comes of the moves from it. They are used again two rounds later. */
  outcomes(slot: number): readonly Outcome[];
}

/** A move and what came of it. Its numbers lie in the arena; its result does not, as threads do not share it. */
export interface Outcome extends Result {
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
export const arenaBytes = (fast: Fast, slots: number): number =>
  slots * slotSize(fast) * Float64Array.BYTES_PER_ELEMENT;

/** Eight-byte words in a slot: its situation, and for each move what it took, the input, the end, and the keys. */
const slotSize = (fast: Fast): number => fast.layout.size + MOVES * moveSize(fast);

const TOOK = 3;
const moveSize = ({ machine, layout }: Fast): number =>
  TOOK + machine.controls.length + layout.size + LONGEST;

/** An arena of so many slots over memory of its own, or over what is given. */
export function createArena(
  fast: Fast,
  slots: number,
  buffer: ArrayBufferLike = new ArrayBuffer(arenaBytes(fast, slots)),
): Arena {
  const controls = fast.machine.controls.length;
  const { size } = fast.layout;
  const words = (from: number, length: number): Float64Array =>
    new Float64Array(buffer, from * Float64Array.BYTES_PER_ELEMENT, length);
  const placesOf = Array.from({ length: slots }, (_, slot) => {
    const from = slot * slotSize(fast);
    const outcomes = Array.from({ length: MOVES }, (_, move): Outcome => {
      let at = from + size + move * moveSize(fast);
      const next = (length: number): Float64Array => words((at += length) - length, length);
      return {
        took: next(TOOK),
        input: next(controls),
        end: next(size),
        keys: new Uint32Array(buffer, at * Float64Array.BYTES_PER_ELEMENT, 2 * LONGEST),
        events: [],
        distances: [],
      };
    });
    return { situation: words(from, size), outcomes };
  });
  return {
    buffer,
    situation: (slot) => placesOf[slot]!.situation,
    outcomes: (slot) => placesOf[slot]!.outcomes,
  };
}
