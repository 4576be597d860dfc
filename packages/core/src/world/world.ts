import { type Course, moverAt, type Solid } from './course.js';
import {
  type Nearness,
  nearness,
  type Obstacle,
  obstacleOf,
  SKIN,
  sweepPoint,
  type Touch,
  TOUCHING,
} from './obstacle.js';
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

/** A course as one body meets it: for each stance, the obstacles in the coordinates of its feet. */
export interface World {
  course: Course;
  stances: Obstacle[][];
  /** The zones as each stance meets them. */
  zones: Obstacle[][];
  /** The solids as each shape meets them that is cast: first a single point, for rays. */
  casts: Obstacle[][];
  /** Where each mover is now, as an offset from where it begins; `placeMovers` sets it. */
  offsets: { x: number; y: number }[];
  /** One-way platforms that the body is dropping through. */
  dropped: ReadonlySet<number>;
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
  const world: World = {
    course,
    stances: stances.map((stance) => against(course.solids, stance.parts.map(coreOf))),
    zones: stances.map((stance) => against(course.zones, stance.parts.map(coreOf))),
    casts: [POINT, ...casts].map((core) => against(course.solids, [core])),
    offsets: course.movers.map(() => ({ x: 0, y: 0 })),
    dropped: new Set(),
  };
  placeMovers(world, 0);
  return world;
}

/** Puts every mover where it is at a time (seconds). */
export function placeMovers(world: World, seconds: number): void {
  world.course.movers.forEach((mover, i) => (world.offsets[i] = moverAt(mover, seconds)));
}

const near: Nearness = { distance: 0, nx: 0, ny: 0 };

/** A surface that leans less than this from level can be come down upon (sin 10°): for one-way platforms. */
const UPWARD = 0.17364817766693033;

const isFar = (o: Obstacle, x: number, y: number, margin: number): boolean =>
  x < o.minX - margin || x > o.maxX + margin || y < o.minY - margin || y > o.maxY + margin;

/** Calls `see` for the obstacles of a list, each with the offset of the mover that it may be. */
function forEachObstacle(
  world: World,
  list: readonly Obstacle[],
  see: (o: Obstacle, solid: Solid, ox: number, oy: number) => void,
): void {
  for (const o of list) {
    const solid = world.course.solids[o.solid]!;
    const offset = solid.mover < 0 ? undefined : world.offsets[solid.mover]!;
    see(o, solid, offset?.x ?? 0, offset?.y ?? 0);
  }
}

/** Whether a one-way platform is none just now: it is being dropped through, or the body is in it or not above it. */
function letsThrough(world: World, o: Obstacle, x: number, y: number): boolean {
  if (world.dropped.has(o.solid)) return true;
  nearness(o, x, y, near);
  return near.distance < -SKIN || (near.distance <= SKIN && near.ny < UPWARD);
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
  const touch: Touch = { t: 1, nx: 0, ny: 0, obstacle: undefined };
  forEachObstacle(world, world.stances[stance]!, (o, solid, ox, oy) => {
    if (o.solid === except) return;
    if (!solid.oneWay) return sweepPoint(o, x - ox, y - oy, dx, dy, touch);
    if (letsThrough(world, o, x - ox, y - oy)) return;
    const own: Touch = { t: touch.t, nx: 0, ny: 0, obstacle: undefined };
    sweepPoint(o, x - ox, y - oy, dx, dy, own);
    if (own.obstacle !== undefined && own.ny >= UPWARD) Object.assign(touch, own);
  });
  return touch;
}

/** Whether a stance has room with its feet at (x, y). Overlap within the skin is allowed. */
export function fits(world: World, stance: number, x: number, y: number): boolean {
  let free = true;
  forEachObstacle(world, world.stances[stance]!, (o, solid, ox, oy) => {
    if (!free || solid.oneWay || isFar(o, x - ox, y - oy, 0)) return;
    free = nearness(o, x - ox, y - oy, near).distance >= -SKIN;
  });
  return free;
}

/** How far the feet would have to sink for a stance to have room above: what is missing of the headroom (metres). */
export function missingRoom(world: World, stance: number, x: number, y: number): number {
  let missing = 0;
  forEachObstacle(world, world.stances[stance]!, (o, solid, ox, oy) => {
    const [px, py] = [x - ox, y - oy];
    if (solid.oneWay || isFar(o, px, py, 0) || nearness(o, px, py, near).distance >= -SKIN) return;
    // Straight down until out of the obstacle, by halving: it is convex, so there is one way out.
    let [low, high] = [0, py - o.minY + 1];
    for (let i = 0; i < 40; i++) {
      const middle = (low + high) / 2;
      if (nearness(o, px, py - middle, near).distance < 0) low = middle;
      else high = middle;
    }
    missing = Math.max(missing, high);
  });
  return missing;
}

/** Moves an overlapping body out along the least direction, deepest obstacle first. Returns where the feet end. */
export function separate(world: World, stance: number, x: number, y: number): { x: number; y: number } {
  for (let i = 0; i < 8; i++) {
    let deepest = -TOUCHING;
    let nx = 0;
    let ny = 0;
    forEachObstacle(world, world.stances[stance]!, (o, solid, ox, oy) => {
      if (solid.oneWay || isFar(o, x - ox, y - oy, 0)) return;
      nearness(o, x - ox, y - oy, near);
      if (near.distance < deepest) [deepest, nx, ny] = [near.distance, near.nx, near.ny];
    });
    if (deepest === -TOUCHING) break;
    x -= deepest * nx;
    y -= deepest * ny;
  }
  return { x, y };
}

/** Everything the body touches, within the skin: fixed solids, one-way platforms, movers, each in file order. */
export function contactsAt(world: World, stance: number, x: number, y: number): Contact[] {
  const contacts: Contact[] = [];
  forEachObstacle(world, world.stances[stance]!, (o, solid, ox, oy) => {
    if (isFar(o, x - ox, y - oy, SKIN)) return;
    if (solid.oneWay && letsThrough(world, o, x - ox, y - oy)) return;
    nearness(o, x - ox, y - oy, near);
    if (near.distance <= SKIN)
      contacts.push({ nx: near.nx, ny: near.ny, distance: near.distance, solid: o.solid });
  });
  return contacts;
}

/** The zones that the body is in, by index. */
export function zonesAt(world: World, stance: number, x: number, y: number): number[] {
  const inside = world.zones[stance]!.filter(
    (o) => !isFar(o, x, y, 0) && nearness(o, x, y, near).distance < 0,
  ).map((o) => o.solid);
  return [...new Set(inside)].sort((a, b) => a - b);
}

/** What a cast meets: how far it gets, and the surface there. */
export interface CastHit {
  distance: number;
  hit: boolean;
  nx: number;
  ny: number;
  solid: number;
}

/**
 * How far a shape (by its index among the world's casts; 0 is a ray) gets in a direction before it meets a solid with
 * one of the tags (any, when undefined); `reach` when it meets none. One-way platforms are met from any side.
 */
export function castShape(
  world: World,
  cast: number,
  tags: readonly string[] | undefined,
  from: { x: number; y: number },
  direction: { x: number; y: number },
  reach: number,
): CastHit {
  const touch: Touch = { t: 1, nx: 0, ny: 0, obstacle: undefined };
  forEachObstacle(world, world.casts[cast]!, (o, solid, ox, oy) => {
    if (tags !== undefined && !tags.includes(solid.tag)) return;
    const [x, y] = [from.x - ox, from.y - oy];
    if (!isFar(o, x, y, 0) && nearness(o, x, y, near).distance < 0)
      Object.assign(touch, { t: 0, nx: near.nx, ny: near.ny, obstacle: o });
    else sweepPoint(o, x, y, direction.x * reach, direction.y * reach, touch);
  });
  return {
    distance: touch.t * reach,
    hit: touch.obstacle !== undefined,
    nx: touch.nx,
    ny: touch.ny,
    solid: touch.obstacle?.solid ?? -1,
  };
}

/** Whether the body still touches, or is within the skin above, a solid: until then it drops through a platform. */
export function isTouching(
  world: World,
  stance: number,
  feet: { x: number; y: number },
  solid: number,
): boolean {
  return world.stances[stance]!.some(
    (o) => o.solid === solid && Math.abs(nearness(o, feet.x, feet.y, near).distance) <= SKIN,
  );
}
