/**
 * The machine: a moveset compiled to indexes and ticks (`compile`, `definition`), what changes while it runs
 * (`situation`), and one tick in its nine steps (`tick` calls sense, clocks, decide, act, motion, and moves the body).
 */
export * from './definition/machine.js';
export * from './definition/facts.js';
export * from './compile/compile.js';
export { columnText, QUANTITIES } from './compile/game-log.js';
export { VERBS } from './compile/effects.js';
export { allEffects, allExpressions } from './definition/expressions.js';
export { DEFAULT_GROUND } from './compile/motion-rules.js';
export * from './reference/situation.js';
export * from './refactor/scope.js';
export * from './refactor/occurrences.js';
export * from './refactor/rename.js';
export { sense } from './reference/sense.js';
export * from './trigonometry.js';
export * from './reference/decide.js';
export * from './refactor/alone.js';
export * from './definition/listening.js';
export { remember, startOfMemory } from './reference/memories.js';
export * from './definition/presses.js';
export * from './definition/author.js';
export { type Acting, effectsBetween, MAX_PASSING, type Taken, wayBetween } from './reference/act.js';
export * from './reference/tick.js';
export * from './lowered/index.js';
export * from './running/index.js';
