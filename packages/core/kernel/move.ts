import { GRID, LEAVING, NEAR_GRID, REST, SKIN, TOUCHING } from '../src/tolerances';
import { BODY, before, contactNx, contactNy, HIT, moverOf, offsets, SORTED, stances, TOUCH } from './memory';
import { alwaysAt, alwaysCount, boxSide, fieldOf, moverAt, obstacleAt } from './grid';
import { reset, solidOf, sweepPoint } from './obstacle';
import { castShape, contactsAt, isNearMover, separate, sweep } from './queries';

/** sin 10°, the cosine of 80°: surfaces between walkable and this are steep, then walls up to as far overhanging. */
const WALL: f64 = 0.17364817766693033;
const SLIDES = 4;
/** How far below the feet of a round body the ground of a steep slope may be (m). */
const BELOW: f64 = 1;
const ANY_EDGE: f64 = -1;

function bodyX(): f64 {
  return load<f64>(BODY);
}

function bodyY(): f64 {
  return load<f64>(BODY, 8);
}

function put(x: f64, y: f64): void {
  store<f64>(BODY, x);
  store<f64>(BODY, y, 8);
}

function putVelocity(vx: f64, vy: f64): void {
  store<f64>(BODY, vx, 16);
  store<f64>(BODY, vy, 24);
}

function isTouched(): bool {
  return load<f64>(TOUCH, 24) >= 0;
}

/** Sorts what the body touches; the answer is at `SORTED`. Seen from above there are only walls. */
export function sortContacts(stance: i32, walkable: f64, above: bool): void {
  const count = contactsAt(stance, bodyX(), bodyY());
  const vx = load<f64>(BODY, 16);
  const vy = load<f64>(BODY, 24);
  let ground = -1;
  let steep = -1;
  let wall = 0;
  let ceiling = 0;
  for (let i = 0; i < count; i++) {
    const at = (<usize>i) << 3;
    const nx = load<f64>(contactNx + at);
    const ny = load<f64>(contactNy + at);
    if (above) {
      if (Math.abs(nx) > WALL) wall = nx < 0 ? 1 : -1;
    } else if (ny >= walkable) {
      const leaving = vx * nx + vy * ny > LEAVING;
      if (!leaving && (ground < 0 || ny > load<f64>(contactNy + ((<usize>ground) << 3)))) ground = i;
    } else if (ny >= WALL) {
      if (steep < 0 || ny > load<f64>(contactNy + ((<usize>steep) << 3))) steep = i;
    } else if (ny >= -WALL) wall = nx < 0 ? 1 : -1;
    else ceiling = 1;
  }
  store<f64>(SORTED, <f64>ground);
  store<f64>(SORTED, <f64>steep, 8);
  store<f64>(SORTED, <f64>wall, 16);
  store<f64>(SORTED, <f64>ceiling, 24);
}

/** Moves the body for a time; with a ground (whose normal is given) along it. */
export function moveBody(
  stance: i32,
  stands: bool,
  nx: f64,
  ny: f64,
  walkable: f64,
  snap: f64,
  turn: f64,
  climb: f64,
  dt: f64,
): void {
  separate(stance);
  const leaving = load<f64>(BODY, 16) * nx + load<f64>(BODY, 24) * ny;
  if (stands && leaving <= LEAVING) follow(stance, nx, ny, walkable, snap, turn, climb, dt);
  else slide(stance, true, walkable, dt);
  settle(stance);
}

/** Moves a body seen from above: no ground, it slides along whatever it hits. */
export function slideBody(stance: i32, dt: f64): void {
  separate(stance);
  slide(stance, false, 0, dt);
  settle(stance);
}

function settle(stance: i32): void {
  let vx = load<f64>(BODY, 16);
  let vy = load<f64>(BODY, 24);
  if (vx < REST && vx > -REST) vx = 0;
  if (vy < REST && vy > -REST) vy = 0;
  putVelocity(vx, vy);
  const oldX = bodyX();
  const oldY = bodyY();
  const x = vx == 0 ? onGrid(oldX) : oldX;
  const y = vy == 0 ? onGrid(oldY) : oldY;
  if ((x == oldX && y == oldY) || contactsAt(stance, oldX, oldY) == 0) return;
  put(x, y);
}

function onGrid(place: f64): f64 {
  const scaled = place * GRID;
  const whole = Math.round(scaled);
  if (scaled == whole) return place;
  const near = whole / GRID;
  return Math.abs(near - place) < NEAR_GRID ? near : place;
}

/** How far ground of another rise falls away from the old one, per metre that was moved. */
function fallAway(from: f64, to: f64, way: f64): f64 {
  return Math.max(0, way * (from - to));
}

/** The surface straight below the middle of the feet: its normal, (0, 0) for none. */
let underNx: f64 = 0;
let underNy: f64 = 0;

function putUnder(way: f64, snap: f64): void {
  const x = bodyX();
  const y = bodyY();
  castShape(0, 0, x, y + SKIN, 0, -1, BELOW + snap);
  // Straight above a seam a ray only grazes both sides: there, what the feet come from counts.
  if (load<f64>(HIT, 24) < 0) castShape(0, 0, x - 3 * SKIN * way, y + SKIN, 0, -1, BELOW + snap);
  const hit = load<f64>(HIT, 24) >= 0;
  underNx = hit ? load<f64>(HIT, 8) : 0;
  underNy = hit ? load<f64>(HIT, 16) : 0;
}

const NOTHING = -1;
const SAME = -2;

function flattestUnder(stance: i32, walkable: f64, followed: f64): i32 {
  const count = contactsAt(stance, bodyX(), bodyY());
  let flattest = NOTHING;
  for (let i = 0; i < count; i++) {
    const ny = load<f64>(contactNy + ((<usize>i) << 3));
    if (ny < walkable) continue;
    if (Math.abs(load<f64>(contactNx + ((<usize>i) << 3)) - followed) < TOUCHING) return SAME;
    if (flattest < 0 || ny > load<f64>(contactNy + ((<usize>flattest) << 3))) flattest = i;
  }
  return flattest;
}

let stepLeft: f64 = 0;
let stepNx: f64 = 0;
let stepNy: f64 = 0;

function stepUp(stance: i32, way: f64, left: f64, walkable: f64, snap: f64, climb: f64): bool {
  const x = bodyX();
  const y = bodyY();
  const rise = sweep(stance, x, y, 0, climb, -1) * climb;
  const run = sweep(stance, x, y + rise, way * left, 0, -1) * left;
  if (run <= TOUCHING) return false;
  const down = sweep(stance, x + way * run, y + rise, 0, -rise - snap, -1);
  if (!isTouched() || load<f64>(TOUCH, 16) < walkable) return false;
  put(x + way * run, y + rise - down * (rise + snap));
  stepLeft = left - run;
  stepNx = load<f64>(TOUCH, 8);
  stepNy = load<f64>(TOUCH, 16);
  return true;
}

function follow(
  stance: i32,
  groundNx: f64,
  groundNy: f64,
  walkable: f64,
  snap: f64,
  turn: f64,
  climb: f64,
  dt: f64,
): void {
  let nx = groundNx;
  let ny = groundNy;
  let speed = load<f64>(BODY, 16) * ny - load<f64>(BODY, 24) * nx;
  let left = Math.abs(speed) * dt;
  const way: f64 = speed < 0 ? -1 : 1;
  const edges = turn > ANY_EDGE;
  let fromNx: f64 = 0;
  let fromNy: f64 = 0;
  if (edges) {
    putUnder(way, snap);
    fromNx = underNx;
    fromNy = underNy;
  }
  for (let i = 0; i < SLIDES && left > 0; i++) {
    const dx = way * ny * left;
    const dy = way * -nx * left;
    const x = bodyX();
    const y = bodyY();
    const t = sweep(stance, x, y, dx, dy, -1);
    put(x + t * dx, y + t * dy);
    left *= 1 - t;
    if (!isTouched()) break;
    const touchedNx = load<f64>(TOUCH, 8);
    const touchedNy = load<f64>(TOUCH, 16);
    if (touchedNy >= walkable) {
      nx = touchedNx;
      ny = touchedNy;
    } else if (climb > 0 && stepUp(stance, way, left, walkable, snap, climb)) {
      left = stepLeft;
      nx = stepNx;
      ny = stepNy;
    } else {
      speed = 0;
      left = 0;
    }
  }
  if (edges) {
    putUnder(way, snap);
    if (
      fromNy >= walkable &&
      underNy >= walkable &&
      fallAway(-fromNx / fromNy, -underNx / underNy, way) > TOUCHING &&
      fromNx * underNx + fromNy * underNy < turn
    ) {
      putVelocity(speed * groundNy, 0 - speed * groundNx);
      return;
    }
  }
  const flattest = flattestUnder(stance, walkable, nx);
  if (flattest >= 0) {
    nx = load<f64>(contactNx + ((<usize>flattest) << 3));
    ny = load<f64>(contactNy + ((<usize>flattest) << 3));
  } else if (flattest == NOTHING) {
    const moved = Math.abs(speed) * dt * ny;
    const steepest = -Math.sqrt(1 - walkable * walkable) / walkable;
    const reach = snap + fallAway(-nx / ny, steepest * way, way) * moved;
    const t = sweep(stance, bodyX(), bodyY(), 0, -reach, -1);
    const touchedNx = load<f64>(TOUCH, 8);
    const touchedNy = load<f64>(TOUCH, 16);
    if (isTouched() && touchedNy >= walkable) {
      // What the ground fell away over this tick's way is followed whatever the speed; a ledge only so far.
      const max = snap + fallAway(-nx / ny, -touchedNx / touchedNy, way) * moved + TOUCHING;
      if (t * reach <= max) {
        put(bodyX(), bodyY() - t * reach);
        nx = touchedNx;
        ny = touchedNy;
      }
    }
  }
  putVelocity(speed * ny, speed == 0 ? 0 : speed * -nx);
}

function slide(stance: i32, climbs: bool, walkable: f64, dt: f64): void {
  let left = dt;
  let lastX: f64 = 0;
  let lastY: f64 = 0;
  for (let i = 0; i < SLIDES && left > 0; i++) {
    const vx = load<f64>(BODY, 16);
    const vy = load<f64>(BODY, 24);
    const x = bodyX();
    const y = bodyY();
    const t = sweep(stance, x, y, vx * left, vy * left, -1);
    put(x + t * vx * left, y + t * vy * left);
    left *= 1 - t;
    if (!isTouched()) break;
    const nx = load<f64>(TOUCH, 8);
    const ny = load<f64>(TOUCH, 16);
    const into = vx * nx + vy * ny;
    let nextX = vx - into * nx;
    let nextY = vy - into * ny;
    // A steep surface cannot be climbed: what would slide up it faster than it rose before is stopped as by a wall.
    if (climbs && ny > 0 && ny < walkable && nextY > Math.max(vy, 0)) {
      nextX = 0;
      nextY = vy;
    }
    const wedged = i > 0 && nextX * lastX + nextY * lastY < -TOUCHING;
    putVelocity(wedged ? 0 : nextX, wedged ? 0 : nextY);
    lastX = nx;
    lastY = ny;
  }
}

/** The body goes with the movers, which have moved from where `before` has them: as `carryBody`. */
export function carry(stance: i32, on: i32): void {
  const under = on < 0 ? -1 : moverOf(on);
  if (under < 0 && !isNearMover(stance, bodyX(), bodyY())) return;
  if (under >= 0) {
    const at = (<usize>under) << 4;
    const dx = load<f64>(offsets + at) - load<f64>(before + at);
    const dy = load<f64>(offsets + at, 8) - load<f64>(before + at, 8);
    const t = sweep(stance, bodyX(), bodyY(), dx, dy, on);
    put(bodyX() + t * dx, bodyY() + t * dy);
  }
  const f = fieldOf(stances, stance);
  const count = alwaysCount(f);
  for (let k = 0; k < count; k++) {
    const i = alwaysAt(f, k);
    const mover = moverAt(f, i);
    if (mover < 0 || mover == under) continue;
    const at = (<usize>mover) << 4;
    const dx = load<f64>(offsets + at) - load<f64>(before + at);
    const dy = load<f64>(offsets + at, 8) - load<f64>(before + at, 8);
    // Seen from the mover, the body moves against it: what is left of the way after the touch is the push.
    const x = bodyX() - load<f64>(before + at);
    const y = bodyY() - load<f64>(before + at, 8);
    if (x + Math.abs(dx) < boxSide(f, i, 0) - TOUCHING || x - Math.abs(dx) > boxSide(f, i, 2) + TOUCHING)
      continue;
    if (y + Math.abs(dy) < boxSide(f, i, 1) - TOUCHING || y - Math.abs(dy) > boxSide(f, i, 3) + TOUCHING)
      continue;
    const o = obstacleAt(f, i);
    reset(1);
    sweepPoint(o, x, y, -dx, -dy);
    if (!isTouched()) continue;
    const nx = load<f64>(TOUCH, 8);
    const ny = load<f64>(TOUCH, 16);
    const push = (1 - load<f64>(TOUCH)) * (dx * nx + dy * ny);
    const pushX = push * nx;
    const pushY = push * ny;
    const t = sweep(stance, bodyX(), bodyY(), pushX, pushY, solidOf(o));
    put(bodyX() + t * pushX, bodyY() + t * pushY);
  }
  separate(stance);
}
