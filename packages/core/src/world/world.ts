import type { Course } from './course.js';
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
import { coreOf, type Part } from './shape.js';

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
  /** The solids as a single point meets them, for probes. */
  points: Obstacle[];
}

export function buildWorld(course: Course, stances: readonly BodyShape[]): World {
  const against = (parts: readonly Part[]): Obstacle[] =>
    parts.flatMap((part) => course.solids.map((solid, i) => obstacleOf(solid.polygon, i, coreOf(part))));
  const point = { cx: 0, cy: 0, hx: 0, hy: 0, radius: 0 };
  return {
    course,
    stances: stances.map((stance) => against(stance.parts)),
    points: course.solids.map((solid, i) => obstacleOf(solid.polygon, i, point)),
  };
}

const near: Nearness = { distance: 0, nx: 0, ny: 0 };

const isFar = (o: Obstacle, x: number, y: number, margin: number): boolean =>
  x < o.minX - margin || x > o.maxX + margin || y < o.minY - margin || y > o.maxY + margin;

/** First touch of a body with its feet at (x, y) moving by (dx, dy); `t` is 1 when it goes all the way. */
export function sweep(world: World, stance: number, x: number, y: number, dx: number, dy: number): Touch {
  const touch: Touch = { t: 1, nx: 0, ny: 0, obstacle: undefined };
  for (const o of world.stances[stance]!) sweepPoint(o, x, y, dx, dy, touch);
  return touch;
}

/** Whether a stance has room with its feet at (x, y). Overlap within the skin is allowed. */
export function fits(world: World, stance: number, x: number, y: number): boolean {
  for (const o of world.stances[stance]!) {
    if (!isFar(o, x, y, 0) && nearness(o, x, y, near).distance < -SKIN) return false;
  }
  return true;
}

/** How far the feet would have to sink for a stance to have room above: what is missing of the headroom (metres). */
export function missingRoom(world: World, stance: number, x: number, y: number): number {
  let missing = 0;
  for (const o of world.stances[stance]!) {
    if (isFar(o, x, y, 0) || nearness(o, x, y, near).distance >= -SKIN) continue;
    // Straight down until out of the obstacle, by halving: it is convex, so there is one way out.
    let [low, high] = [0, y - o.minY + 1];
    for (let i = 0; i < 40; i++) {
      const middle = (low + high) / 2;
      if (nearness(o, x, y - middle, near).distance < 0) low = middle;
      else high = middle;
    }
    missing = Math.max(missing, high);
  }
  return missing;
}

/** Moves an overlapping body out along the least direction, deepest obstacle first. Returns where the feet end. */
export function separate(world: World, stance: number, x: number, y: number): { x: number; y: number } {
  for (let i = 0; i < 8; i++) {
    let deepest = -TOUCHING;
    let nx = 0;
    let ny = 0;
    for (const o of world.stances[stance]!) {
      if (isFar(o, x, y, 0)) continue;
      nearness(o, x, y, near);
      if (near.distance < deepest) [deepest, nx, ny] = [near.distance, near.nx, near.ny];
    }
    if (deepest === -TOUCHING) break;
    x -= deepest * nx;
    y -= deepest * ny;
  }
  return { x, y };
}

/** Everything the body touches, within the skin, in the order of the course's file. */
export function contactsAt(world: World, stance: number, x: number, y: number): Contact[] {
  const contacts: Contact[] = [];
  for (const o of world.stances[stance]!) {
    if (isFar(o, x, y, SKIN)) continue;
    nearness(o, x, y, near);
    if (near.distance <= SKIN)
      contacts.push({ nx: near.nx, ny: near.ny, distance: near.distance, solid: o.solid });
  }
  return contacts;
}

/** How far a ray gets before it meets a solid with one of the tags (any, when undefined); `reach` when it meets none. */
export function castRay(
  world: World,
  tags: readonly string[] | undefined,
  x: number,
  y: number,
  dx: number,
  dy: number,
  reach: number,
): { distance: number; hit: boolean } {
  const touch: Touch = { t: 1, nx: 0, ny: 0, obstacle: undefined };
  for (const o of world.points) {
    if (tags !== undefined && !tags.includes(world.course.solids[o.solid]!.tag)) continue;
    if (!isFar(o, x, y, 0) && nearness(o, x, y, near).distance < 0) return { distance: 0, hit: true };
    sweepPoint(o, x, y, dx * reach, dy * reach, touch);
  }
  return { distance: touch.t * reach, hit: touch.obstacle !== undefined };
}
