import { GRAZE, SKIN, TOUCHING } from '../tolerances.js';
import type { Touch } from './geometry.js';
import { type Core, cornersOf, convexHull, type Polygon } from './shape.js';

/**
 * A solid as one part of a body meets it: the Minkowski sum of the two, so that the body shrinks to the point of
 * its feet. It is a convex polygon (of the solid and the part's box) rounded by the part's radius.
 */
export interface Obstacle {
  /** Index of the solid in its course. */
  solid: number;
  /** Corners, outward unit normals of the edge that starts at each corner, edge lengths; counter-clockwise. */
  x: Float64Array;
  y: Float64Array;
  nx: Float64Array;
  ny: Float64Array;
  length: Float64Array;
  radius: number;
  minX: number;
  minY: number;
  maxX: number;
  maxY: number;
}

/** The obstacle that a solid is to a part, in the coordinates of the feet. */
export function obstacleOf(polygon: Polygon, solid: number, core: Core): Obstacle {
  const sum = cornersOf(polygon).flatMap(([x, y]): [number, number][] => {
    const px = x - core.cx;
    const py = y - core.cy;
    return [
      [px - core.hx, py - core.hy],
      [px + core.hx, py - core.hy],
      [px + core.hx, py + core.hy],
      [px - core.hx, py + core.hy],
    ];
  });
  const hull = convexHull(sum);
  const n = hull.length;
  const make = (value: (i: number) => number): Float64Array =>
    Float64Array.from({ length: n }, (_, i) => value(i));
  const x = make((i) => hull[i]![0]);
  const y = make((i) => hull[i]![1]);
  const length = make((i) => {
    const ex = x[(i + 1) % n]! - x[i]!;
    const ey = y[(i + 1) % n]! - y[i]!;
    return Math.sqrt(ex * ex + ey * ey);
  });
  const r = core.radius;
  return {
    solid,
    x,
    y,
    nx: make((i) => (y[(i + 1) % n]! - y[i]!) / length[i]!),
    ny: make((i) => (x[i]! - x[(i + 1) % n]!) / length[i]!),
    length,
    radius: r,
    minX: Math.min(...x) - r,
    minY: Math.min(...y) - r,
    maxX: Math.max(...x) + r,
    maxY: Math.max(...y) + r,
  };
}

/** Where a point stands to an obstacle: its distance (negative inside) and the way out of it. */
export interface Nearness {
  distance: number;
  nx: number;
  ny: number;
}

/** How far a point is outside the line of one face; negative behind it. */
const aboveFace = (o: Obstacle, face: number, px: number, py: number): number =>
  (px - o.x[face]!) * o.nx[face]! + (py - o.y[face]!) * o.ny[face]!;

/**
 * Signed distance of a point to an obstacle, with the outward unit normal there. Writes into `out`. Beside an edge the
 * normal is the edge's own, to the last bit: what rests on level ground stays level.
 */
export function nearness(o: Obstacle, px: number, py: number, out: Nearness): Nearness {
  const n = o.x.length;
  let deepest = -Infinity;
  let face = 0;
  for (let i = 0; i < n; i++) {
    const s = aboveFace(o, i, px, py);
    if (s > deepest) {
      deepest = s;
      face = i;
    }
  }
  out.distance = deepest - o.radius;
  out.nx = o.nx[face]!;
  out.ny = o.ny[face]!;
  if (deepest <= 0) return out;
  // The edge runs along the normal turned a quarter left.
  const along = (py - o.y[face]!) * out.nx - (px - o.x[face]!) * out.ny;
  if (along >= 0 && along <= o.length[face]!) return out;
  // Beyond the ends of the farthest face only a corner can be nearest: a nearer edge would be a farther face.
  let best = Infinity;
  let bx = 0;
  let by = 0;
  for (let i = 0; i < n; i++) {
    const dx = px - o.x[i]!;
    const dy = py - o.y[i]!;
    const d2 = dx * dx + dy * dy;
    if (d2 < best) {
      best = d2;
      bx = dx;
      by = dy;
    }
  }
  const distance = Math.sqrt(best);
  out.distance = distance - o.radius;
  if (distance > 1e-9) {
    out.nx = bx / distance;
    out.ny = by / distance;
  }
  return out;
}

const near: Nearness = { distance: 0, nx: 0, ny: 0 };

/**
 * The exact first touch of a point moving by (dx, dy) with an obstacle, kept in `touch` when it comes before the
 * one already there. A point that touches, or is inside, stops at once if it moves further in, and is free
 * otherwise: on a convex obstacle, moving away from the nearest face never comes back.
 */
export function sweepPoint(o: Obstacle, px: number, py: number, dx: number, dy: number, touch: Touch): void {
  const limit = -GRAZE * Math.sqrt(dx * dx + dy * dy);
  nearness(o, px, py, near);
  if (near.distance <= TOUCHING) {
    if (dx * near.nx + dy * near.ny < limit && !(o.radius === 0 && grazes(o, px, py, dx, dy, limit)))
      take(touch, 0, near.nx, near.ny, o);
  } else if (o.radius === 0) sweepSharp(o, px, py, dx, dy, limit, touch);
  else sweepRounded(o, px, py, dx, dy, limit, touch);
}

/** Within the skin of a face and not going further in: at a sharp corner the nearest face may be the wrong one. */
function grazes(o: Obstacle, px: number, py: number, dx: number, dy: number, limit: number): boolean {
  for (let i = 0; i < o.x.length; i++) {
    const s = aboveFace(o, i, px, py);
    if (s > -SKIN && dx * o.nx[i]! + dy * o.ny[i]! >= limit) return true;
  }
  return false;
}

const take = (touch: Touch, t: number, nx: number, ny: number, o: Obstacle): void => {
  if (t >= touch.t) return;
  touch.t = t;
  touch.nx = nx;
  touch.ny = ny;
  touch.solid = o.solid;
};

/** Ray against a convex polygon: it is inside between the last face entered and the first one left. */
function sweepSharp(
  o: Obstacle,
  px: number,
  py: number,
  dx: number,
  dy: number,
  limit: number,
  touch: Touch,
): void {
  let enter = -Infinity;
  let leave = Infinity;
  let face = -1;
  for (let i = 0; i < o.x.length; i++) {
    const s = aboveFace(o, i, px, py);
    const v = dx * o.nx[i]! + dy * o.ny[i]!;
    if (v < limit) {
      const t = -s / v;
      if (t > enter) {
        enter = t;
        face = i;
      }
    } else {
      // Not coming closer to this face: outside it stays outside, and within the skin of it only grazes.
      if (s > -SKIN) return;
      if (v > 0) leave = Math.min(leave, -s / v);
    }
  }
  if (face >= 0 && enter <= leave && enter >= 0 && enter <= 1)
    take(touch, enter, o.nx[face]!, o.ny[face]!, o);
}

/** Ray against a rounded polygon: the earliest of its shifted edges and of the circles at its corners. */
function sweepRounded(
  o: Obstacle,
  px: number,
  py: number,
  dx: number,
  dy: number,
  limit: number,
  touch: Touch,
): void {
  const r = o.radius;
  const dd = dx * dx + dy * dy;
  for (let i = 0; i < o.x.length; i++) {
    const rx = px - o.x[i]!;
    const ry = py - o.y[i]!;
    const nx = o.nx[i]!;
    const ny = o.ny[i]!;
    const v = dx * nx + dy * ny;
    if (v < limit) {
      const t = (r - (rx * nx + ry * ny)) / v;
      if (t >= 0 && t < touch.t) {
        const along = (rx + t * dx) * -ny + (ry + t * dy) * nx;
        if (along >= 0 && along <= o.length[i]!) take(touch, t, nx, ny, o);
      }
    }
    const b = rx * dx + ry * dy;
    if (b >= 0) continue;
    const root = b * b - dd * (rx * rx + ry * ry - r * r);
    if (root <= 0) continue;
    const t = (-b - Math.sqrt(root)) / dd;
    if (t < 0 || t >= touch.t) continue;
    const cx = (rx + t * dx) / r;
    const cy = (ry + t * dy) / r;
    if (dx * cx + dy * cy < limit) take(touch, t, cx, cy, o);
  }
}
