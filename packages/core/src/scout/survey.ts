import type { Fast, Machine } from '../machine/index.js';
import type { Course } from '../world/index.js';
import type { Event } from './events.js';
import type { Goal } from './expand.js';
import type { Start } from './starts.js';

/** How something first came about: a way through situations, and the tick of the last move in which it happened. */
export interface Way {
  start: number;
  inputs: number[][];
}

/** Something seen, with the way to the tick in which it was first seen. */
export interface Sighting {
  event: Event;
  way: Way;
}

/** The nearest that a crossing came to being taken. */
export interface Approach {
  distance: number;
  way: Way;
}

/** Squares that are told apart; the rest of a spot's number says what the lanes are in. */
export const SQUARES = 0x1000000;

/** Situations in one square metre with the same states: the first of them, and the spots that moves led to from there. */
export interface Spot {
  leaves: number[];
  first: number;
  next: Set<number>;
}

/** What a search saw of one course, and what it takes to show that. */
export interface Survey {
  machine: Machine;
  course: Course;
  fast: Fast;
  /** The same machine lowered for recording. */
  recording: Fast;
  /** Where it begins: ways say which by place in here. */
  starts: readonly Start[];
  /** Crossings that were not taken. */
  goals(): readonly Goal[];
  progress(): { situations: number; ticks: number };
  /** What was seen, each sort once, in the order of the first time; from the `from`th on. */
  sightingsFrom(from: number): Sighting[];
  /** How near each goal that is still open came. */
  approaches(): (Goal & Approach)[];
  /** Where the search has been, by spots: what leads from which to which. */
  spots(): ReadonlyMap<number, Spot>;
  wayTo(node: number): Way;
}
