/**
 * The place and the body in it: solids as convex polygons, body parts as capsules and boxes, swept exactly through
 * their Minkowski sums. `obstacle` is one solid against one part, `spatial-grid` finds the few that
 * matter, `world` is all of them, `move` is one tick of motion.
 */
export * from './shape.js';
export { type Obstacle, nearness, obstacleOf, sweepPoint } from './obstacle.js';
export { type Field, createField, find } from './spatial-grid.js';
export * from './course.js';
export * from './world.js';
export * from './carry.js';
export * from './move.js';
