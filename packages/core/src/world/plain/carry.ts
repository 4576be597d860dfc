import { TOUCHING } from '../../tolerances.js';
import type { Touch } from '../geometry.js';
import { sweepPoint } from '../obstacle.js';
import { isNearMover } from '../world.js';
import { type Plain, separate, sweep } from './queries.js';

const against: Touch = { t: 1, nx: 0, ny: 0, solid: -1 };

/** The body goes with the movers, as `carryBody` says; they have moved from where they were before. */
export function carry(world: Plain, stance: number, feet: { x: number; y: number }, on: number): void {
  const { offsets, before } = world;
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
    against.solid = -1;
    sweepPoint(o, x, y, -dx, -dy, against);
    if (against.solid < 0) continue;
    const push = (1 - against.t) * (dx * against.nx + dy * against.ny);
    const pushX = push * against.nx;
    const pushY = push * against.ny;
    const { t } = sweep(world, stance, feet.x, feet.y, pushX, pushY, o.solid);
    feet.x += t * pushX;
    feet.y += t * pushY;
  }
  separate(world, stance, feet);
}
