import { chainOf, type Fast, place } from '../machine/index.js';
import { present } from '../present.js';
import type { Scout, Way } from '../scout/index.js';
import type { Graph } from './sinks.js';

/** The width and the height of the squares that a body rests in (m). Higher ones would join a pit with its rim. */
export const WIDTH = 1;
export const HEIGHT = 0.25;

/** A square that a body rested in: the soonest way known to it, and after how many ticks of it. */
export interface Stand {
  /** Its lower left corner (m). */
  x: number;
  y: number;
  ticks: number;
  wayThere: () => Way;
  /** The situation at the end of that way. */
  situation: Float64Array;
  /** Whether it ever stood there: on a wall or a line one does not stay. */
  isGround: boolean;
  /** Whether a run is meant to end in one of the states that were seen there. */
  isEnd: boolean;
}

/** Where a body rests on a course: on the ground, on a wall or on a line. */
export interface Stands {
  all: ReadonlyMap<number, Stand>;
  /** What flights and steps lead from where to where. */
  next: Graph;
  /**
   * Notes a situation, the way there and the square that the body rested in before, −1 for none; gives the square that it
   * rests in now, or else the one before.
   */
  arrive(s: Float64Array, before: number, wayThere: () => Way): number;
  /** Notes that the body left the course after it rested in a square. */
  leave(before: number): void;
}

/** Beside all squares: out of the course. */
const OUTSIDE = -2;

export function createStands({ machine, layout }: Fast): Stands {
  const all = new Map<number, Stand>();
  const next = new Map<number, Set<number>>();
  const isHeld = machine.states.map(({ kind }) => kind === 'braced' || kind === 'slung');
  const isEnd = machine.states.map((_, s) =>
    chainOf(machine, s).some((outer) => present(machine.states[outer]).final),
  );
  return {
    all,
    next,
    arrive(s, before, wayThere) {
      const leaf = present(s[layout.leaves]);
      const rests = machine.plane === 'above' || s[place.GROUND] !== 0 || isHeld[leaf] === true;
      if (!rests) return before;
      const column = Math.floor(present(s[place.X]) / WIDTH);
      const row = Math.floor(present(s[place.Y]) / HEIGHT);
      const square = (column & 0xffff) * 0x10000 + (row & 0xffff);
      const ticks = present(s[place.TICK]);
      const known = all.get(square);
      const stand = known ?? {
        x: column * WIDTH,
        y: row * HEIGHT,
        ticks,
        wayThere,
        situation: s.slice(),
        isGround: false,
        isEnd: false,
      };
      if (known === undefined) {
        all.set(square, stand);
        next.set(square, new Set());
      } else if (ticks < known.ticks) Object.assign(known, { ticks, wayThere, situation: s.slice() });
      if (machine.plane === 'above' || s[place.GROUND] !== 0) stand.isGround = true;
      if (isEnd[leaf] === true) stand.isEnd = true;
      if (before >= 0 && before !== square) present(next.get(before)).add(square);
      return square;
    },
    leave(before) {
      present(next.get(before)).add(OUTSIDE);
    },
  };
}

/**
 * Notes what a scout sees from now on; what it begins with comes from the square `before`, −1 for none. `rested` hears the
 * square of each situation.
 */
export function watchStands(
  scout: Scout,
  stands: Stands,
  before = -1,
  rested: (square: number) => void = () => undefined,
): void {
  /** The square that each node rested in last. */
  const last: number[] = [];
  scout.watch((s, { node, parent, wayThere }) => {
    const square = stands.arrive(s, last[parent] ?? before, wayThere);
    last[node] = square;
    rested(square);
  });
}
