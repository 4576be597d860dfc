import type { Machine } from '../definition/machine.js';
import { MAX_DROPPED } from '../reference/situation.js';

/** The places of what every situation has, in its one buffer of numbers. Truth is 1 or 0, an index −1 for none. */
export const TICK = 0;
export const X = 1;
export const Y = 2;
export const VX = 3;
export const VY = 4;
export const FACING = 5;
export const STANCE = 6;
export const WANTED = 7;
export const BLEND_FROM = 8;
export const BLEND_TO = 9;
export const BLEND_DONE = 10;
export const GROUND = 11;
export const GROUND_NX = 12;
export const GROUND_NY = 13;
export const GROUND_SOLID = 14;
export const STEEP = 15;
export const STEEP_NX = 16;
export const STEEP_NY = 17;
export const WALL = 18;
export const CEILING = 19;
export const CRUSHED = 20;
export const GROUND_Y = 21;
export const AIR_TICKS = 22;
/** Whether some zone is entered or has launched: else nothing need be asked of them. */
export const IN_ZONES = 23;
/** Whether there was no room for the stance that is asked for. */
export const CRAMPED = 24;
const FIRST = 25;

/** A zone's number in a situation: these bits added. */
export const INSIDE = 1;
export const LAUNCHED = 2;
export const SPENT = 4;

/** Where the lists of a situation begin in its buffer: one number an entry unless said otherwise. */
export interface Layout {
  leaves: number;
  /** The tick in which each state and group was last entered. */
  entered: number;
  /** The last leaf of each group, for `resume`. */
  last: number;
  variables: number;
  /** Ticks left, 0 when done, −1 when not started. */
  timers: number;
  charges: number;
  /** Ticks until the next charge. */
  clocks: number;
  spentIn: number;
  unlocked: number;
  events: number;
  memories: number;
  input: number;
  /** For each tether how many anchors hold, then x, y and mover of each, oldest first; where each tether begins. */
  anchors: number[];
  /** The velocity that the body moves by, where that is not the one it has afterwards. */
  travel: number;
  /** How many one-way platforms are dropped through, then which. */
  dropped: number;
  zones: number;
  /** The length of the buffer. */
  size: number;
}

/** Where a situation of a machine keeps what, in a course of so many zones. The zones come last: all else is where it is without them. */
export function layoutOf(machine: Machine, zones: number): Layout {
  let size = FIRST;
  const take = (count: number): number => (size += count) - count;
  const lists = {
    leaves: take(machine.lanes.length),
    entered: take(machine.states.length),
    last: take(machine.states.length),
    variables: take(machine.variables.length),
    timers: take(machine.timers.length),
    charges: take(machine.cooldowns.length),
    clocks: take(machine.cooldowns.length),
    spentIn: take(machine.cooldowns.length),
    unlocked: take(machine.abilities.length),
    events: take(machine.events.length),
    memories: take(machine.memories.length),
    input: take(machine.controls.length),
    // One more than can be held: a new anchor comes in before the oldest lets go.
    anchors: machine.tethers.map((tether) => take(1 + 3 * (tether.most + 1))),
    travel: take(machine.integration === 'semi-implicit' ? 0 : 2),
    dropped: take(1 + MAX_DROPPED),
    zones: take(zones),
  };
  // A plain object: an accessor in it would make every look-up slow.
  return { ...lists, size };
}
