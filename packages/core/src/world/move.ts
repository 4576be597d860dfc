import { TOUCHING } from './obstacle.js';
import { type Contact, contactsAt, separate, sweep, type World } from './world.js';

/** Where a body is and how it moves; feet in metres, velocity in metres a second. */
export interface Moving {
  x: number;
  y: number;
  vx: number;
  vy: number;
}

/** What counts as ground, and how the body keeps to it. `walkable` is the cosine of the steepest walkable angle. */
export interface GroundRule {
  walkable: number;
  snap: number;
  /** How high a step the feet climb (m). */
  step: number;
}

/** The touched surfaces, sorted by what they are to the body. */
export interface Footing {
  contacts: Contact[];
  /** The flattest walkable surface, unless the body is leaving it. */
  ground: Contact | undefined;
  steep: Contact | undefined;
  /** −1 a wall to the left, 1 to the right, 0 none. */
  wall: -1 | 0 | 1;
  ceiling: boolean;
}

/** sin 10°, the cosine of 80°: surfaces between walkable and this are steep, then walls up to as far overhanging. */
const WALL = 0.17364817766693033;
/** A velocity away from a surface by more than this is leaving it (m/s). */
const LEAVING = 1e-6;
const SLIDES = 4;

/** Sorts what the body touches; seen from above there are only walls. */
export function footingAt(
  world: World,
  stance: number,
  body: Moving,
  rule: Pick<GroundRule, 'walkable'>,
  above = false,
): Footing {
  const contacts = contactsAt(world, stance, body.x, body.y);
  const footing: Footing = { contacts, ground: undefined, steep: undefined, wall: 0, ceiling: false };
  for (const c of contacts) {
    if (above) {
      if (Math.abs(c.nx) > WALL) footing.wall = c.nx < 0 ? 1 : -1;
    } else if (c.ny >= rule.walkable) {
      const leaving = body.vx * c.nx + body.vy * c.ny > LEAVING;
      if (!leaving && (footing.ground === undefined || c.ny > footing.ground.ny)) footing.ground = c;
    } else if (c.ny >= WALL) {
      if (footing.steep === undefined || c.ny > footing.steep.ny) footing.steep = c;
    } else if (c.ny >= -WALL) footing.wall = c.nx < 0 ? 1 : -1;
    else footing.ceiling = true;
  }
  return footing;
}

/**
 * Moves a body for a time, `dt` seconds. On ground it follows the surface and keeps its speed along it, and snaps
 * back down when the surface falls away by no more than `snap`; aloft it slides along what it hits.
 */
export function moveBody(
  world: World,
  stance: number,
  body: Moving,
  ground: Contact | undefined,
  rule: GroundRule,
  dt: number,
): Moving {
  const free = separate(world, stance, body.x, body.y);
  const start = { ...body, ...free };
  const follows = ground !== undefined && body.vx * ground.nx + body.vy * ground.ny <= LEAVING;
  return follows ? follow(world, stance, start, ground, rule, dt) : slide(world, stance, start, rule, dt);
}

/** Moves a body seen from above: no ground, it slides along whatever it hits. */
export function slideBody(world: World, stance: number, body: Moving, dt: number): Moving {
  const free = separate(world, stance, body.x, body.y);
  return slide(world, stance, { ...body, ...free }, undefined, dt);
}

function follow(
  world: World,
  stance: number,
  body: Moving,
  ground: { nx: number; ny: number },
  rule: GroundRule,
  dt: number,
): Moving {
  let { x, y } = body;
  let { nx, ny } = ground;
  // The surface's tangent points right: (ny, −nx).
  let speed = body.vx * ny - body.vy * nx;
  let left = Math.abs(speed) * dt;
  const way = speed < 0 ? -1 : 1;
  for (let i = 0; i < SLIDES && left > 0; i++) {
    const dx = way * ny * left;
    const dy = way * -nx * left;
    const touch = sweep(world, stance, x, y, dx, dy);
    x += touch.t * dx;
    y += touch.t * dy;
    left *= 1 - touch.t;
    if (touch.obstacle === undefined) break;
    if (touch.ny < rule.walkable) {
      const up = rule.step > 0 ? stepUp(world, stance, x, y, way, left, rule) : undefined;
      if (up === undefined) {
        speed = 0;
        left = 0;
      } else ({ x, y, left, nx, ny } = up);
    } else ({ nx, ny } = touch);
  }
  const below = contactsAt(world, stance, x, y).filter((c) => c.ny >= rule.walkable);
  if (below.length > 0) {
    const flattest = below.reduce((a, b) => (b.ny > a.ny ? b : a));
    // Touching two surfaces at once, as at the foot of a slope: keep to the one being followed.
    if (!below.some((c) => Math.abs(c.nx - nx) < TOUCHING)) ({ nx, ny } = flattest);
  } else if (rule.snap > 0) {
    const touch = sweep(world, stance, x, y, 0, -rule.snap);
    if (touch.obstacle !== undefined && touch.ny >= rule.walkable) {
      y -= touch.t * rule.snap;
      ({ nx, ny } = touch);
    }
  }
  return { x, y, vx: speed * ny, vy: speed === 0 ? 0 : speed * -nx };
}

/** Up by a step, on by what is left of the way, and down again: where the feet then stand, if on walkable ground. */
function stepUp(
  world: World,
  stance: number,
  x: number,
  y: number,
  way: number,
  left: number,
  rule: GroundRule,
): { x: number; y: number; left: number; nx: number; ny: number } | undefined {
  const rise = sweep(world, stance, x, y, 0, rule.step).t * rule.step;
  const ahead = sweep(world, stance, x, y + rise, way * left, 0);
  const run = ahead.t * left;
  if (run <= TOUCHING) return undefined;
  const down = sweep(world, stance, x + way * run, y + rise, 0, -rise - rule.snap);
  if (down.obstacle === undefined || down.ny < rule.walkable) return undefined;
  return {
    x: x + way * run,
    y: y + rise - down.t * (rise + rule.snap),
    left: left - run,
    nx: down.nx,
    ny: down.ny,
  };
}

function slide(world: World, stance: number, body: Moving, rule: GroundRule | undefined, dt: number): Moving {
  let { x, y, vx, vy } = body;
  let left = dt;
  let lastX = 0;
  let lastY = 0;
  for (let i = 0; i < SLIDES && left > 0; i++) {
    const touch = sweep(world, stance, x, y, vx * left, vy * left);
    x += touch.t * vx * left;
    y += touch.t * vy * left;
    left *= 1 - touch.t;
    if (touch.obstacle === undefined) break;
    const into = vx * touch.nx + vy * touch.ny;
    let nextX = vx - into * touch.nx;
    let nextY = vy - into * touch.ny;
    // A steep surface cannot be climbed: what would slide up it faster than it rose before is stopped as by a wall.
    if (rule !== undefined && touch.ny > 0 && touch.ny < rule.walkable && nextY > Math.max(vy, 0)) {
      nextX = 0;
      nextY = vy;
    }
    const wedged = i > 0 && nextX * lastX + nextY * lastY < -TOUCHING;
    [vx, vy] = wedged ? [0, 0] : [nextX, nextY];
    [lastX, lastY] = [touch.nx, touch.ny];
  }
  return { x, y, vx, vy };
}
