import { TOUCHING } from '../tolerances.js';
import { sweepPoint, type Touch } from './obstacle.js';
import { isNearMover, placeMovers, separate, sweep, type World } from './world.js';

const against: Touch = { t: 1, nx: 0, ny: 0, obstacle: undefined };
let before = new Float64Array(0);

/**
 * Moves every mover on to a time (seconds) and the feet with them: whoever stands on one is carried, whoever is in its
 * way is pushed, both no further than the rest of the course lets them. `on` is the solid stood on, −1 for none.
 */
export function carryBody(
  world: World,
  stance: number,
  feet: { x: number; y: number },
  on: number,
  seconds: number,
): void {
  const { offsets } = world;
  if (offsets.length === 0) return;
  if (before.length < offsets.length) before = new Float64Array(offsets.length);
  for (let i = 0; i < offsets.length; i++) before[i] = offsets[i]!;
  placeMovers(world, seconds);
  const under = on < 0 ? -1 : world.course.solids[on]!.mover;
  if (under < 0 && !isNearMover(world, stance, feet.x, feet.y)) return;
  if (under >= 0) {
    const dx = offsets[2 * under]! - before[2 * under]!;
    const dy = offsets[2 * under + 1]! - before[2 * under + 1]!;
    const { t } = sweep(world, stance, feet.x, feet.y, dx, dy, on);
    feet.x += t * dx;
    feet.y += t * dy;
  }
  const { obstacles, movers, always } = world.stances[stance]!;
  for (let k = 0; k < always.length; k++) {
    const i = always[k]!;
    const mover = movers[i]!;
    if (mover < 0 || mover === under) continue;
    const dx = offsets[2 * mover]! - before[2 * mover]!;
    const dy = offsets[2 * mover + 1]! - before[2 * mover + 1]!;
    // Seen from the mover, the body moves against it: what is left of the way after the touch is the push.
    const o = obstacles[i]!;
    const x = feet.x - before[2 * mover]!;
    const y = feet.y - before[2 * mover + 1]!;
    if (x + Math.abs(dx) < o.minX - TOUCHING || x - Math.abs(dx) > o.maxX + TOUCHING) continue;
    if (y + Math.abs(dy) < o.minY - TOUCHING || y - Math.abs(dy) > o.maxY + TOUCHING) continue;
    against.t = 1;
    against.obstacle = undefined;
    sweepPoint(o, x, y, -dx, -dy, against);
    if (against.obstacle === undefined) continue;
    const push = (1 - against.t) * (dx * against.nx + dy * against.ny);
    const pushX = push * against.nx;
    const pushY = push * against.ny;
    const { t } = sweep(world, stance, feet.x, feet.y, pushX, pushY, o.solid);
    feet.x += t * pushX;
    feet.y += t * pushY;
  }
  separate(world, stance, feet);
}
