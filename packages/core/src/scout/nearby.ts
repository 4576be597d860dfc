import type { Fast } from '../machine/index.js';
import { present } from '../present.js';
import { type Arena, createArena, MARKS, type Outcome } from './arena.js';
import { createExpander, type Expander } from './expand.js';
import { createKeySet } from './keys.js';
import { createMoves, type Moves } from './moves.js';
import { createRandom, mixed } from './random.js';

/** The same situation counts as another so much later: what only takes time is waited for (ticks). */
const LATER = 8;

/** Inputs that are tried from each situation when not all are, and how many of eight of them do what a guard asks for. */
const FEW = 3;
const GUIDED = 2;

/** A situation that was come to from where a search began: so many ticks later, by these inputs, one a tick. */
export interface Nearby {
  situation: Float64Array;
  ticks: number;
  inputs: () => number[][];
}

/** How to search from a situation, and for how long. */
export interface NearbySearch {
  /** All inputs from each situation, or a few that a random number and the guards suggest; the same for the same seed. */
  inputs: 'all' | { seed: number };
  /** Moves that are played at most, and ticks that are looked ahead. */
  tries: number;
  horizon: number;
  /** Hears what came of each move, and from where; `true` ends the search. */
  isFound: (outcome: Outcome, from: Nearby) => boolean;
}

/** It ended because it was `found`, because `tries` were used up, or with `nothing` when nothing new came of it any more. */
export interface NearbyEnd {
  ended: 'found' | 'tries' | 'nothing';
  situations: number;
}

/** Prepares to try inputs from situations, and from all that comes of them, the nearest first. */
export function createNearby(fast: Fast): (from: Float64Array, search: NearbySearch) => NearbyEnd {
  const moves = createMoves(fast);
  const arena = createArena(fast, 1);
  const expander = createExpander(fast, arena, true);
  return (from, search) => searchNearby({ moves, arena, expander }, from, search);
}

function searchNearby(
  { moves, arena, expander }: { moves: Moves; arena: Arena; expander: Expander },
  from: Float64Array,
  { inputs, tries, horizon, isFound }: NearbySearch,
): NearbyEnd {
  const outcome = arena.outcome(0);
  const kept = createKeySet();
  const queue: Nearby[] = [{ situation: from.slice(), ticks: 0, inputs: () => [] }];
  const takeMarks = (before: Nearby): void => {
    const { keys, marks, situations } = outcome;
    const input = Array.from(outcome.input);
    for (let mark = 0; mark < MARKS; mark++) {
      const after = present(marks[mark]);
      if (after === 0) break;
      const ticks = before.ticks + after;
      const later = Math.floor(ticks / LATER);
      const isNew = kept.add(mixed(present(keys[2 * after - 2]), later) >>> 0, present(keys[2 * after - 1]));
      if (isNew && ticks < horizon)
        queue.push({
          situation: present(situations[mark]).slice(),
          ticks,
          inputs: () => [...before.inputs(), ...Array.from({ length: after }, () => input)],
        });
    }
  };
  let tried = 0;
  for (let i = 0; i < queue.length; i++) {
    const before = present(queue[i]);
    arena.situation(0).set(before.situation);
    const codes =
      inputs === 'all' ? moves.count(before.situation) : fewOf(moves, before.situation, i, inputs.seed);
    for (const code of typeof codes === 'number' ? Array(codes).keys() : codes) {
      moves.put(before.situation, code, outcome.input);
      expander.expand(0, []);
      tried++;
      const ended = isFound(outcome, before) ? 'found' : tried > tries ? 'tries' : undefined;
      if (ended !== undefined) return { ended, situations: kept.size };
      takeMarks(before);
    }
  }
  return { ended: 'nothing', situations: kept.size };
}

function fewOf(moves: Moves, situation: Float64Array, i: number, seed: number): number[] {
  const random = createRandom(mixed(i, seed));
  const tried = { likely: 0, others: 0 };
  const drawn = Array.from({ length: FEW }, () =>
    moves.draw(situation, tried, { random, guided: GUIDED, open: [] }),
  );
  return drawn.flatMap((d) => (d === undefined ? [] : [d.code]));
}
