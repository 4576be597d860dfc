import { mixed } from '../../../scout/index.js';

/** A part of a scouting: one of the `of` parts in which a course is searched. */
export interface Shard {
  course: number;
  part: number;
  of: number;
}

/** The shards of a scouting, course by course: each of its courses in so many parts. */
export const shardsOf = (courses: number, of: number): Shard[] =>
  Array.from({ length: courses * of }, (_, i) => ({ course: Math.floor(i / of), part: i % of, of }));

/** Situations of the first leg of a shard, how much longer each next one is, and the most: what is lost with whoever dies. */
const FIRST = 1000;
const GROWTH = 4;
const MOST = 1_000_000;

/**
 * How many new situations each shard looks for in each leg. The first legs are short: what everybody comes to at first is
 * told to the others before they come to it, too.
 */
export function legsOf(situations: number, shards: number): number[] {
  const legs: number[] = [];
  let left = Math.ceil(situations / shards);
  for (let next = FIRST; left > 0; next = Math.min(GROWTH * next, MOST)) {
    // A short rest is not worth a leg of its own.
    const leg = left < 1.5 * next ? left : next;
    legs.push(leg);
    left -= leg;
  }
  return legs;
}

/** The seed of a leg. */
export const seedOf = (seed: number, shard: number, leg: number): number => mixed(mixed(seed, shard), leg);
