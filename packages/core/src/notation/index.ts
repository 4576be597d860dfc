/**
 * The notation: one small typed language for guards, effects, quantities and expectations.
 * Text → `lex` → `parse` (a tree) → `check` (names, dimensions, folded dials) → `evaluate` or `explain`.
 * `print` writes a tree back in its canonical form.
 */
export * from './dimension.js';
export * from './syntax.js';
export type { Fault } from './fault.js';
export { isReserved, RESERVED } from './lex.js';
export * from './parse.js';
export * from './print.js';
export * from './facts.js';
export { WORDS } from './words.js';
export * from './reference.js';
export * from './expression.js';
export * from './check.js';
export * from './evaluate.js';
export * from './complete.js';
export * from './explain.js';
