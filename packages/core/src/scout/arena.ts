import type { Fast } from '../machine/index.js';
import type { Result } from './events.js';

/** How long an input is held (ticks). */
export const LONGEST = 32;

/** Situations on the way of one move that may be gone on from: after a few ticks, at the first change, at the end. */
export const MARKS = 5;

/** Where the expanding of situations reads and writes: it may be memory that several threads share. */
export interface Arena {
  buffer: ArrayBufferLike;
  /** The situation to expand in a slot. */
  situation(slot: number): Float64Array;
  /** The move from it: its input, and then what came of it. It is used again two rounds later. */
  outcome(slot: number): Outcome;
}

/** A move and what came of it. Its numbers lie in the arena; its result does not, as threads do not share it. */
export interface Outcome extends Result {
  /** What the controls are held at. */
  input: Float64Array;
  /** For how many ticks they were; 1 when the body left the course in the last of them: then it ended there. */
  took: Float64Array;
  /** Keys of the situations after each tick: high, low, high, low, … */
  keys: Uint32Array;
  /** After how many ticks the marked situations are, ascending; 0 for marks that are not there. */
  marks: Float64Array;
  /** The marked situations. */
  situations: readonly Float64Array[];
}

/** How many bytes an arena takes. */
export const arenaBytes = (fast: Fast, slots: number): number =>
  slots * slotSize(fast) * Float64Array.BYTES_PER_ELEMENT;

/** Eight-byte words in a slot: its situation, the input, what it took, the marks with their situations, and the keys. */
const slotSize = ({ machine, layout }: Fast): number =>
  layout.size + machine.controls.length + TOOK + MARKS * (1 + layout.size) + LONGEST;

const TOOK = 2;

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
    let at = slot * slotSize(fast);
    const next = (length: number): Float64Array => words((at += length) - length, length);
    const situation = next(size);
    const outcome: Outcome = {
      input: next(controls),
      took: next(TOOK),
      marks: next(MARKS),
      situations: Array.from({ length: MARKS }, () => next(size)),
      keys: new Uint32Array(buffer, at * Float64Array.BYTES_PER_ELEMENT, 2 * LONGEST),
      events: [],
      distances: [],
    };
    return { situation, outcome };
  });
  return {
    buffer,
    situation: (slot) => placesOf[slot]!.situation,
    outcome: (slot) => placesOf[slot]!.outcome,
  };
}
