import { type Fast, place, step } from '../machine/index.js';
import { factsIn } from '../notation/index.js';
import { distanceOf } from './distance.js';
import { type Key, keyOf } from './key.js';
import { controlsOf, drawMove } from './moves.js';
import { createRandom } from './random.js';

/** Moves tried from a situation each time it is expanded. */
export const MOVES = 4;

/** A body this far outside the course has left it (metres). */
const OUTSIDE = 20;

/** What happened in a tick that the scout takes note of. */
export type Event =
  | { kind: 'taken'; lane: number; crossing: number; from: number; to: number }
  | { kind: 'tie'; lane: number; leaf: number; crossings: number[] }
  | { kind: 'written'; channel: 'vx' | 'vy' | 'facing' | 'stance'; leaves: number[] };

/**
 * One move and what came of it. All of it is plain data: it may come from another thread. The arrays are used again
 * in the next round.
 */
export interface Outcome {
  input: Float64Array;
  ticks: number;
  /** Keys of the situations after each tick: high, low, high, low, … */
  keys: Uint32Array;
  /** The situation at the end. */
  end: Float64Array;
  /** Whether the body left the course: the move ended there. */
  left: boolean;
  events: { tick: number; event: Event }[];
  /** How far the open goals that leave the leaf at the end are from their guards. */
  distances: { goal: number; distance: number }[];
}

/** A crossing that has not been taken yet. */
export interface Goal {
  lane: number;
  crossing: number;
}

export interface Expander {
  fast: Fast;
  /** Tries moves from a situation, the `place`th of its round; the same seed gives the same moves. */
  expand(place: number, from: Float64Array, seed: number, goals: readonly Goal[]): Outcome[];
}

/** Prepares a lowered machine for expanding situations. */
export function createExpander(fast: Fast): Expander {
  const { machine, layout, world } = fast;
  const matter = controlsOf(machine);
  const fill = keyOf(fast);
  const key: Key = { high: 0, low: 0 };
  const arena = createArena(machine.controls.length, layout.size);
  const several = -2;
  const { minX, minY, maxX, maxY } = world.course.bounds;
  const slots = machine.lanes.map((lane) =>
    lane.crossings.map(({ when }) =>
      when === undefined
        ? []
        : factsIn(when)
            .flatMap((k) => machine.facts.slots.get(k) ?? [])
            .filter((slot) => fast.senses.lazy[slot] !== undefined),
    ),
  );
  // The controls that matter, by the leaves of all lanes together.
  const together = new Map<number, number[]>();
  const relevantIn = (s: Float64Array): number[] => {
    let code = 0;
    for (let i = 0; i < machine.lanes.length; i++)
      code = code * machine.states.length + s[layout.leaves + i]!;
    let relevant = together.get(code);
    if (relevant === undefined) {
      const lists = machine.lanes.map((_, i) => matter[s[layout.leaves + i]!]!);
      together.set(code, (relevant = [...new Set(lists.flat())]));
    }
    return relevant;
  };
  const tryMove = (
    at: number,
    from: Float64Array,
    random: (below: number) => number,
    goals: readonly Goal[],
  ): Outcome => {
    const { input, keys, end: s } = arena(at);
    s.set(from);
    const before = s.subarray(layout.input, layout.input + machine.controls.length);
    const ticks = drawMove(machine, relevantIn(s), before, input, random);
    const events: Outcome['events'] = [];
    let left = false;
    let t = 0;
    while (t < ticks && !left) {
      step(fast, s, input);
      fill(s, key);
      keys[2 * t] = key.high;
      keys[2 * t + 1] = key.low;
      for (let i = 0; i < 4 * fast.takenCount; i += 4)
        events.push({
          tick: t,
          event: {
            kind: 'taken',
            lane: fast.taken[i]!,
            crossing: fast.taken[i + 1]!,
            from: fast.taken[i + 2]!,
            to: fast.taken[i + 3]!,
          },
        });
      if (fast.tiedCount > 0) pushTies(fast, t, events);
      const { log } = fast;
      if (log.vx === several) pushWritten(fast, 'vx', t, events);
      if (log.vy === several) pushWritten(fast, 'vy', t, events);
      if (log.facing === several) pushWritten(fast, 'facing', t, events);
      if (log.stance === several) pushWritten(fast, 'stance', t, events);
      const x = s[place.X]!;
      const y = s[place.Y]!;
      left = !(x > minX - OUTSIDE && x < maxX + OUTSIDE && y > minY - OUTSIDE && y < maxY + 10 * OUTSIDE);
      t++;
    }
    const distances: Outcome['distances'] = [];
    for (let goal = 0; goal < goals.length; goal++) {
      const { lane, crossing } = goals[goal]!;
      const leaf = fast.leaves[lane]!;
      if (!fast.exits[leaf]!.some((exit) => exit.crossing.index === crossing)) continue;
      for (const slot of slots[lane]![crossing]!) fast.senses.ask(slot);
      distances.push({
        goal,
        distance: distanceOf(machine.lanes[lane]!.crossings[crossing]!.when, fast.facts),
      });
    }
    return { input, ticks: t, keys: keys.subarray(0, 2 * t), end: s, left, events, distances };
  };
  return {
    fast,
    expand(at, from, seed, goals) {
      const random = createRandom(seed);
      const outcomes: Outcome[] = [];
      for (let i = 0; i < MOVES; i++) outcomes.push(tryMove(at * MOVES + i, from, random, goals));
      return outcomes;
    },
  };
}

/** The longest move (ticks). */
const LONGEST = 16;

/** Arrays for the outcomes of a round, made when they are first needed. */
function createArena(
  controls: number,
  size: number,
): (at: number) => { input: Float64Array; keys: Uint32Array; end: Float64Array } {
  const made: { input: Float64Array; keys: Uint32Array; end: Float64Array }[] = [];
  return (at) =>
    (made[at] ??= {
      input: new Float64Array(controls),
      keys: new Uint32Array(2 * LONGEST),
      end: new Float64Array(size),
    });
}

function pushTies(
  { tied, tiedCount, taken, takenCount }: Fast,
  tick: number,
  events: Outcome['events'],
): void {
  for (let i = 0; i < tiedCount;) {
    const lane = tied[i]!;
    const crossings: number[] = [];
    for (; i < tiedCount && tied[i] === lane; i += 2) crossings.push(tied[i + 1]!);
    // The lane has left by now: the state it tied in is where its first crossing comes from.
    let leaf = -1;
    for (let k = 4 * takenCount - 4; k >= 0; k -= 4) if (taken[k] === lane) leaf = taken[k + 2]!;
    events.push({ tick, event: { kind: 'tie', lane, leaf, crossings } });
  }
}

const pushWritten = (
  fast: Fast,
  channel: 'vx' | 'vy' | 'facing' | 'stance',
  tick: number,
  events: Outcome['events'],
): void => {
  events.push({ tick, event: { kind: 'written', channel, leaves: [...fast.leaves] } });
};
