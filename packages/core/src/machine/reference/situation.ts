import { present } from '../../present.js';
import {
  dropThrough,
  footingAt,
  type Footing,
  type Moving,
  placeMovers,
  type World,
} from '../../world/index.js';
import { isWithin, type Machine, type Motion } from '../definition/machine.js';
import { startOfMemory } from './memories.js';
import { DEFAULT_GROUND } from '../compile/motion-rules.js';

/** Everything that changes from tick to tick. Plain data: `structuredClone` of it is a saved game. */
export interface Situation {
  tick: number;
  body: Moving;
  facing: 1 | -1;
  stance: number;
  /** The stance the states ask for; another than `stance` while there is no room for it, or on the way to it. */
  wanted: number;
  /** Whether there was no room for the stance that is asked for, nor for the next step on the way to it. */
  cramped: boolean;
  /** A change of stance that takes several ticks: where it began, and how many are done. */
  blend: { from: number; to: number; done: number } | undefined;
  footing: Footing;
  /** The active state of each lane. */
  leaves: number[];
  /** Ticks since each state and group was entered; meaningless for those that are not active. */
  elapsed: number[];
  /** The last leaf that was active in each group, for `resume`; −1 before the first. */
  last: number[];
  variables: number[];
  /** Ticks left of each timer, 0 when done, −1 when not started. */
  timers: number[];
  /** Ticks until the next charge, 0 when not recharging. */
  cooldowns: { charges: number; clock: number; spentIn: number }[];
  unlocked: boolean[];
  /** Events raised in the last tick, and in this one. */
  events: boolean[];
  raised: boolean[];
  /** `within`: ticks since it was last true; `for`: ticks it has been true. */
  memories: number[];
  /** Controls of the last tick. */
  input: number[];
  /** Anchors that each tether holds, oldest first: where, and the mover they are on (−1 none). */
  anchors: { x: number; y: number; mover: number }[][];
  /** Zones the body was in after the last move, but for those that are gone for good. */
  zones: number[];
  /** Zones whose launch this stay in them has had. */
  launched: number[];
  spentZones: number[];
  /** One-way platforms being dropped through. */
  dropped: number[];
  crushed: boolean;
  /** Height of the ground last stood on (m), and ticks in the air. */
  groundY: number;
  airTicks: number;
}

/** How many one-way platforms can be dropped through at once. */
export const MAX_DROPPED = 8;

const initialLeaves = (machine: Machine): number[] =>
  machine.lanes.map((lane) => leafFrom(machine, lane.initial));

/** The stance that every run begins in. */
export const firstStance = (machine: Machine): number =>
  Math.max(0, wantedStance(machine, initialLeaves(machine)));

/** The situation before the first tick, at a place. */
export function startSituation(
  machine: Machine,
  world: World,
  at: { x: number; y: number; facing: 1 | -1 },
): Situation {
  // A world that was used before still stands as its last run left it.
  placeMovers(world, 0);
  dropThrough(world, []);
  const leaves = initialLeaves(machine);
  const stance = firstStance(machine);
  const body = { x: at.x, y: at.y, vx: 0, vy: 0 };
  return {
    tick: 0,
    body,
    facing: at.facing,
    stance,
    wanted: stance,
    cramped: false,
    blend: undefined,
    footing: footingAt(world, stance, body, groundRule(machine, leaves), machine.plane === 'above'),
    leaves,
    elapsed: machine.states.map(() => 0),
    last: machine.states.map(() => -1),
    variables: machine.variables.map((v) => v.initial),
    timers: machine.timers.map(() => -1),
    cooldowns: machine.cooldowns.map((c) => ({ charges: c.charges, clock: 0, spentIn: -1 })),
    unlocked: machine.abilities.map((a) => !a.locked),
    events: machine.events.map(() => false),
    raised: machine.events.map(() => false),
    memories: machine.memories.map(startOfMemory),
    input: machine.controls.map(() => 0),
    anchors: machine.tethers.map(() => []),
    zones: [],
    launched: [],
    spentZones: [],
    dropped: [],
    crushed: false,
    groundY: at.y,
    airTicks: 0,
  };
}

/**
 * The state that is entered when a state or group is: of a group the one it begins with, or with `resume` the last that
 * was active in it, which is the active one itself for a lane that is there.
 */
export function leafFrom(
  machine: Machine,
  state: number,
  now?: { last: readonly number[]; leaf: number },
): number {
  let s = state;
  while (present(machine.states[s]).members.length > 0) {
    const { resumes, initial } = present(machine.states[s]);
    if (resumes && now !== undefined) {
      if (isWithin(machine, now.leaf, s)) return now.leaf;
      if (present(now.last[s]) >= 0) return present(now.last[s]);
    }
    s = initial;
  }
  return s;
}

/**
 * The stance that active states ask for: that of the last lane whose state names one. A lane that yields its stance
 * counts only while no other names one. −1 when none does: then the body keeps the stance it has.
 */
export function wantedStance(machine: Machine, leaves: ArrayLike<number>): number {
  let wanted = -1;
  let yielding = -1;
  for (let lane = 0; lane < machine.lanes.length; lane++) {
    const { stance } = present(machine.states[present(leaves[lane])]);
    if (stance < 0) continue;
    if (present(machine.lanes[lane]).yields.includes('stance')) yielding = stance;
    else wanted = stance;
  }
  return wanted >= 0 ? wanted : yielding;
}

/** The ground rule of the first lane whose active state has one. */
export function groundRule(machine: Machine, leaves: readonly number[]): NonNullable<Motion['ground']> {
  for (const leaf of leaves) {
    const rule = present(machine.states[leaf]).motion.ground;
    if (rule !== undefined) return rule;
  }
  return DEFAULT_GROUND;
}

/** How far the feet move (m, upward) on a change of stance that keeps the new stance's anchor where it is. */
export function anchorShift(machine: Machine, from: number, to: number): number {
  const [old, next] = [present(machine.stances[from]), present(machine.stances[to])];
  if (next.anchor === 'feet') return 0;
  return next.anchor === 'head' ? old.top - next.top : (old.bottom + old.top - next.bottom - next.top) / 2;
}
