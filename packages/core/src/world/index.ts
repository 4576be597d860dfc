/**
 * The place and the body in it: solids as convex polygons, body parts as capsules and boxes, swept exactly through
 * their Minkowski sums. `obstacle` is one solid against one part, `spatial-grid` finds the few that
 * matter, `world` is all of them; `queries` are what may be asked of it, `move` moves a body in it. Two geometries answer:
 * `plain` and the kernel.
 */
export * from './shape.js';
export { type Obstacle, nearness, obstacleOf, sweepPoint } from './obstacle.js';
export { type Field, createField, find } from './spatial-grid.js';
export * from './course.js';
export * from './world.js';
export type { CastHit, Geometry, Touch } from './geometry.js';
export * from './queries.js';
export * from './move.js';
