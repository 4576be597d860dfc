import { sweepPoint, type Touch } from './obstacle.js';
import type { Contact, World } from './world.js';
import { placeMovers, separate, sweep } from './world.js';

/**
 * Moves every mover on to a time (seconds) and the body with them: whoever stands on one is carried, whoever is in its
 * way is pushed, both no further than the rest of the course lets them. Returns where the feet end.
 */
export function carryBody(
  world: World,
  stance: number,
  feet: { x: number; y: number },
  ground: Contact | undefined,
  seconds: number,
): { x: number; y: number } {
  if (world.offsets.length === 0) return feet;
  const before = world.offsets.map((o) => ({ ...o }));
  placeMovers(world, seconds);
  const moved = world.offsets.map((o, i) => ({ x: o.x - before[i]!.x, y: o.y - before[i]!.y }));
  let { x, y } = feet;
  const under = ground === undefined ? -1 : world.course.solids[ground.solid]!.mover;
  if (under >= 0) {
    const { x: dx, y: dy } = moved[under]!;
    const touch = sweep(world, stance, x, y, dx, dy, ground!.solid);
    x += touch.t * dx;
    y += touch.t * dy;
  }
  for (const o of world.stances[stance]!) {
    const { mover } = world.course.solids[o.solid]!;
    if (mover < 0 || mover === under) continue;
    const { x: dx, y: dy } = moved[mover]!;
    const at = before[mover]!;
    // Seen from the mover, the body moves against it: what is left of the way after the touch is the push.
    const touch: Touch = { t: 1, nx: 0, ny: 0, obstacle: undefined };
    sweepPoint(o, x - at.x, y - at.y, -dx, -dy, touch);
    if (touch.obstacle === undefined) continue;
    const push = (1 - touch.t) * (dx * touch.nx + dy * touch.ny);
    const other = sweep(world, stance, x, y, push * touch.nx, push * touch.ny, o.solid);
    x += other.t * push * touch.nx;
    y += other.t * push * touch.ny;
  }
  return separate(world, stance, x, y);
}
