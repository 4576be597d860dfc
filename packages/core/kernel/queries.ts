import { SKIN, TOUCHING } from '../src/tolerances';
import { fieldOf, find, foundAt } from './grid';
import {
  BODY,
  casts,
  CONTACTS,
  contactDistance,
  contactNx,
  contactNy,
  contactSolid,
  DROPPED,
  HIT,
  inside,
  isOneWay,
  offsetX,
  offsetY,
  paths,
  stances,
  tagOf,
  TOUCH,
  VERSIONS,
  zones,
} from './memory';
import { nearDistance, nearness, nearNx, nearNy, reset, solidOf, sweepPoint, touchT } from './obstacle';

/** A surface that leans less than this from level can be come down upon (sin 10°): for one-way platforms. */
const UPWARD: f64 = 0.17364817766693033;

export function isNearMover(stance: i32, x: f64, y: f64): bool {
  let at = <usize>load<u32>(paths + ((<usize>stance) << 3));
  const end = at + ((<usize>load<u32>(paths + ((<usize>stance) << 3) + 4)) << 5);
  for (; at < end; at += 32)
    if (x >= load<f64>(at) && y >= load<f64>(at, 8) && x <= load<f64>(at, 16) && y <= load<f64>(at, 24))
      return true;
  return false;
}

function versionAt(stance: i32, x: f64, y: f64): f64 {
  return isNearMover(stance, x, y) ? load<f64>(VERSIONS) : -1 - load<f64>(VERSIONS, 8);
}

function isDropped(solid: i32): bool {
  const count = <i32>load<f64>(DROPPED);
  for (let i = 0; i < count; i++) if (<i32>load<f64>(DROPPED + 8 + ((<usize>i) << 3)) == solid) return true;
  return false;
}

function letsThrough(o: usize, x: f64, y: f64): bool {
  if (isDropped(solidOf(o))) return true;
  nearness(o, x, y);
  return nearDistance < -SKIN || (nearDistance <= SKIN && nearNy < UPWARD);
}

function findAlong(f: usize, x: f64, y: f64, dx: f64, dy: f64): i32 {
  return find(
    f,
    (dx < 0 ? x + dx : x) - TOUCHING,
    (dy < 0 ? y + dy : y) - TOUCHING,
    (dx < 0 ? x : x + dx) + TOUCHING,
    (dy < 0 ? y : y + dy) + TOUCHING,
  );
}

function findAround(f: usize, x: f64, y: f64, margin: f64): i32 {
  return find(f, x - margin, y - margin, x + margin, y + margin);
}

/** First touch of a body with its feet at (x, y) moving by (dx, dy); it is then at `TOUCH`. Gives its share of the way. */
export function sweep(stance: i32, x: f64, y: f64, dx: f64, dy: f64, except: i32): f64 {
  reset(1);
  const f = fieldOf(stances, stance);
  const count = findAlong(f, x, y, dx, dy);
  for (let k = 0; k < count; k++) {
    const o = foundAt(f, k);
    const solid = solidOf(o);
    if (solid == except) continue;
    const px = x - offsetX(solid);
    const py = y - offsetY(solid);
    if (!isOneWay(solid)) sweepPoint(o, px, py, dx, dy);
    else if (!letsThrough(o, px, py)) {
      const t = touchT();
      const nx = load<f64>(TOUCH, 8);
      const ny = load<f64>(TOUCH, 16);
      const other = load<f64>(TOUCH, 24);
      reset(t);
      sweepPoint(o, px, py, dx, dy);
      if (load<f64>(TOUCH, 24) < 0 || load<f64>(TOUCH, 16) < UPWARD) {
        store<f64>(TOUCH, t);
        store<f64>(TOUCH, nx, 8);
        store<f64>(TOUCH, ny, 16);
        store<f64>(TOUCH, other, 24);
      }
    }
  }
  return touchT();
}

export function fits(stance: i32, x: f64, y: f64): bool {
  const f = fieldOf(stances, stance);
  const count = findAround(f, x, y, 0);
  for (let k = 0; k < count; k++) {
    const o = foundAt(f, k);
    const solid = solidOf(o);
    if (isOneWay(solid)) continue;
    if (nearness(o, x - offsetX(solid), y - offsetY(solid)) < -SKIN) return false;
  }
  return true;
}

/** Moves the body out of what it overlaps along the least direction, deepest obstacle first. */
export function separate(stance: i32): void {
  let x = load<f64>(BODY);
  let y = load<f64>(BODY, 8);
  const known =
    load<f64>(CONTACTS, 16) == x &&
    load<f64>(CONTACTS, 24) == y &&
    load<f64>(CONTACTS, 32) == <f64>stance &&
    load<f64>(CONTACTS, 40) == versionAt(stance, x, y);
  if (known && load<f64>(CONTACTS, 8) >= -TOUCHING) return;
  const f = fieldOf(stances, stance);
  for (let i = 0; i < 8; i++) {
    let deepest = -TOUCHING;
    let nx: f64 = 0;
    let ny: f64 = 0;
    const count = findAround(f, x, y, 0);
    for (let k = 0; k < count; k++) {
      const o = foundAt(f, k);
      const solid = solidOf(o);
      if (isOneWay(solid)) continue;
      nearness(o, x - offsetX(solid), y - offsetY(solid));
      if (nearDistance < deepest) {
        deepest = nearDistance;
        nx = nearNx;
        ny = nearNy;
      }
    }
    if (deepest == -TOUCHING) return;
    x -= deepest * nx;
    y -= deepest * ny;
    store<f64>(BODY, x);
    store<f64>(BODY, y, 8);
  }
}

/** Everything the body touches at a place, within the skin; gives how many contacts there are. */
export function contactsAt(stance: i32, x: f64, y: f64): i32 {
  const version = versionAt(stance, x, y);
  if (
    load<f64>(CONTACTS, 16) == x &&
    load<f64>(CONTACTS, 24) == y &&
    load<f64>(CONTACTS, 32) == <f64>stance &&
    load<f64>(CONTACTS, 40) == version
  )
    return <i32>load<f64>(CONTACTS);
  store<f64>(CONTACTS, x, 16);
  store<f64>(CONTACTS, y, 24);
  store<f64>(CONTACTS, <f64>stance, 32);
  store<f64>(CONTACTS, version, 40);
  let n: usize = 0;
  let minDistance = Infinity;
  const f = fieldOf(stances, stance);
  const count = findAround(f, x, y, SKIN);
  for (let k = 0; k < count; k++) {
    const o = foundAt(f, k);
    const solid = solidOf(o);
    const px = x - offsetX(solid);
    const py = y - offsetY(solid);
    const plank = isOneWay(solid);
    if (plank && letsThrough(o, px, py)) continue;
    nearness(o, px, py);
    if (!plank && nearDistance < minDistance) minDistance = nearDistance;
    if (nearDistance > SKIN) continue;
    store<f64>(contactNx + (n << 3), nearNx);
    store<f64>(contactNy + (n << 3), nearNy);
    store<f64>(contactDistance + (n << 3), nearDistance);
    store<i32>(contactSolid + (n << 2), solid);
    n++;
  }
  store<f64>(CONTACTS, <f64>n);
  store<f64>(CONTACTS, minDistance, 8);
  return <i32>n;
}

/** Lists the zones that the body is in, ascending; gives how many there are. */
export function zonesAt(stance: i32, x: f64, y: f64): i32 {
  const f = fieldOf(zones, stance);
  const count = findAround(f, x, y, 0);
  let n = 0;
  for (let k = 0; k < count; k++) {
    const o = foundAt(f, k);
    if (nearness(o, x, y) >= 0) continue;
    const solid = solidOf(o);
    let i = 0;
    while (i < n && load<i32>(inside + ((<usize>i) << 2)) < solid) i++;
    if (i < n && load<i32>(inside + ((<usize>i) << 2)) == solid) continue;
    for (let j = n++; j > i; j--)
      store<i32>(inside + ((<usize>j) << 2), load<i32>(inside + ((<usize>(j - 1)) << 2)));
    store<i32>(inside + ((<usize>i) << 2), solid);
  }
  return n;
}

/**
 * How far a cast shape gets before it meets a solid that is seen: any where `seen` is 0, else one whose tag has a byte
 * there that is not 0. The answer is at `HIT`.
 */
export function castShape(
  cast: i32,
  seen: usize,
  x: f64,
  y: f64,
  directionX: f64,
  directionY: f64,
  reach: f64,
): void {
  reset(1);
  const dx = directionX * reach;
  const dy = directionY * reach;
  const f = fieldOf(casts, cast);
  const count = findAlong(f, x, y, dx, dy);
  for (let k = 0; k < count; k++) {
    const o = foundAt(f, k);
    const solid = solidOf(o);
    if (seen != 0 && load<u8>(seen + <usize>tagOf(solid)) == 0) continue;
    const px = x - offsetX(solid);
    const py = y - offsetY(solid);
    if (nearness(o, px, py) < 0) {
      store<f64>(TOUCH, 0);
      store<f64>(TOUCH, nearNx, 8);
      store<f64>(TOUCH, nearNy, 16);
      store<f64>(TOUCH, <f64>solid, 24);
    } else sweepPoint(o, px, py, dx, dy);
  }
  store<f64>(HIT, touchT() * reach);
  store<f64>(HIT, load<f64>(TOUCH, 8), 8);
  store<f64>(HIT, load<f64>(TOUCH, 16), 16);
  store<f64>(HIT, load<f64>(TOUCH, 24), 24);
}

/** Whether the body still touches, or is within the skin above, a solid. */
export function isTouching(stance: i32, x: f64, y: f64, solid: i32): bool {
  const f = fieldOf(stances, stance);
  const count = findAround(f, x, y, SKIN);
  for (let k = 0; k < count; k++) {
    const o = foundAt(f, k);
    if (solidOf(o) == solid && Math.abs(nearness(o, x, y)) <= SKIN) return true;
  }
  return false;
}
