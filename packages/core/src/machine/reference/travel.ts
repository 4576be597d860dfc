import { UNTURNED } from '../../tolerances.js';
import type { Footing } from '../../world/index.js';
import type { Velocity } from './motion.js';

/**
 * The velocity that a body has after it moved by another than the rules gave it: `given` is what they gave, `travel` what
 * it moved by, and `left` what the surfaces that it met left of that. What was given beyond `travel` is added, but for
 * what of it points into those surfaces or others that it touches; on the ground it is added along it.
 */
export function afterTravel(
  given: Velocity,
  travel: Velocity,
  left: Velocity,
  { contacts, ground }: Pick<Footing, 'contacts' | 'ground'>,
): Velocity {
  let more = { x: given.vx - travel.vx, y: given.vy - travel.vy };
  let isStopped = false;
  const stop = (nx: number, ny: number): void => {
    const into = more.x * nx + more.y * ny;
    if (into >= 0) return;
    more = { x: more.x - into * nx, y: more.y - into * ny };
    isStopped = true;
  };
  const [turnedX, turnedY] = [left.vx - travel.vx, left.vy - travel.vy];
  const turned = Math.sqrt(turnedX * turnedX + turnedY * turnedY);
  const isTurned = turned > UNTURNED;
  // What was met points the way in which it turned the body.
  if (isTurned) stop(turnedX / turned, turnedY / turned);
  for (const { nx, ny } of contacts) stop(nx, ny);
  if (!isTurned && !isStopped) return given;
  if (ground !== undefined) {
    const along = more.x * ground.ny - more.y * ground.nx;
    more = { x: along * ground.ny, y: 0 - along * ground.nx };
  }
  return { vx: left.vx + more.x, vy: left.vy + more.y };
}
