import { SKIN } from '../tolerances.js';
import type { CastHit, Touch } from './geometry.js';
import { nearness, sweepPoint } from './obstacle.js';
import { find } from './spatial-grid.js';
import type { Contacts, World } from './world.js';

/** First touch of a body with its feet at (x, y) moving by (dx, dy); `t` is 1 when it goes all the way. */
export const sweep = (
  world: World,
  stance: number,
  x: number,
  y: number,
  dx: number,
  dy: number,
  except = -1,
): Touch => world.geometry.sweep(stance, x, y, dx, dy, except);

/** Whether a stance has room with its feet at (x, y). Overlap within the skin is allowed. */
export const fits = (world: World, stance: number, x: number, y: number): boolean =>
  world.geometry.fits(stance, x, y);

/** Everything the body touches, within the skin: fixed solids, one-way platforms, movers, each in file order. */
export const contactsAt = (world: World, stance: number, x: number, y: number): Contacts =>
  world.geometry.contactsAt(stance, x, y);

/** Puts the zones that the body is in, by index, ascending, into a list; returns how many there are. */
export const zonesAt = (world: World, stance: number, x: number, y: number, into: number[]): number =>
  world.zones[stance]!.obstacles.length === 0 ? 0 : world.geometry.zonesAt(stance, x, y, into);

/**
 * How far a shape (by its index among the world's casts; 0 is a ray) gets from (x, y) in a direction before it meets a
 * solid with one of the tags (any, when undefined); `reach` when it meets none. One-way platforms are met from any side.
 */
export const castShape = (
  world: World,
  cast: number,
  tags: readonly string[] | undefined,
  x: number,
  y: number,
  directionX: number,
  directionY: number,
  reach: number,
): CastHit => world.geometry.castShape(cast, tags, x, y, directionX, directionY, reach);

/** Whether the body still touches, or is within the skin above, a solid: until then it drops through a platform. */
export const isTouching = (
  world: World,
  stance: number,
  feet: { x: number; y: number },
  solid: number,
): boolean => world.geometry.isTouching(stance, feet.x, feet.y, solid);

const near = { distance: 0, nx: 0, ny: 0 };
const touched: Touch = { t: 1, nx: 0, ny: 0, solid: -1 };

/** How far the feet would have to sink for a stance to have room above: what is missing of the headroom (metres). */
export function missingRoom(world: World, stance: number, x: number, y: number): number {
  let missing = 0;
  const field = world.stances[stance]!;
  const count = find(field, world.offsets, x, y, x, y);
  for (let k = 0; k < count; k++) {
    const o = field.obstacles[field.found[k]!]!;
    const solid = world.course.solids[o.solid]!;
    if (solid.oneWay) continue;
    const px = x - (solid.mover < 0 ? 0 : world.offsets[2 * solid.mover]!);
    const py = y - (solid.mover < 0 ? 0 : world.offsets[2 * solid.mover + 1]!);
    if (nearness(o, px, py, near).distance >= -SKIN) continue;
    // The underside above the feet is what a point coming up from below the obstacle first meets.
    const from = o.minY - 1;
    touched.t = 1;
    touched.solid = -1;
    sweepPoint(o, px, from, 0, py - from, touched);
    missing = Math.max(missing, (1 - touched.t) * (py - from));
  }
  return missing;
}
