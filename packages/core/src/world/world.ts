import { SKIN } from '../tolerances.js';
import { type Course, putMover, type Solid } from './course.js';
import type { Geometry } from './geometry.js';
import { kernelGeometry } from './kernel/index.js';
import { type Obstacle, obstacleOf } from './obstacle.js';
import { plainGeometry } from './plain/index.js';
import { type Core, coreOf, type Part } from './shape.js';
import { createField, type Field } from './spatial-grid.js';

/** A body shape with a name: what a stance is to the world. */
export interface BodyShape {
  name: string;
  parts: Part[];
}

/** A surface that the body touches. */
export interface Contact {
  nx: number;
  ny: number;
  distance: number;
  solid: number;
}

/** What a body touches at a place, in lists that are used again; `count` of their entries are filled. */
export interface Contacts {
  count: number;
  nx: ArrayLike<number>;
  ny: ArrayLike<number>;
  distance: ArrayLike<number>;
  solid: ArrayLike<number>;
  /** The least distance to a solid that has an inside; negative when the body overlaps it. */
  minDistance: number;
}

/** The contacts as a list that stays as it is. */
export const contactList = (c: Contacts): Contact[] =>
  Array.from({ length: c.count }, (_, i) => ({
    nx: c.nx[i]!,
    ny: c.ny[i]!,
    distance: c.distance[i]!,
    solid: c.solid[i]!,
  }));

/**
 * A course as one body meets it: for each stance, the obstacles in the coordinates of its feet. Movers and the
 * platforms being dropped through change from tick to tick; all else is fixed. Questions to a world answer in objects
 * that the next question uses again: read them at once.
 */
export interface World extends Arrangement {
  /** Who answers questions about it. */
  geometry: Geometry;
  /** What the body touched where it was asked last. */
  contacts: Contacts;
}

/** The course as one body meets it, and what of it is where just now. */
export interface Arrangement {
  course: Course;
  stances: Field[];
  /** The zones as each stance meets them. */
  zones: Field[];
  /** The solids as each shape meets them that is cast: first a single point, for rays. */
  casts: Field[];
  /** Where each mover is now, as an offset from where it begins (x0, y0, x1, …); `placeMovers` sets it. */
  offsets: Float64Array;
  /** Where each was before `carryBody` moved it last. */
  before: Float64Array;
  /** The time that the movers are placed at (s). */
  seconds: number;
  /** One-way platforms that the body is dropping through; `dropThrough` sets it. */
  dropped: readonly number[];
  /** Counts up whenever a mover or a dropped platform changes; `still` only for the platforms. */
  version: number;
  still: number;
  /** For each stance the boxes of where movers ever are to it: minX, minY, maxX, maxY, one after the other. */
  paths: Float64Array[];
}

export interface WorldOptions {
  /** Asks the plain geometry even where the kernel may run. */
  plain?: boolean;
}

const POINT: Core = { cx: 0, cy: 0, hx: 0, hy: 0, radius: 0 };

/**
 * Prepares a course for a body with these stances, and for casting these shapes (centred on where they are cast from). The
 * kernel answers questions about it, or where no WebAssembly may run the plain geometry, with the same bits.
 */
export function buildWorld(
  course: Course,
  stances: readonly BodyShape[],
  casts: readonly Core[] = [],
  { plain = false }: WorldOptions = {},
): World {
  const against = (things: readonly Pick<Solid, 'polygon'>[], cores: readonly Core[]): Obstacle[] =>
    cores.flatMap((core) => things.map((thing, i) => obstacleOf(thing.polygon, i, core)));
  const among = (cores: readonly Core[]): Field =>
    createField(against(course.solids, cores), (o) => course.solids[o.solid]!.mover);
  const fields = {
    stances: stances.map((stance) => among(stance.parts.map(coreOf))),
    zones: stances.map((stance) => createField(against(course.zones, stance.parts.map(coreOf)), () => -1)),
    casts: [POINT, ...casts].map((core) => among([core])),
  };
  const paths = fields.stances.map(({ obstacles }) => pathBoxes(course, obstacles));
  const arranged: Arrangement = {
    course,
    ...fields,
    paths,
    offsets: new Float64Array(2 * course.movers.length),
    before: new Float64Array(2 * course.movers.length),
    seconds: NaN,
    dropped: [],
    version: 0,
    still: 0,
  };
  const geometry = (plain ? undefined : kernelGeometry(arranged)) ?? plainGeometry(arranged);
  const world: World = Object.assign(arranged, { geometry, contacts: geometry.contacts });
  placeMovers(world, 0);
  return world;
}

/** The boxes that the moving ones among obstacles are in over their whole paths, wider by the skin. */
function pathBoxes(course: Course, obstacles: readonly Obstacle[]): Float64Array {
  const boxes: number[] = [];
  for (const o of obstacles) {
    const { mover } = course.solids[o.solid]!;
    if (mover < 0) continue;
    const xs = course.movers[mover]!.path.map((p) => p.x);
    const ys = course.movers[mover]!.path.map((p) => p.y);
    boxes.push(o.minX + Math.min(...xs) - SKIN, o.minY + Math.min(...ys) - SKIN);
    boxes.push(o.maxX + Math.max(...xs) + SKIN, o.maxY + Math.max(...ys) + SKIN);
  }
  return Float64Array.from(boxes);
}

/** Whether feet are where a mover ever comes to touch them. */
export function isNearMover(world: Arrangement, stance: number, x: number, y: number): boolean {
  const boxes = world.paths[stance]!;
  for (let b = 0; b < boxes.length; b += 4)
    if (x >= boxes[b]! && y >= boxes[b + 1]! && x <= boxes[b + 2]! && y <= boxes[b + 3]!) return true;
  return false;
}

/** Puts every mover where it is at a time (seconds). */
export function placeMovers(world: World, seconds: number): void {
  if (world.seconds === seconds || world.offsets.length === 0) return;
  world.seconds = seconds;
  world.version++;
  for (let i = 0; i < world.course.movers.length; i++)
    putMover(world.course.movers[i]!, seconds, world.offsets, 2 * i);
}

/** Says which one-way platforms are none for now, because the body drops through them. */
export function dropThrough(world: World, solids: readonly number[]): void {
  if (world.dropped.length === 0 && solids.length === 0) return;
  world.dropped = solids;
  world.version++;
  world.still++;
}
