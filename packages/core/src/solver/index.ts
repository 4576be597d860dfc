/**
 * The guard solver: whether conditions can hold together. `literals` takes an expression apart into formulas, `linear` and
 * `elimination` deal with sums of numbers as a run rounds them, `laws` say what always holds between facts, `solver`
 * searches, and `questions` are what others ask. It knows the notation and the definition of a machine, nothing of runs.
 */
export * from './bounds.js';
export * from './elimination.js';
export * from './laws.js';
export * from './linear.js';
export * from './literals.js';
export * from './questions.js';
export * from './solver.js';
