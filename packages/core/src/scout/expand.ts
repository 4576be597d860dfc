import type { Course } from '../world/index.js';
import { exitsOf, type Fast, place, step } from '../machine/index.js';
import { slotsIn } from '../notation/index.js';
import { type Arena, LONGEST, type Outcome } from './arena.js';
import { distanceOf } from './distance.js';
import { createLook, type Events, type Result } from './events.js';
import { keyOf } from './key.js';

/** A body this far outside the course has left it (metres). */
const OUTSIDE = 20;

/** Ticks after which a situation is marked, beside the first change: 1 at its place. */
const MARKED = new Uint8Array(LONGEST + 1);
for (const ticks of [1, 4, 16, LONGEST]) MARKED[ticks] = 1;

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
  /** Holds the input in a slot of the arena from the situation in it. */
  expand(slot: number, goals: readonly Aim[]): Outcome;
}

/**
 * Prepares a lowered machine for expanding the situations in an arena. What comes of a situation depends on nothing but
 * the situation and the input. Of each sort of event it tells the first only, unless it is to tell all.
 */
export function createExpander(fast: Fast, arena: Arena, tellsAll = false): Expander {
  const { machine, layout, world } = fast;
  const writeKey = keyOf(fast);
  const look = createLook(fast, tellsAll);
  const asked = new Set(fast.program.asked.map(({ slot }) => slot));
  const slots = machine.lanes.map((lane) =>
    lane.crossings.map(({ when }) =>
      when === undefined ? [] : slotsIn(when).filter((slot) => asked.has(slot)),
    ),
  );
  /** For each leaf, which crossings of its lane leave it. */
  const leaving = machine.states.map(({ lane, index }) => {
    const list = new Uint8Array(machine.lanes[lane]!.crossings.length);
    for (const { crossing } of exitsOf(machine, index)) list[crossing.index] = 1;
    return list;
  });
  const events: Events = [];
  const distances: Result['distances'][number][] = [];
  const s = new Float64Array(layout.size);

  /** Notes how near the goals that leave the present leaves are. */
  const measure = (goals: readonly Aim[], mark: number): void => {
    for (let goal = 0; goal < goals.length; goal++) {
      const { lane, crossing, within } = goals[goal]!;
      if (leaving[s[layout.leaves + lane]!]![crossing] === 0) continue;
      for (const slot of slots[lane]![crossing]!) fast.senses.ask(slot);
      const distance = distanceOf(machine.lanes[lane]!.crossings[crossing]!.when, fast.facts);
      if (distance < within) distances.push({ goal, distance, mark });
    }
  };

  const play = (outcome: Outcome, situation: Float64Array, goals: readonly Aim[]): void => {
    const { took, input, keys, marks, situations } = outcome;
    s.set(situation);
    marks.fill(0);
    let touched = touchOf(s);
    let hasChanged = false;
    let left = false;
    let count = 0;
    let t = 0;
    while (t < LONGEST && !left) {
      step(fast, s, input);
      writeKey(s, keys, 2 * t);
      look(s, t, events);
      left = hasLeft(world.course, s);
      t++;
      const changes = !hasChanged && (fast.takenCount > 0 || touchOf(s) !== touched);
      if (changes) hasChanged = true;
      if (left || !(changes || MARKED[t] === 1)) continue;
      touched = touchOf(s);
      situations[count]!.set(s);
      marks[count] = t;
      measure(goals, count++);
    }
    took[0] = t;
    took[1] = left ? 1 : 0;
    outcome.events = taken(events);
    outcome.distances = taken(distances);
  };

  return {
    fast,
    expand(slot, goals) {
      const outcome = arena.outcome(slot);
      play(outcome, arena.situation(slot), goals);
      return outcome;
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
