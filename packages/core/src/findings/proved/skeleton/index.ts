/**
 * The skeleton: everything discrete of a moveset with all sensing and all inputs left free. `space` says what of it a
 * lane's slice follows, `writes` what effects do to it, `explore` steps through all of it, `reach` asks what can be
 * reached from where, `reasons` says which terms and writes force an answer, and `answers` asks for findings, one file for
 * each kind.
 * What it cannot reach, nothing can.
 */
export * from './space.js';
export * from './explore.js';
export * from './reach.js';
export * from './project.js';
export * from './answers.js';
export type { Trap } from './basis.js';
