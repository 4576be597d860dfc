import { present } from '../../../present.js';
import { anchorShift, firstStance, type Machine } from '../../../machine/index.js';
import { coreOf, type Course, buildWorld, fits, type Obstacle, obstacleOf } from '../../../world/index.js';
import { liesWithin } from '../guard.js';
import { type FreeSpace, freeSpace, isNear, type Square, squareAround } from './free-space.js';
import { groundRulesOf } from './rise.js';

/** A course as a body comes about on it: the squares that its feet may be in, in each stance that some state asks for. */
export interface Ground {
  machine: Machine;
  course: Course;
  box: Square;
  stances: readonly Place[];
  /** The stance that runs begin in, by its place among `stances`. */
  first: number;
}

/** The squares of one stance, and what lies in them. */
export interface Place {
  stance: number;
  space: FreeSpace;
  /** The zones as the stance meets them; `solid` is the zone's place in the course. */
  zones: readonly Obstacle[];
  /** The squares at the edge of the box, by their places among the cells. */
  edge: ReadonlySet<number>;
  /** Squares that the feet may pass to from each square, in the same stance, and by a change into another one. */
  next: (cell: number) => readonly number[];
  changes: readonly { to: number; shift: number; next: (cell: number) => readonly number[] }[];
}

/** What a shift of the feet may be off by, far more than rounding makes of it (m). */
const ROUNDED = 1e-6;

/** How far beyond all that is solid the box of a course goes (m): farther than a body is wide. */
const MARGIN = 1;

/** Stances at most: beyond it, so many ways from one to another take too long to follow. */
const MAX_STANCES = 8;

/**
 * Prepares a course, or says undefined where the squares do not say where the body comes: a mover may push it through
 * what is solid, a spawn may be too narrow to begin in, and more stances than can be followed are left alone.
 */
export function groundOf(machine: Machine, course: Course): Ground | undefined {
  const start = firstStance(machine);
  const asked = stancesAsked(machine, start);
  if (course.movers.length > 0 || asked.length > MAX_STANCES) return undefined;
  const world = buildWorld(course, machine.stances, machine.casts);
  if (!course.spawns.every(({ x, y }) => fits(world, start, x, y))) return undefined;
  const against = (things: readonly { polygon: Float64Array }[], stance: number): Obstacle[] =>
    present(machine.stances[stance])
      .parts.map(coreOf)
      .flatMap((core) => things.map((thing, i) => obstacleOf(thing.polygon, i, core)));
  const all = asked.flatMap((stance) => against(course.solids, stance));
  const { bounds } = course;
  const box = squareAround({
    minX: all.reduce((n, o) => Math.min(n, o.minX), bounds.minX) - MARGIN,
    minY: all.reduce((n, o) => Math.min(n, o.minY), bounds.minY) - MARGIN,
    maxX: all.reduce((n, o) => Math.max(n, o.maxX), bounds.maxX) + MARGIN,
    maxY: all.reduce((n, o) => Math.max(n, o.maxY), bounds.maxY) + MARGIN,
  });
  const walkable = Math.min(...groundRulesOf(machine).map((g) => g.walkable));
  const solids = course.solids.filter((s) => !s.oneWay);
  const planks = course.solids.filter((s) => s.oneWay);
  const spaces = asked.map((stance) =>
    freeSpace(against(solids, stance), against(planks, stance), box, walkable),
  );
  return {
    machine,
    course,
    box,
    first: asked.indexOf(start),
    stances: spaces.map((space, i): Place => {
      const stance = present(asked[i]);
      const zones = against(course.zones, stance);
      throwUp(course, space, zones);
      return {
        stance,
        space,
        zones,
        edge: new Set(space.cells.flatMap((c, k) => (isAtEdge(c, box) ? [k] : []))),
        next: remembered((cell) => around(space, present(space.cells[cell]), 0)),
        changes: asked.flatMap((other, to) => {
          if (to === i) return [];
          const shift = anchorShift(machine, stance, other);
          const target = present(spaces[to]);
          return [
            { to, shift, next: remembered((cell) => around(target, present(space.cells[cell]), shift)) },
          ];
        }),
      };
    }),
  };
}

/** The cells that an obstacle may touch. */
export const cellsNear = (space: FreeSpace, o: Obstacle): number[] =>
  space.touching(o.minX, o.minY, o.maxX, o.maxY).filter((cell) => isNear(o, present(space.cells[cell])));

/** What throws the body up does for a rise what ground does. */
function throwUp(course: Course, space: FreeSpace, zones: readonly Obstacle[]): void {
  for (const o of zones) {
    if ((course.zones[o.solid]?.launch?.y ?? 0) <= 0) continue;
    for (const i of cellsNear(space, o)) {
      const cell = present(space.cells[i]);
      cell.ground = cell.y + cell.side;
    }
  }
}

/** The cells that a square touches once it is shifted upward. */
function around(space: FreeSpace, { x, y, side }: Square, shift: number): number[] {
  const slack = shift === 0 ? 0 : ROUNDED;
  return space.touching(x, y + shift - slack, x + side, y + side + shift + slack);
}

/** A function of whole numbers that works each answer out once. */
function remembered(of: (cell: number) => number[]): (cell: number) => readonly number[] {
  const known: number[][] = [];
  return (cell) => (known[cell] ??= of(cell));
}

const isAtEdge = (c: Square, box: Square): boolean =>
  c.x === box.x || c.y === box.y || c.x + c.side === box.x + box.side || c.y + c.side === box.y + box.side;

/**
 * The stances that states ask for or runs begin in, and the steps of the ways between them. A step is left out where one
 * of its ends fits wherever the step does: the step is then nowhere where that end is not.
 */
function stancesAsked(machine: Machine, start: number): number[] {
  const asked = new Set([start, ...machine.states.flatMap((s) => (s.stance >= 0 ? [s.stance] : []))]);
  for (const [way, first] of machine.blends) {
    const [from, to] = way.split('>').map(Number) as [number, number];
    if (!asked.has(from) || !asked.has(to)) continue;
    for (let step = first; step < first + present(machine.stances[to]).blend - 1; step++)
      if (!liesWithin(machine, from, step) && !liesWithin(machine, to, step)) asked.add(step);
  }
  return [...asked];
}
