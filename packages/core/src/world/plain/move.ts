import { GRID, LEAVING, NEAR_GRID, REST, SKIN, TOUCHING } from '../../tolerances.js';
import { ANY_EDGE, type GroundRule, type Moving, type Sorted } from '../move.js';
import { castShape, contactsAt, separate, sweep, type Plain } from './queries.js';

/** sin 10°, the cosine of 80°: surfaces between walkable and this are steep, then walls up to as far overhanging. */
const WALL = 0.17364817766693033;
const SLIDES = 4;

const sorted: Sorted = { ground: -1, steep: -1, wall: 0, ceiling: false };

/** Sorts what the body touches; seen from above there are only walls. The answer is used again by the next call. */
export function sortContacts(
  world: Plain,
  stance: number,
  body: Moving,
  walkable: number,
  above: boolean,
): Sorted {
  const { count, nx, ny } = contactsAt(world, stance, body.x, body.y);
  sorted.ground = -1;
  sorted.steep = -1;
  sorted.wall = 0;
  sorted.ceiling = false;
  for (let i = 0; i < count; i++) {
    const y = ny[i]!;
    if (above) {
      if (Math.abs(nx[i]!) > WALL) sorted.wall = nx[i]! < 0 ? 1 : -1;
    } else if (y >= walkable) {
      const leaving = body.vx * nx[i]! + body.vy * y > LEAVING;
      if (!leaving && (sorted.ground < 0 || y > ny[sorted.ground]!)) sorted.ground = i;
    } else if (y >= WALL) {
      if (sorted.steep < 0 || y > ny[sorted.steep]!) sorted.steep = i;
    } else if (y >= -WALL) sorted.wall = nx[i]! < 0 ? 1 : -1;
    else sorted.ceiling = true;
  }
  return sorted;
}

/**
 * Moves a body for a time, `dt` seconds, in place. On ground it follows the surface and keeps its speed along it, and
 * snaps back down when the surface falls away by no more than `snap`; aloft it slides along what it hits.
 */
export function moveBody(
  world: Plain,
  stance: number,
  body: Moving,
  ground: { nx: number; ny: number } | undefined,
  rule: GroundRule,
  dt: number,
): void {
  separate(world, stance, body);
  const follows = ground !== undefined && body.vx * ground.nx + body.vy * ground.ny <= LEAVING;
  if (follows) follow(world, stance, body, ground, rule, dt);
  else slide(world, stance, body, rule, dt);
  settle(world, stance, body);
}

/** Moves a body seen from above: no ground, it slides along whatever it hits. */
export function slideBody(world: Plain, stance: number, body: Moving, dt: number): void {
  separate(world, stance, body);
  slide(world, stance, body, undefined, dt);
  settle(world, stance, body);
}

/** Takes away what rounding has left: of a speed that was stopped, and of the place where a body rests on something. */
function settle(world: Plain, stance: number, body: Moving): void {
  if (body.vx < REST && body.vx > -REST) body.vx = 0;
  if (body.vy < REST && body.vy > -REST) body.vy = 0;
  const x = body.vx === 0 ? onGrid(body.x) : body.x;
  const y = body.vy === 0 ? onGrid(body.y) : body.y;
  if ((x === body.x && y === body.y) || contactsAt(world, stance, body.x, body.y).count === 0) return;
  body.x = x;
  body.y = y;
}

/** A place on the grid when it is within rounding of it. */
function onGrid(place: number): number {
  const scaled = place * GRID;
  const whole = Math.round(scaled);
  // A division is expensive, and most places are on the grid already.
  if (scaled === whole) return place;
  const near = whole / GRID;
  return Math.abs(near - place) < NEAR_GRID ? near : place;
}

function follow(
  world: Plain,
  stance: number,
  body: Moving,
  ground: { nx: number; ny: number },
  rule: GroundRule,
  dt: number,
): void {
  let nx = ground.nx;
  let ny = ground.ny;
  // The surface's tangent points right: (ny, −nx).
  let speed = body.vx * ny - body.vy * nx;
  let left = Math.abs(speed) * dt;
  const way = speed < 0 ? -1 : 1;
  const edges = rule.turn > ANY_EDGE;
  if (edges) putUnder(world, body, way, rule.snap, before);
  for (let i = 0; i < SLIDES && left > 0; i++) {
    const dx = way * ny * left;
    const dy = way * -nx * left;
    const touch = sweep(world, stance, body.x, body.y, dx, dy);
    body.x += touch.t * dx;
    body.y += touch.t * dy;
    left *= 1 - touch.t;
    if (touch.solid < 0) break;
    if (touch.ny >= rule.walkable) {
      nx = touch.nx;
      ny = touch.ny;
    } else if (rule.step > 0 && stepUp(world, stance, body, way, left, rule)) {
      left = step.left;
      nx = step.nx;
      ny = step.ny;
    } else {
      speed = 0;
      left = 0;
    }
  }
  if (edges && isBeyondEdge(world, body, way, rule, before)) {
    body.vx = speed * ground.ny;
    body.vy = 0 - speed * ground.nx;
    return;
  }
  const flattest = flattestUnder(world, stance, body, rule, nx);
  if (flattest >= 0) {
    nx = world.contacts.nx[flattest]!;
    ny = world.contacts.ny[flattest]!;
  } else if (flattest === NOTHING) {
    const moved = Math.abs(speed) * dt * ny;
    const steepest = -Math.sqrt(1 - rule.walkable * rule.walkable) / rule.walkable;
    const reach = rule.snap + fallAway(-nx / ny, steepest * way, way) * moved;
    const touch = sweep(world, stance, body.x, body.y, 0, -reach);
    if (touch.solid >= 0 && touch.ny >= rule.walkable) {
      // What the ground fell away over this tick's way is followed whatever the speed; a ledge only so far.
      const max = rule.snap + fallAway(-nx / ny, -touch.nx / touch.ny, way) * moved + TOUCHING;
      if (touch.t * reach <= max) {
        body.y -= touch.t * reach;
        nx = touch.nx;
        ny = touch.ny;
      }
    }
  }
  body.vx = speed * ny;
  body.vy = speed === 0 ? 0 : speed * -nx;
}

/** How far below the feet of a round body the ground of a steep slope may be (m). */
const BELOW = 1;

const before = { nx: 0, ny: 0 };
const after = { nx: 0, ny: 0 };

/** The surface straight below the middle of the feet: a round foot touches an edge before and after its middle is there. */
function putUnder(
  world: Plain,
  { x, y }: Moving,
  way: 1 | -1,
  snap: number,
  into: { nx: number; ny: number },
): void {
  const cast = (at: number) => castShape(world, 0, undefined, at, y + SKIN, 0, -1, BELOW + snap);
  // Straight above a seam a ray only grazes both sides: there, what the feet come from counts.
  let hit = cast(x);
  if (!hit.hit) hit = cast(x - 3 * SKIN * way);
  into.nx = hit.hit ? hit.nx : 0;
  into.ny = hit.hit ? hit.ny : 0;
}

/** Whether the middle of the feet has passed an edge, down from the way it went, that is sharper than the rule allows. */
function isBeyondEdge(
  world: Plain,
  body: Moving,
  way: 1 | -1,
  rule: GroundRule,
  from: { nx: number; ny: number },
): boolean {
  putUnder(world, body, way, rule.snap, after);
  if (from.ny < rule.walkable || after.ny < rule.walkable) return false;
  const falls = fallAway(-from.nx / from.ny, -after.nx / after.ny, way) > TOUCHING;
  return falls && from.nx * after.nx + from.ny * after.ny < rule.turn;
}

/** How far ground of another rise (per metre to the right) falls away from the old one, per metre that was moved. */
const fallAway = (from: number, to: number, way: 1 | -1): number => Math.max(0, way * (from - to));

const NOTHING = -1;
const SAME = -2;

/**
 * The flattest walkable contact underfoot by its place among the world's contacts; `NOTHING` when there is none;
 * `SAME` when the surface being followed is among them: touching two at once, as at the foot of a slope, keeps to it.
 */
function flattestUnder(
  world: Plain,
  stance: number,
  body: Moving,
  rule: GroundRule,
  followed: number,
): number {
  const { count, nx, ny } = contactsAt(world, stance, body.x, body.y);
  let flattest = NOTHING;
  for (let i = 0; i < count; i++) {
    if (ny[i]! < rule.walkable) continue;
    if (Math.abs(nx[i]! - followed) < TOUCHING) return SAME;
    if (flattest < 0 || ny[i]! > ny[flattest]!) flattest = i;
  }
  return flattest;
}

/** After a step up: what is left of the way, and the surface stood on. */
const step = { left: 0, nx: 0, ny: 0 };

/** Up by a step, on by what is left of the way, and down again, if the feet then stand on walkable ground. */
function stepUp(
  world: Plain,
  stance: number,
  body: Moving,
  way: number,
  left: number,
  rule: GroundRule,
): boolean {
  const { x, y } = body;
  const rise = sweep(world, stance, x, y, 0, rule.step).t * rule.step;
  const run = sweep(world, stance, x, y + rise, way * left, 0).t * left;
  if (run <= TOUCHING) return false;
  const down = sweep(world, stance, x + way * run, y + rise, 0, -rise - rule.snap);
  if (down.solid < 0 || down.ny < rule.walkable) return false;
  body.x = x + way * run;
  body.y = y + rise - down.t * (rise + rule.snap);
  step.left = left - run;
  step.nx = down.nx;
  step.ny = down.ny;
  return true;
}

function slide(world: Plain, stance: number, body: Moving, rule: GroundRule | undefined, dt: number): void {
  let left = dt;
  let lastX = 0;
  let lastY = 0;
  for (let i = 0; i < SLIDES && left > 0; i++) {
    const { vx, vy } = body;
    const touch = sweep(world, stance, body.x, body.y, vx * left, vy * left);
    body.x += touch.t * vx * left;
    body.y += touch.t * vy * left;
    left *= 1 - touch.t;
    if (touch.solid < 0) break;
    const into = vx * touch.nx + vy * touch.ny;
    let nextX = vx - into * touch.nx;
    let nextY = vy - into * touch.ny;
    // A steep surface cannot be climbed: what would slide up it faster than it rose before is stopped as by a wall.
    if (rule !== undefined && touch.ny > 0 && touch.ny < rule.walkable && nextY > Math.max(vy, 0)) {
      nextX = 0;
      nextY = vy;
    }
    const wedged = i > 0 && nextX * lastX + nextY * lastY < -TOUCHING;
    body.vx = wedged ? 0 : nextX;
    body.vy = wedged ? 0 : nextY;
    lastX = touch.nx;
    lastY = touch.ny;
  }
}
