/**
 * The skeleton: everything discrete of a moveset with all sensing and all inputs left free. `space` says what of it a
 * lane's slice follows, `writes` what effects do to it, `explore` steps through all of it, `clocks` says how long things
 * may last on the way, `reasons` says which terms and writes force an answer, and `answers` asks for findings, one file
 * for each kind.
 * What it cannot reach, nothing can.
 */
export * from './space.js';
export { regionOf } from './regions.js';
export * from './explore/exits.js';
export * from './explore/explore.js';
export type { Clock } from './clocks/clocks.js';
export * from './clocks/timing.js';
export * from './explore/reach.js';
export * from './explore/project.js';
export * from './lane-skeletons.js';
export * from './answers.js';
export type { Trap } from './basis.js';
