import { GRAZE, SKIN, TOUCHING } from '../src/tolerances';
import { TOUCH } from './memory';

/**
 * An obstacle in memory: its solid and its number of corners (whole numbers), its radius, then for each corner x, y, nx,
 * ny and length. The same steps in the same order as `src/world/plain/obstacle.ts`: every bit is the same.
 */
const CORNERS: usize = 16;
const CORNER: usize = 40;

export function solidOf(o: usize): i32 {
  return load<i32>(o);
}

/** The nearness that was asked last: distance and normal. */
export let nearDistance: f64 = 0;
export let nearNx: f64 = 0;
export let nearNy: f64 = 0;

export function nearness(o: usize, px: f64, py: f64): f64 {
  const n = load<i32>(o, 4);
  const radius = load<f64>(o, 8);
  let deepest = -Infinity;
  let face: usize = 0;
  let c = o + CORNERS;
  const end = c + CORNER * <usize>n;
  for (; c < end; c += CORNER) {
    const s = (px - load<f64>(c)) * load<f64>(c, 16) + (py - load<f64>(c, 8)) * load<f64>(c, 24);
    if (s > deepest) {
      deepest = s;
      face = c;
    }
  }
  nearDistance = deepest - radius;
  nearNx = load<f64>(face, 16);
  nearNy = load<f64>(face, 24);
  if (deepest <= 0) return nearDistance;
  const along = (py - load<f64>(face, 8)) * nearNx - (px - load<f64>(face)) * nearNy;
  if (along >= 0 && along <= load<f64>(face, 32)) return nearDistance;
  let best = Infinity;
  let bx: f64 = 0;
  let by: f64 = 0;
  for (c = o + CORNERS; c < end; c += CORNER) {
    const dx = px - load<f64>(c);
    const dy = py - load<f64>(c, 8);
    const d2 = dx * dx + dy * dy;
    if (d2 < best) {
      best = d2;
      bx = dx;
      by = dy;
    }
  }
  const distance = Math.sqrt(best);
  nearDistance = distance - radius;
  if (distance > 1e-9) {
    nearNx = bx / distance;
    nearNy = by / distance;
  }
  return nearDistance;
}

/** Begins a search for a first touch: none yet, before a share of the way. */
export function reset(t: f64): void {
  store<f64>(TOUCH, t);
  store<f64>(TOUCH, 0, 8);
  store<f64>(TOUCH, 0, 16);
  store<f64>(TOUCH, -1, 24);
}

export function touchT(): f64 {
  return load<f64>(TOUCH);
}

/** Takes a touch that comes before the one already there. */
export function take(t: f64, nx: f64, ny: f64, solid: i32): void {
  if (t >= load<f64>(TOUCH)) return;
  store<f64>(TOUCH, t);
  store<f64>(TOUCH, nx, 8);
  store<f64>(TOUCH, ny, 16);
  store<f64>(TOUCH, <f64>solid, 24);
}

export function sweepPoint(o: usize, px: f64, py: f64, dx: f64, dy: f64): void {
  const limit = -GRAZE * Math.sqrt(dx * dx + dy * dy);
  const radius = load<f64>(o, 8);
  nearness(o, px, py);
  if (nearDistance <= TOUCHING) {
    if (dx * nearNx + dy * nearNy < limit && !(radius == 0 && grazes(o, px, py, dx, dy, limit)))
      take(0, nearNx, nearNy, solidOf(o));
  } else if (radius == 0) sweepSharp(o, px, py, dx, dy, limit);
  else sweepRounded(o, px, py, dx, dy, limit);
}

function grazes(o: usize, px: f64, py: f64, dx: f64, dy: f64, limit: f64): bool {
  const end = o + CORNERS + CORNER * <usize>load<i32>(o, 4);
  for (let c = o + CORNERS; c < end; c += CORNER) {
    const nx = load<f64>(c, 16);
    const ny = load<f64>(c, 24);
    const s = (px - load<f64>(c)) * nx + (py - load<f64>(c, 8)) * ny;
    if (s > -SKIN && dx * nx + dy * ny >= limit) return true;
  }
  return false;
}

function sweepSharp(o: usize, px: f64, py: f64, dx: f64, dy: f64, limit: f64): void {
  let enter = -Infinity;
  let leave = Infinity;
  let face: usize = 0;
  const end = o + CORNERS + CORNER * <usize>load<i32>(o, 4);
  for (let c = o + CORNERS; c < end; c += CORNER) {
    const nx = load<f64>(c, 16);
    const ny = load<f64>(c, 24);
    const s = (px - load<f64>(c)) * nx + (py - load<f64>(c, 8)) * ny;
    const v = dx * nx + dy * ny;
    if (v < limit) {
      const t = -s / v;
      if (t > enter) {
        enter = t;
        face = c;
      }
    } else {
      if (s > -SKIN) return;
      if (v > 0) leave = Math.min(leave, -s / v);
    }
  }
  if (face != 0 && enter <= leave && enter >= 0 && enter <= 1)
    take(enter, load<f64>(face, 16), load<f64>(face, 24), solidOf(o));
}

function sweepRounded(o: usize, px: f64, py: f64, dx: f64, dy: f64, limit: f64): void {
  const r = load<f64>(o, 8);
  const dd = dx * dx + dy * dy;
  const solid = solidOf(o);
  const end = o + CORNERS + CORNER * <usize>load<i32>(o, 4);
  for (let c = o + CORNERS; c < end; c += CORNER) {
    const rx = px - load<f64>(c);
    const ry = py - load<f64>(c, 8);
    const nx = load<f64>(c, 16);
    const ny = load<f64>(c, 24);
    const v = dx * nx + dy * ny;
    if (v < limit) {
      const t = (r - (rx * nx + ry * ny)) / v;
      if (t >= 0 && t < touchT()) {
        const along = (rx + t * dx) * -ny + (ry + t * dy) * nx;
        if (along >= 0 && along <= load<f64>(c, 32)) take(t, nx, ny, solid);
      }
    }
    const b = rx * dx + ry * dy;
    if (b >= 0) continue;
    const root = b * b - dd * (rx * rx + ry * ry - r * r);
    if (root <= 0) continue;
    const t = (-b - Math.sqrt(root)) / dd;
    if (t < 0 || t >= touchT()) continue;
    const cx = (rx + t * dx) / r;
    const cy = (ry + t * dy) / r;
    if (dx * cx + dy * cy < limit) take(t, cx, cy, solid);
  }
}
