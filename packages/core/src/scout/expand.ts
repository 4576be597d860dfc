import type { Course } from '../world/index.js';
import { type Fast, place, step } from '../machine/index.js';
import { slotsIn } from '../notation/index.js';
import { type Arena, type ArenaOutcome, LONGEST } from './arena.js';
import { distanceOf } from './distance.js';
import { type Key, keyOf } from './key.js';
import { controlsOf, drawMove, UNTIL_CHANGE } from './moves.js';
import { createRandom } from './random.js';
import { type CrossingRecipe, recipesOf } from './recipes.js';

/** Moves tried from a situation each time it is expanded. */
export const MOVES = 4;

/** A body this far outside the course has left it (metres). */
const OUTSIDE = 20;

/** What happened in a tick that the scout takes note of. */
export type Event =
  | { kind: 'taken'; lane: number; crossing: number; from: number; to: number }
  | { kind: 'tie'; lane: number; leaf: number; crossings: number[] }
  | { kind: 'written'; channel: 'vx' | 'vy' | 'facing' | 'stance'; leaves: number[] };

/** What came of one move, but for what stands in the arena: mostly nothing; plain data that may come from a thread. */
export interface Result {
  /** Each sort of event; by default only the first time that the expander sees it. */
  events: { tick: number; event: Event }[];
  /** How far open goals that leave the leaf at the end are from their guards, where that is nearer than before. */
  distances: { goal: number; distance: number }[];
}

/** One move and what came of it. The arrays are the arena's: they are used again two rounds later. */
export interface Outcome extends Result, ArenaOutcome {}

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
  /** Tries moves from the situation in a slot of the arena; the same seed gives the same moves. */
  /** `guided` is how many of eight moves do what a guard asks for. */
  expand(slot: number, seed: number, goals: readonly Aim[], guided: number): Outcome[];
}

/**
 * Prepares a lowered machine for expanding the situations in an arena. Of each sort of event it tells the first only,
 * unless it is to tell all.
 */
export function createExpander(fast: Fast, arena: Arena, tellsAll = false): Expander {
  const { machine, layout, world } = fast;
  const matter = controlsOf(machine);
  const fill = keyOf(fast);
  const key: Key = { high: 0, low: 0 };
  const look = createLook(fast, tellsAll);
  const slots = machine.lanes.map((lane) =>
    lane.crossings.map(({ when }) =>
      when === undefined ? [] : slotsIn(when).filter((slot) => fast.senses.lazy[slot] !== undefined),
    ),
  );
  const recipes = recipesOf(machine);
  // The controls that matter, and what their ways out ask for, by the leaves of all lanes together.
  const together = new Map<number, { matter: number[]; recipes: CrossingRecipe[] }>();
  const relevantIn = (s: Float64Array): { matter: number[]; recipes: CrossingRecipe[] } => {
    let code = 0;
    for (let i = 0; i < machine.lanes.length; i++)
      code = code * machine.states.length + s[layout.leaves + i]!;
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
  const tryMove = (
    slot: number,
    move: number,
    random: (below: number) => number,
    goals: readonly Aim[],
    guided: number,
  ): Outcome => {
    const room = arena.outcome(slot, move);
    const { took, input, keys, end: s } = room;
    s.set(arena.situation(slot));
    const before = s.subarray(layout.input, layout.input + machine.controls.length);
    const isOpen = ({ lane, crossing }: CrossingRecipe): boolean =>
      goals.some((g) => g.lane === lane && g.crossing === crossing);
    const { hold, isGuided } = drawMove(machine, { ...relevantIn(s), isOpen, guided }, before, input, random);
    const most = hold === UNTIL_CHANGE ? LONGEST : hold;
    const touched = touchOf(s);
    let goesOn = true;
    const events: Outcome['events'] = [];
    let left = false;
    let t = 0;
    while (t < most && goesOn && !left) {
      step(fast, s, input);
      fill(s, key);
      keys[2 * t] = key.high;
      keys[2 * t + 1] = key.low;
      look(t, events);
      if (hold === UNTIL_CHANGE) goesOn = fast.takenCount === 0 && touchOf(s) === touched;
      left = hasLeft(world.course, s);
      t++;
    }
    const distances: Outcome['distances'] = [];
    for (let goal = 0; goal < goals.length; goal++) {
      const { lane, crossing, within } = goals[goal]!;
      const leaf = fast.leaves[lane]!;
      if (!fast.exits[leaf]!.some((exit) => exit.crossing.index === crossing)) continue;
      for (const slot of slots[lane]![crossing]!) fast.senses.ask(slot);
      const distance = distanceOf(machine.lanes[lane]!.crossings[crossing]!.when, fast.facts);
      if (distance < within) distances.push({ goal, distance });
    }
    took[0] = t;
    took[1] = left ? 1 : 0;
    took[2] = isGuided ? 1 : 0;
    return { ...room, events, distances };
  };
  return {
    fast,
    expand(slot, seed, goals, guided) {
      const random = createRandom(seed);
      const outcomes: Outcome[] = [];
      for (let move = 0; move < MOVES; move++) outcomes.push(tryMove(slot, move, random, goals, guided));
      return outcomes;
    },
  };
}

/** Whether the body is out of a course, far enough that nothing more comes of it. */
export function hasLeft({ bounds: { minX, minY, maxX, maxY } }: Course, s: Float64Array): boolean {
  const x = s[place.X]!;
  const y = s[place.Y]!;
  return !(x > minX - OUTSIDE && x < maxX + OUTSIDE && y > minY - OUTSIDE && y < maxY + 10 * OUTSIDE);
}

/** What the log says of a channel that several wrote. */
const SEVERAL = -2;

/**
 * Makes a function that adds what happened in the last tick to a list of events. Whoever listens notes the first of each
 * kind, so each is reported once, unless all are asked for.
 */
export function createLook(fast: Fast, tellsAll = false): (tick: number, events: Result['events']) => void {
  const taken = fast.machine.lanes.map((lane) => new Uint8Array(lane.crossings.length));
  const reported = new Set<string>();
  const note = (tick: number, event: Event, events: Result['events']): void => {
    const label = labelOf(event);
    if (reported.has(label) && !tellsAll) return;
    reported.add(label);
    events.push({ tick, event });
  };
  return (tick, events) => {
    for (let i = 0; i < 4 * fast.takenCount; i += 4) {
      const [lane, crossing] = [fast.taken[i]!, fast.taken[i + 1]!];
      if (taken[lane]![crossing] !== 0 && !tellsAll) continue;
      taken[lane]![crossing] = 1;
      const [from, to] = [fast.taken[i + 2]!, fast.taken[i + 3]!];
      events.push({ tick, event: { kind: 'taken', lane, crossing, from, to } });
    }
    if (fast.tiedCount > 0) for (const tie of tiesOf(fast)) note(tick, tie, events);
    const { log } = fast;
    if (log.vx === SEVERAL) note(tick, written('vx', fast), events);
    if (log.vy === SEVERAL) note(tick, written('vy', fast), events);
    if (log.facing === SEVERAL) note(tick, written('facing', fast), events);
    if (log.stance === SEVERAL) note(tick, written('stance', fast), events);
  };
}

/** What the body touches, as one number. */
const touchOf = (s: Float64Array): number =>
  s[place.GROUND]! + 2 * s[place.STEEP]! + 4 * s[place.CEILING]! + 8 * (s[place.WALL]! + 1);

function tiesOf({ tied, tiedCount, taken, takenCount }: Fast): Event[] {
  const ties: Event[] = [];
  for (let i = 0; i < tiedCount;) {
    const lane = tied[i]!;
    const crossings: number[] = [];
    for (; i < tiedCount && tied[i] === lane; i += 2) crossings.push(tied[i + 1]!);
    // The lane has left by now: the state it tied in is where its first crossing comes from.
    let leaf = -1;
    for (let k = 4 * takenCount - 4; k >= 0; k -= 4) if (taken[k] === lane) leaf = taken[k + 2]!;
    ties.push({ kind: 'tie', lane, leaf, crossings });
  }
  return ties;
}

const written = (channel: 'vx' | 'vy' | 'facing' | 'stance', fast: Fast): Event => ({
  kind: 'written',
  channel,
  leaves: [...fast.leaves],
});

/** What makes two events the same sort of event. */
export function labelOf(event: Event): string {
  switch (event.kind) {
    case 'taken':
      return `taken ${event.lane} ${event.crossing}`;
    case 'tie':
      return `tie ${event.lane} ${event.leaf} ${event.crossings.join()}`;
    case 'written':
      return `written ${event.channel} ${event.leaves.join()}`;
  }
}
