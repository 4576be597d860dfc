/** Shapes: convex polygons for solids, capsules and boxes for the parts of a body. Metres; y points up. */

/** Corners of a convex polygon, counter-clockwise, as x0, y0, x1, y1, … */
export type Polygon = Float64Array;

/** One collider of a stance. `ox`, `oy` lead from the feet to the middle of its underside. */
export interface Part {
  name: string;
  shape: 'capsule' | 'box';
  width: number;
  height: number;
  ox: number;
  oy: number;
}

/**
 * A part as what the sweep sees: a box of half extents `hx`, `hy` about a centre (from the feet), rounded by
 * `radius`. An upright capsule has `hx` 0; a box has `radius` 0.
 */
export interface Core {
  cx: number;
  cy: number;
  hx: number;
  hy: number;
  radius: number;
}

export function coreOf(part: Part): Core {
  const radius = part.shape === 'capsule' ? Math.min(part.width, part.height) / 2 : 0;
  return {
    cx: part.ox,
    cy: part.oy + part.height / 2,
    hx: part.width / 2 - radius,
    hy: part.height / 2 - radius,
    radius,
  };
}

/** Twice the signed area: positive when the corners run counter-clockwise. */
export function doubleArea(polygon: ArrayLike<number>): number {
  let sum = 0;
  const n = polygon.length / 2;
  for (let i = 0; i < n; i++) {
    const j = (i + 1) % n;
    sum += polygon[2 * i]! * polygon[2 * j + 1]! - polygon[2 * j]! * polygon[2 * i + 1]!;
  }
  return sum;
}

/** The convex hull, counter-clockwise, without collinear corners (Andrew's monotone chain). */
export function convexHull(points: readonly (readonly [number, number])[]): [number, number][] {
  // Points that are a rounding apart stand above each other: taken one by one they would hide a corner.
  const column = (p: readonly [number, number]): number => Math.round(p[0] * 1e9);
  const sorted = [...points].sort((a, b) => column(a) - column(b) || a[1] - b[1]);
  const half = (ordered: readonly (readonly [number, number])[]): [number, number][] => {
    const chain: [number, number][] = [];
    for (const p of ordered) {
      while (chain.length >= 2 && turn(chain[chain.length - 2]!, chain[chain.length - 1]!, p) <= 1e-12)
        chain.pop();
      chain.push([p[0], p[1]]);
    }
    chain.pop();
    return chain;
  };
  const hull = [...half(sorted), ...half(sorted.reverse())];
  // Where the two halves meet nothing was left out yet: two edges in one line there would be one face to a body, and two
  // to `nearness`.
  return hull.filter((p, i) => turn(hull.at(i - 1)!, p, hull[(i + 1) % hull.length]!) > 1e-12);
}

const turn = (
  a: readonly [number, number],
  b: readonly [number, number],
  c: readonly [number, number],
): number => (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0]);

export const cornersOf = (polygon: Polygon): [number, number][] =>
  Array.from({ length: polygon.length / 2 }, (_, i) => [polygon[2 * i]!, polygon[2 * i + 1]!]);
