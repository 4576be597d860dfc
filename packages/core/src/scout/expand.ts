import type { Course } from '../world/index.js';
import { type Fast, place, step } from '../machine/index.js';
import { slotsIn } from '../notation/index.js';
import { type Arena, LONGEST, type Outcome } from './arena.js';
import { distanceOf } from './distance.js';
import { createLook, type Events, type Result } from './events.js';
import { keyOf } from './key.js';
import { createLeafCodes } from './leaf-codes.js';
import { controlsOf, drawMove, type Move, UNTIL_CHANGE, type Ways } from './moves.js';
import { createRandom } from './random.js';
import { type CrossingRecipe, recipesOf } from './recipes.js';

/** A body this far outside the course has left it (metres). */
const OUTSIDE = 20;

/** A crossing that has not been taken yet. */
export interface Goal {
  lane: number;
  crossing: number;
}

/** A goal to come near to; only what comes nearer than `within` is of interest. */
export interface Aim extends Goal {
  within: number;
}

export interface Expander {
  fast: Fast;
  /**
   * Tries moves from the situation in a slot of the arena; the same seed gives the same moves. `guided` is how many of
   * eight moves do what a guard asks for.
   */
  expand(slot: number, seed: number, goals: readonly Aim[], guided: number): readonly Outcome[];
}

/**
 * Prepares a lowered machine for expanding the situations in an arena. Of each sort of event it tells the first only,
 * unless it is to tell all.
 */
export function createExpander(fast: Fast, arena: Arena, tellsAll = false): Expander {
  const { machine, layout, world } = fast;
  const matter = controlsOf(machine);
  const writeKey = keyOf(fast);
  const look = createLook(fast, tellsAll);
  const slots = machine.lanes.map((lane) =>
    lane.crossings.map(({ when }) =>
      when === undefined ? [] : slotsIn(when).filter((slot) => fast.senses.lazy[slot] !== undefined),
    ),
  );
  const recipes = recipesOf(machine);
  // The controls that matter, and what their ways out ask for, by the leaves of all lanes together.
  const together = new Map<number, { matter: number[]; recipes: CrossingRecipe[] }>();
  const codeOf = createLeafCodes(fast);
  const relevantIn = (s: Float64Array): { matter: number[]; recipes: CrossingRecipe[] } => {
    const code = codeOf(s);
    let relevant = together.get(code);
    if (relevant === undefined) {
      const leaves = machine.lanes.map((_, i) => s[layout.leaves + i]!);
      relevant = {
        matter: [...new Set(leaves.flatMap((leaf) => matter[leaf]!))],
        recipes: leaves.flatMap((leaf) => recipes[leaf]!),
      };
      together.set(code, relevant);
    }
    return relevant;
  };
  /** For each leaf, which crossings of its lane leave it. */
  const leaves = machine.states.map(({ lane, index }) => {
    const leaving = new Uint8Array(machine.lanes[lane]!.crossings.length);
    for (const { crossing } of fast.exits[index]!) leaving[crossing.index] = 1;
    return leaving;
  });
  const events: Events = [];
  const distances: Result['distances'][number][] = [];
  const tryMove = (
    outcome: Outcome,
    situation: Float64Array,
    { hold, isGuided }: Move,
    goals: readonly Aim[],
  ): void => {
    const { took, input, keys, end: s } = outcome;
    s.set(situation);
    const max = hold === UNTIL_CHANGE ? LONGEST : hold;
    const touched = touchOf(s);
    let goesOn = true;
    let left = false;
    let t = 0;
    while (t < max && goesOn && !left) {
      step(fast, s, input);
      writeKey(s, keys, 2 * t);
      look(t, events);
      if (hold === UNTIL_CHANGE) goesOn = fast.takenCount === 0 && touchOf(s) === touched;
      left = hasLeft(world.course, s);
      t++;
    }
    for (let goal = 0; goal < goals.length; goal++) {
      const { lane, crossing, within } = goals[goal]!;
      const leaf = fast.leaves[lane]!;
      if (leaves[leaf]![crossing] === 0) continue;
      for (const slot of slots[lane]![crossing]!) fast.senses.ask(slot);
      const distance = distanceOf(machine.lanes[lane]!.crossings[crossing]!.when, fast.facts);
      if (distance < within) distances.push({ goal, distance });
    }
    took[0] = t;
    took[1] = left ? 1 : 0;
    took[2] = isGuided ? 1 : 0;
    outcome.events = taken(events);
    outcome.distances = taken(distances);
  };
  return {
    fast,
    expand(slot, seed, goals, guided) {
      const random = createRandom(seed);
      const situation = arena.situation(slot);
      const { matter, recipes } = relevantIn(situation);
      const ways: Ways = {
        matter,
        recipes,
        open: recipes.filter(({ lane, crossing }) =>
          goals.some((g) => g.lane === lane && g.crossing === crossing),
        ),
        guided,
        before: situation.subarray(layout.input, layout.input + machine.controls.length),
      };
      const outcomes = arena.outcomes(slot);
      for (const outcome of outcomes)
        tryMove(outcome, situation, drawMove(machine, ways, outcome.input, random), goals);
      return outcomes;
    },
  };
}

/** What a list holds; the list is empty after. Mostly there is nothing, and nothing is made. */
const taken = <T>(list: T[]): readonly T[] => (list.length === 0 ? NONE : list.splice(0));
const NONE: readonly never[] = [];

/** Whether the body is out of a course, far enough that nothing more comes of it. */
export function hasLeft({ bounds: { minX, minY, maxX, maxY } }: Course, s: Float64Array): boolean {
  const x = s[place.X]!;
  const y = s[place.Y]!;
  return !(x > minX - OUTSIDE && x < maxX + OUTSIDE && y > minY - OUTSIDE && y < maxY + 10 * OUTSIDE);
}

/** What the body touches, as one number. */
const touchOf = (s: Float64Array): number =>
  s[place.GROUND]! + 2 * s[place.STEEP]! + 4 * s[place.CEILING]! + 8 * (s[place.WALL]! + 1);
