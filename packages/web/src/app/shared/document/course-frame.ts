import { type Course, cornersOf, moverAt } from '@glenmark/core/world';

/** A stretch of a course, in metres. */
export interface Extent {
  minX: number;
  maxX: number;
  minY: number;
  maxY: number;
}

/** How a course is laid on a drawing: metres to pixels, and what of it is seen sideways. */
export interface Frame {
  scale: number;
  x: (m: number) => number;
  y: (m: number) => number;
  left: number;
  right: number;
}

/** Frames a stretch in a drawing: all of it at the scale that shows it, or its middle at a scale of its own. */
export function frameOf(
  { minX, maxX, minY, maxY }: Extent,
  { width, height }: { width: number; height: number },
  own?: number,
): Frame {
  const scale = own ?? Math.max(4, Math.min(width / (maxX - minX), height / (maxY - minY), 70));
  const left = (minX + maxX) / 2 - width / scale / 2;
  const top = (own === undefined ? minY : (minY + maxY) / 2 - height / scale / 2) + height / scale;
  return {
    scale,
    x: (m) => (m - left) * scale,
    y: (m) => (top - m) * scale,
    left,
    right: left + width / scale,
  };
}

/** The stretch that some ways lie in, each as x0, y0, x1, y1 and so on, with room for a body round it. */
export function extentOf(ways: readonly ArrayLike<number>[]): Extent {
  const box = { minX: Infinity, maxX: -Infinity, minY: Infinity, maxY: -Infinity };
  for (const way of ways)
    for (let i = 0; i + 1 < way.length; i += 2) {
      box.minX = Math.min(box.minX, way[i]!);
      box.maxX = Math.max(box.maxX, way[i]!);
      box.minY = Math.min(box.minY, way[i + 1]!);
      box.maxY = Math.max(box.maxY, way[i + 1]!);
    }
  return box.minX > box.maxX
    ? { minX: -1, maxX: 1, minY: -1, maxY: 1 }
    : { minX: box.minX - 2.5, maxX: box.maxX + 2.5, minY: box.minY - 1.2, maxY: box.maxY + 2.8 };
}

/** The path of a polygon in a drawing. */
export function outlineOf({ x, y }: Frame, polygon: Float64Array, offset = { x: 0, y: 0 }): string {
  const corners = cornersOf(polygon).map(
    ([px, py]) => `${x(px + offset.x).toFixed(1)} ${y(py + offset.y).toFixed(1)}`,
  );
  return `M${corners.join('L')}Z`;
}

/** The path of a way. */
export function wayPath({ x, y }: Frame, way: ArrayLike<number>): string {
  const points: string[] = [];
  for (let i = 0; i + 1 < way.length; i += 2)
    points.push(`${x(way[i]!).toFixed(1)} ${y(way[i + 1]!).toFixed(1)}`);
  return points.length === 0 ? '' : `M${points.join('L')}`;
}

export const solidPaths = (frame: Frame, course: Course) =>
  course.solids
    .filter((solid) => solid.mover < 0)
    .map((solid) => ({
      name: solid.name ?? solid.tag,
      d: outlineOf(frame, solid.polygon),
      tone: solid.oneWay ? 'one-way' : solid.tag === 'plank' ? 'plank' : '',
    }));

/** Movers where they are at a time (s). */
export const moverPaths = (frame: Frame, course: Course, seconds: number) =>
  course.solids
    .filter((solid) => solid.mover >= 0)
    .map((solid) => ({
      name: solid.name ?? 'mover',
      d: outlineOf(frame, solid.polygon, moverAt(course.movers[solid.mover]!, seconds)),
    }));

export const zonePaths = (frame: Frame, course: Course) =>
  course.zones.map((zone) => ({
    name: zone.name,
    tag: zone.tag,
    d: outlineOf(frame, zone.polygon),
    x: frame.x(zone.polygon[0]!) + 4,
    y: frame.y(Math.max(...cornersOf(zone.polygon).map((c) => c[1]))) + 12,
  }));

export const anchorPoints = ({ x, y }: Frame, course: Course) =>
  course.anchors.map((a) => ({ name: a.name, x: x(a.x), y: y(a.y) }));

/** Where a scale has its marks: at each metre, or at each fifth or tenth where they would be too close. */
export function scaleMarks({ left, right, x, scale }: Frame): { x: number; text: string }[] {
  const step = scale > 40 ? 1 : scale > 14 ? 5 : 10;
  const marks = [];
  for (let m = Math.ceil(left / step) * step; m < right; m += step)
    marks.push({ x: x(m), text: `${m}${marks.length === 0 ? ' m' : ''}` });
  return marks;
}
