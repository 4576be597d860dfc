import { SKIN, TOUCHING } from '../../tolerances.js';
import type { Solid } from '../course.js';
import type { CastHit, Touch } from '../geometry.js';
import { nearness, type Obstacle, sweepPoint } from '../obstacle.js';
import { type Field, find } from '../spatial-grid.js';
import { type Arrangement, type Contacts, isNearMover } from '../world.js';

/** What tells one arrangement of the world from another, as far as it matters at a place: movers far off do not. */
const versionAt = (world: Plain, stance: number, x: number, y: number): number =>
  isNearMover(world, stance, x, y) ? world.version : -1 - world.still;

/** A world as the plain geometry looks at it, with what it found last. */
export interface Plain extends Arrangement {
  contacts: PlainContacts;
}

/** Contacts, with where, in which stance and in which arrangement of the world they were looked for. */
export interface PlainContacts extends Contacts {
  nx: number[];
  ny: number[];
  distance: number[];
  solid: number[];
  x: number;
  y: number;
  stance: number;
  version: number;
}

const near = { distance: 0, nx: 0, ny: 0 };
const touched: Touch = { t: 1, nx: 0, ny: 0, solid: -1 };
const plank: Touch = { t: 1, nx: 0, ny: 0, solid: -1 };

/** A surface that leans less than this from level can be come down upon (sin 10°): for one-way platforms. */
const UPWARD = 0.17364817766693033;

/** The offset of the mover that a solid may be. */
const offsetX = (world: Plain, solid: Solid): number =>
  solid.mover < 0 ? 0 : world.offsets[2 * solid.mover]!;
const offsetY = (world: Plain, solid: Solid): number =>
  solid.mover < 0 ? 0 : world.offsets[2 * solid.mover + 1]!;

/** Whether a one-way platform is none just now: it is being dropped through, or the body is in it or not above it. */
function letsThrough(world: Plain, o: Obstacle, x: number, y: number): boolean {
  if (world.dropped.includes(o.solid)) return true;
  nearness(o, x, y, near);
  return near.distance < -SKIN || (near.distance <= SKIN && near.ny < UPWARD);
}

function reset(touch: Touch, t: number): Touch {
  touch.t = t;
  touch.nx = 0;
  touch.ny = 0;
  touch.solid = -1;
  return touch;
}

/** First touch of a body with its feet at (x, y) moving by (dx, dy); `t` is 1 when it goes all the way. */
export function sweep(
  world: Plain,
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
      if (plank.solid >= 0 && plank.ny >= UPWARD) {
        touch.t = plank.t;
        touch.nx = plank.nx;
        touch.ny = plank.ny;
        touch.solid = o.solid;
      }
    }
  }
  return touch;
}

/** Finds what a point moving by (dx, dy) may meet. */
const findAlong = (world: Plain, field: Field, x: number, y: number, dx: number, dy: number): number =>
  find(
    field,
    world.offsets,
    (dx < 0 ? x + dx : x) - TOUCHING,
    (dy < 0 ? y + dy : y) - TOUCHING,
    (dx < 0 ? x : x + dx) + TOUCHING,
    (dy < 0 ? y : y + dy) + TOUCHING,
  );

/** Finds what a point at (x, y) may be in, or near by as much as a margin. */
const findAround = (world: Plain, field: Field, x: number, y: number, margin: number): number =>
  find(field, world.offsets, x - margin, y - margin, x + margin, y + margin);

/** Whether a stance has room with its feet at (x, y). Overlap within the skin is allowed. */
export function fits(world: Plain, stance: number, x: number, y: number): boolean {
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

/** Moves overlapping feet at (`at.x`, `at.y`) out along the least direction, deepest obstacle first. */
export function separate(world: Plain, stance: number, at: { x: number; y: number }): void {
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
export function contactsAt(world: Plain, stance: number, x: number, y: number): Contacts {
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

/** Puts the zones that the body is in, by index, ascending, into a list; returns how many there are. */
export function zonesAt(world: Plain, stance: number, x: number, y: number, into: number[]): number {
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

const castHit: CastHit = { distance: 0, hit: false, nx: 0, ny: 0, solid: -1 };

/**
 * How far a shape (by its index among the world's casts; 0 is a ray) gets from (x, y) in a direction before it meets a
 * solid with one of the tags (any, when undefined); `reach` when it meets none. One-way platforms are met from any side.
 */
export function castShape(
  world: Plain,
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
      touch.solid = o.solid;
    } else sweepPoint(o, px, py, directionX * reach, directionY * reach, touch);
  }
  castHit.distance = touch.t * reach;
  castHit.hit = touch.solid >= 0;
  castHit.nx = touch.nx;
  castHit.ny = touch.ny;
  castHit.solid = touch.solid;
  return castHit;
}

/** Whether the body still touches, or is within the skin above, a solid: until then it drops through a platform. */
export function isTouching(world: Plain, stance: number, x: number, y: number, solid: number): boolean {
  const field = world.stances[stance]!;
  const count = findAround(world, field, x, y, SKIN);
  for (let k = 0; k < count; k++) {
    const o = field.obstacles[field.found[k]!]!;
    if (o.solid === solid && Math.abs(nearness(o, x, y, near).distance) <= SKIN) return true;
  }
  return false;
}
