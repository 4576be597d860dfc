import { present } from '../present.js';
import type { Steps } from '../steps.js';

/** A point, which is mirrored into the unit cube to ask what it costs. */
interface Vertex {
  at: number[];
  cost: number;
}

export interface Minimum {
  at: number[];
  cost: number;
  /** How often the cost was asked for. */
  asked: number;
}

/** The first simplex reaches so far from where it starts, in each direction. */
const REACH = 0.15;

/** A simplex smaller than this has settled. */
const SETTLED = 1e-6;

/**
 * Looks for a point of the unit cube at which a cost is least, by the downhill simplex of J. A. Nelder and R. Mead
 * ("A simplex method for function minimization", The Computer Journal 7, 1965), with what leaves the cube mirrored
 * back into it: moved to its face, the simplex would fall flat. It needs no derivative, so steps in the cost do no harm.
 * Where a simplex has settled another begins, until one finds nothing better. It ends when the cost is 0, too, and after some `most` questions.
 * In steps of a question each.
 */
export function* minimising(
  costOf: (at: readonly number[]) => number,
  start: readonly number[],
  most: number,
): Steps<Minimum> {
  let best: Minimum = { at: [...start], cost: Infinity, asked: 0 };
  for (;;) {
    const next = yield* descending(costOf, best.at, most - best.asked);
    const isBetter = next.cost < best.cost;
    best = { ...(isBetter ? next : best), asked: best.asked + next.asked };
    if (!isBetter || best.cost === 0 || best.asked >= most) return best;
  }
}

/** One simplex, until it has settled. */
function* descending(
  costOf: (at: readonly number[]) => number,
  start: readonly number[],
  most: number,
): Steps<Minimum> {
  let asked = 0;
  const vertex = (at: readonly number[]): Vertex => {
    asked++;
    return { at: [...at], cost: costOf(at.map(mirrored)) };
  };
  let simplex = [vertex(start)];
  yield;
  for (const [i, value] of start.entries()) {
    simplex.push(vertex(start.with(i, value + REACH <= 1 ? value + REACH : value - REACH)));
    yield;
  }
  for (;;) {
    simplex = simplex.sort((a, b) => a.cost - b.cost);
    const [best, worst] = [present(simplex[0]), present(simplex[simplex.length - 1])];
    const second = present(simplex[simplex.length - 2] ?? best);
    if (best.cost === 0 || asked >= most || sizeOf(simplex) < SETTLED)
      return { at: best.at.map(mirrored), cost: best.cost, asked };
    const centre = centreOf(simplex.slice(0, -1));
    const along = (share: number): number[] => centre.map((c, i) => c + share * (c - present(worst.at[i])));
    const replace = (by: Vertex): void => {
      simplex[simplex.length - 1] = by;
    };
    const reflected = vertex(along(1));
    yield;
    if (reflected.cost < best.cost) {
      const expanded = vertex(along(2));
      yield;
      replace(expanded.cost < reflected.cost ? expanded : reflected);
    } else if (reflected.cost < second.cost) replace(reflected);
    else {
      const isOutside = reflected.cost < worst.cost;
      const contracted = vertex(along(isOutside ? 0.5 : -0.5));
      yield;
      if (contracted.cost < Math.min(reflected.cost, worst.cost)) replace(contracted);
      else
        for (const [i, { at }] of simplex.entries()) {
          if (i === 0) continue;
          simplex[i] = vertex(at.map((v, k) => (v + present(best.at[k])) / 2));
          yield;
        }
    }
  }
}

/** A number folded at 0 and at 1, as often as it takes. */
function mirrored(value: number): number {
  const within = Math.abs(value) % 2;
  return within > 1 ? 2 - within : within;
}

const centreOf = (vertices: readonly Vertex[]): number[] =>
  present(vertices[0]).at.map(
    (_, i) => vertices.reduce((sum, v) => sum + present(v.at[i]), 0) / vertices.length,
  );

/** The longest edge from the best vertex, along an axis. */
const sizeOf = ([best, ...others]: readonly Vertex[]): number =>
  Math.max(...others.flatMap(({ at }) => at.map((v, i) => Math.abs(v - present(best?.at[i])))));
