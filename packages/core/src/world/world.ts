import { createField, type Field, find } from './spatial-grid.js';
import { type Course, putMover, type Solid } from './course.js';
import { SKIN, TOUCHING } from '../tolerances.js';
import { nearness, type Obstacle, obstacleOf, sweepPoint, type Touch } from './obstacle.js';
import { type Core, coreOf, type Part } from './shape.js';

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
  nx: number[];
  ny: number[];
  distance: number[];
  solid: number[];
  /** The least distance to a solid that has an inside; negative when the body overlaps it. */
  minDistance: number;
  /** Where, in which stance and in which arrangement of the world the lists were made. */
  x: number;
  y: number;
  stance: number;
  version: number;
}

/**
 * A course as one body meets it: for each stance, the obstacles in the coordinates of its feet. Movers and the
 * platforms being dropped through change from tick to tick; all else is fixed. Questions to a world answer in objects
 * that the next question uses again: read them at once.
 */
export interface World {
  course: Course;
  stances: Field[];
  /** The zones as each stance meets them. */
  zones: Field[];
  /** The solids as each shape meets them that is cast: first a single point, for rays. */
  casts: Field[];
  /** Where each mover is now, as an offset from where it begins (x0, y0, x1, …); `placeMovers` sets it. */
  offsets: Float64Array;
  /** The time that the movers are placed at (s). */
  seconds: number;
  /** One-way platforms that the body is dropping through; `dropThrough` sets it. */
  dropped: readonly number[];
  /** Counts up whenever a mover or a dropped platform changes; `still` only for the platforms. */
  version: number;
  still: number;
  /** For each stance the boxes of where movers ever are to it: minX, minY, maxX, maxY, one after the other. */
  paths: Float64Array[];
  contacts: Contacts;
}

const POINT: Core = { cx: 0, cy: 0, hx: 0, hy: 0, radius: 0 };

/** Prepares a course for a body with these stances, and for casting these shapes (centred on where they are cast from). */
export function buildWorld(
  course: Course,
  stances: readonly BodyShape[],
  casts: readonly Core[] = [],
): World {
  const against = (things: readonly Pick<Solid, 'polygon'>[], cores: readonly Core[]): Obstacle[] =>
    cores.flatMap((core) => things.map((thing, i) => obstacleOf(thing.polygon, i, core)));
  const among = (cores: readonly Core[]): Field =>
    createField(against(course.solids, cores), (o) => course.solids[o.solid]!.mover);
  const world: World = {
    course,
    stances: stances.map((stance) => among(stance.parts.map(coreOf))),
    zones: stances.map((stance) => createField(against(course.zones, stance.parts.map(coreOf)), () => -1)),
    casts: [POINT, ...casts].map((core) => among([core])),
    offsets: new Float64Array(2 * course.movers.length),
    seconds: NaN,
    dropped: [],
    version: 0,
    still: 0,
    paths: [],
    contacts: {
      count: 0,
      nx: [],
      ny: [],
      distance: [],
      solid: [],
      minDistance: 0,
      x: NaN,
      y: NaN,
      stance: -1,
      version: -1,
    },
  };
  world.paths = world.stances.map(({ obstacles }) => pathBoxes(course, obstacles));
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
export function isNearMover(world: World, stance: number, x: number, y: number): boolean {
  const boxes = world.paths[stance]!;
  for (let b = 0; b < boxes.length; b += 4)
    if (x >= boxes[b]! && y >= boxes[b + 1]! && x <= boxes[b + 2]! && y <= boxes[b + 3]!) return true;
  return false;
}

/** What tells one arrangement of the world from another, as far as it matters at a place: movers far off do not. */
const versionAt = (world: World, stance: number, x: number, y: number): number =>
  isNearMover(world, stance, x, y) ? world.version : -1 - world.still;

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

const near = { distance: 0, nx: 0, ny: 0 };
const touched: Touch = { t: 1, nx: 0, ny: 0, obstacle: undefined };
const plank: Touch = { t: 1, nx: 0, ny: 0, obstacle: undefined };

/** A surface that leans less than this from level can be come down upon (sin 10°): for one-way platforms. */
const UPWARD = 0.17364817766693033;

/** The offset of the mover that a solid may be. */
const offsetX = (world: World, solid: Solid): number =>
  solid.mover < 0 ? 0 : world.offsets[2 * solid.mover]!;
const offsetY = (world: World, solid: Solid): number =>
  solid.mover < 0 ? 0 : world.offsets[2 * solid.mover + 1]!;

/** Whether a one-way platform is none just now: it is being dropped through, or the body is in it or not above it. */
function letsThrough(world: World, o: Obstacle, x: number, y: number): boolean {
  if (world.dropped.includes(o.solid)) return true;
  nearness(o, x, y, near);
  return near.distance < -SKIN || (near.distance <= SKIN && near.ny < UPWARD);
}

function reset(touch: Touch, t: number): Touch {
  touch.t = t;
  touch.nx = 0;
  touch.ny = 0;
  touch.obstacle = undefined;
  return touch;
}

/** First touch of a body with its feet at (x, y) moving by (dx, dy); `t` is 1 when it goes all the way. */
export function sweep(
  world: World,
  stance: number,
  x: number,
  y: number,
  dx: number,
  dy: number,
  except = -1,
): Touch {
  const touch = reset(touched, 1);
  const field = world.stances[stance]!;
  const count = findAlong(world, field, x, y, dx, dy);
  for (let k = 0; k < count; k++) {
    const o = field.obstacles[field.found[k]!]!;
    if (o.solid === except) continue;
    const solid = world.course.solids[o.solid]!;
    const px = x - offsetX(world, solid);
    const py = y - offsetY(world, solid);
    if (!solid.oneWay) sweepPoint(o, px, py, dx, dy, touch);
    else if (!letsThrough(world, o, px, py)) {
      sweepPoint(o, px, py, dx, dy, reset(plank, touch.t));
      if (plank.obstacle !== undefined && plank.ny >= UPWARD) {
        touch.t = plank.t;
        touch.nx = plank.nx;
        touch.ny = plank.ny;
        touch.obstacle = o;
      }
    }
  }
  return touch;
}

/** Finds what a point moving by (dx, dy) may meet. */
const findAlong = (world: World, field: Field, x: number, y: number, dx: number, dy: number): number =>
  find(
    field,
    world.offsets,
    (dx < 0 ? x + dx : x) - TOUCHING,
    (dy < 0 ? y + dy : y) - TOUCHING,
    (dx < 0 ? x : x + dx) + TOUCHING,
    (dy < 0 ? y : y + dy) + TOUCHING,
  );

/** Finds what a point at (x, y) may be in, or near by as much as a margin. */
const findAround = (world: World, field: Field, x: number, y: number, margin: number): number =>
  find(field, world.offsets, x - margin, y - margin, x + margin, y + margin);

/** Whether a stance has room with its feet at (x, y). Overlap within the skin is allowed. */
export function fits(world: World, stance: number, x: number, y: number): boolean {
  const field = world.stances[stance]!;
  const count = findAround(world, field, x, y, 0);
  for (let k = 0; k < count; k++) {
    const o = field.obstacles[field.found[k]!]!;
    const solid = world.course.solids[o.solid]!;
    if (solid.oneWay) continue;
    if (nearness(o, x - offsetX(world, solid), y - offsetY(world, solid), near).distance < -SKIN)
      return false;
  }
  return true;
}

/** How far the feet would have to sink for a stance to have room above: what is missing of the headroom (metres). */
export function missingRoom(world: World, stance: number, x: number, y: number): number {
  let missing = 0;
  const field = world.stances[stance]!;
  const count = findAround(world, field, x, y, 0);
  for (let k = 0; k < count; k++) {
    const o = field.obstacles[field.found[k]!]!;
    const solid = world.course.solids[o.solid]!;
    if (solid.oneWay) continue;
    const [px, py] = [x - offsetX(world, solid), y - offsetY(world, solid)];
    if (nearness(o, px, py, near).distance >= -SKIN) continue;
    // The underside above the feet is what a point coming up from below the obstacle first meets.
    const from = o.minY - 1;
    sweepPoint(o, px, from, 0, py - from, reset(touched, 1));
    missing = Math.max(missing, (1 - touched.t) * (py - from));
  }
  return missing;
}

/** Moves overlapping feet at (`at.x`, `at.y`) out along the least direction, deepest obstacle first. */
export function separate(world: World, stance: number, at: { x: number; y: number }): void {
  const { contacts } = world;
  const known =
    contacts.x === at.x &&
    contacts.y === at.y &&
    contacts.stance === stance &&
    contacts.version === versionAt(world, stance, at.x, at.y);
  if (known && contacts.minDistance >= -TOUCHING) return;
  const field = world.stances[stance]!;
  for (let i = 0; i < 8; i++) {
    let deepest = -TOUCHING;
    let nx = 0;
    let ny = 0;
    const count = findAround(world, field, at.x, at.y, 0);
    for (let k = 0; k < count; k++) {
      const o = field.obstacles[field.found[k]!]!;
      const solid = world.course.solids[o.solid]!;
      if (solid.oneWay) continue;
      nearness(o, at.x - offsetX(world, solid), at.y - offsetY(world, solid), near);
      if (near.distance < deepest) {
        deepest = near.distance;
        nx = near.nx;
        ny = near.ny;
      }
    }
    if (deepest === -TOUCHING) return;
    at.x -= deepest * nx;
    at.y -= deepest * ny;
  }
}

/** Everything the body touches, within the skin: fixed solids, one-way platforms, movers, each in file order. */
export function contactsAt(world: World, stance: number, x: number, y: number): Contacts {
  const c = world.contacts;
  const version = versionAt(world, stance, x, y);
  if (c.x === x && c.y === y && c.stance === stance && c.version === version) return c;
  c.x = x;
  c.y = y;
  c.stance = stance;
  c.version = version;
  c.count = 0;
  c.minDistance = Infinity;
  const field = world.stances[stance]!;
  const count = findAround(world, field, x, y, SKIN);
  for (let k = 0; k < count; k++) {
    const o = field.obstacles[field.found[k]!]!;
    const solid = world.course.solids[o.solid]!;
    const px = x - offsetX(world, solid);
    const py = y - offsetY(world, solid);
    if (solid.oneWay && letsThrough(world, o, px, py)) continue;
    nearness(o, px, py, near);
    if (!solid.oneWay && near.distance < c.minDistance) c.minDistance = near.distance;
    if (near.distance > SKIN) continue;
    const i = c.count++;
    c.nx[i] = near.nx;
    c.ny[i] = near.ny;
    c.distance[i] = near.distance;
    c.solid[i] = o.solid;
  }
  return c;
}

/** The contacts as a list that stays as it is. */
export const contactList = (c: Contacts): Contact[] =>
  Array.from({ length: c.count }, (_, i) => ({
    nx: c.nx[i]!,
    ny: c.ny[i]!,
    distance: c.distance[i]!,
    solid: c.solid[i]!,
  }));

/** Puts the zones that the body is in, by index, ascending, into a list; returns how many there are. */
export function zonesAt(world: World, stance: number, x: number, y: number, into: number[]): number {
  const field = world.zones[stance]!;
  if (field.obstacles.length === 0) return 0;
  const count = findAround(world, field, x, y, 0);
  let n = 0;
  for (let k = 0; k < count; k++) {
    const o = field.obstacles[field.found[k]!]!;
    if (nearness(o, x, y, near).distance >= 0) continue;
    let i = 0;
    while (i < n && into[i]! < o.solid) i++;
    if (i < n && into[i] === o.solid) continue;
    for (let j = n++; j > i; j--) into[j] = into[j - 1]!;
    into[i] = o.solid;
  }
  return n;
}

/** What a cast meets: how far it gets, and the surface there. */
export interface CastHit {
  distance: number;
  hit: boolean;
  nx: number;
  ny: number;
  solid: number;
}

const castHit: CastHit = { distance: 0, hit: false, nx: 0, ny: 0, solid: -1 };

/**
 * How far a shape (by its index among the world's casts; 0 is a ray) gets from (x, y) in a direction before it meets a
 * solid with one of the tags (any, when undefined); `reach` when it meets none. One-way platforms are met from any side.
 */
export function castShape(
  world: World,
  cast: number,
  tags: readonly string[] | undefined,
  x: number,
  y: number,
  directionX: number,
  directionY: number,
  reach: number,
): CastHit {
  const touch = reset(touched, 1);
  const field = world.casts[cast]!;
  const count = findAlong(world, field, x, y, directionX * reach, directionY * reach);
  for (let k = 0; k < count; k++) {
    const o = field.obstacles[field.found[k]!]!;
    const solid = world.course.solids[o.solid]!;
    if (tags !== undefined && !tags.includes(solid.tag)) continue;
    const px = x - offsetX(world, solid);
    const py = y - offsetY(world, solid);
    if (nearness(o, px, py, near).distance < 0) {
      touch.t = 0;
      touch.nx = near.nx;
      touch.ny = near.ny;
      touch.obstacle = o;
    } else sweepPoint(o, px, py, directionX * reach, directionY * reach, touch);
  }
  castHit.distance = touch.t * reach;
  castHit.hit = touch.obstacle !== undefined;
  castHit.nx = touch.nx;
  castHit.ny = touch.ny;
  castHit.solid = touch.obstacle === undefined ? -1 : touch.obstacle.solid;
  return castHit;
}

/** Whether the body still touches, or is within the skin above, a solid: until then it drops through a platform. */
export function isTouching(
  world: World,
  stance: number,
  feet: { x: number; y: number },
  solid: number,
): boolean {
  const field = world.stances[stance]!;
  const count = findAround(world, field, feet.x, feet.y, SKIN);
  for (let k = 0; k < count; k++) {
    const o = field.obstacles[field.found[k]!]!;
    if (o.solid === solid && Math.abs(nearness(o, feet.x, feet.y, near).distance) <= SKIN) return true;
  }
  return false;
}
