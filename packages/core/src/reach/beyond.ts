import { groundOf, reachFrom, riseOn } from '../findings/index.js';
import type { Machine } from '../machine/index.js';
import type { Box } from '../scout/index.js';
import type { Course } from '../world/index.js';

/**
 * Why a place can never be come to from the spawns of a course: it is walled off, however high the body may rise; or it is
 * too high, for a body that rises no more than `height` above what it stood on (m) and goes no faster than `sideways`
 * (m/s), since a slope or an edge could turn that upward.
 */
export type Beyond = { why: 'walledOff' } | { why: 'tooHigh'; height: number; sideways: number };

/**
 * What proves that the feet never come to a place; undefined when nothing does. It may still be that they never do. Courses
 * with movers, and machines with more stances than can be followed, are never decided.
 */
export function beyondReach(machine: Machine, course: Course, box: Box): Beyond | undefined {
  const { minX, minY, maxX, maxY } = box;
  const place = {
    name: '',
    tag: '',
    polygon: Float64Array.of(minX, minY, maxX, minY, maxX, maxY, minX, maxY),
    wind: undefined,
    launch: undefined,
    drag: 0,
    unlocks: undefined,
    once: false,
  };
  // Whoever has the feet in a place has the body at it, so a zone that no body meets is no place for feet.
  const ground = groundOf(machine, { ...course, zones: [...course.zones, place] });
  if (ground === undefined) return undefined;
  const isOut = (rise: number): boolean =>
    !reachFrom(ground, course.spawns, rise).zones.has(course.zones.length);
  if (isOut(Infinity)) return { why: 'walledOff' };
  const rise = riseOn(machine, course);
  return rise !== undefined && isOut(rise.height) ? { why: 'tooHigh', ...rise } : undefined;
}
