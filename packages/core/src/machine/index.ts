/**
 * The machine: a moveset compiled to indexes and ticks (`compile`, `definition`), what changes while it runs
 * (`situation`), and one tick in its nine steps (`tick` calls sense, clocks, decide, act, motion, and moves the body).
 */
export * from './definition.js';
export * from './facts.js';
export * from './compile.js';
export { VERBS } from './effects.js';
export { allEffects, allExpressions } from './expressions.js';
export { DEFAULT_GROUND } from './motion-rules.js';
export * from './situation.js';
export * from './scope.js';
export * from './rename.js';
export { sense } from './sense.js';
export * from './trigonometry.js';
export * from './decide.js';
export * from './alone.js';
export * from './listening.js';
export { remember, startOfMemory } from './memories.js';
export * from './presses.js';
export * from './author.js';
export { type Acting, effectsBetween, MAX_PASSING, type Taken, wayBetween } from './act.js';
export * from './tick.js';
export * from './fast/index.js';
