/**
 * A machine lowered: `lower` makes of it a `Program`, its decisions, clocks, effects and velocities as data over numbers;
 * `print` writes a program in a language. Each step of a tick is lowered in a file of its own: `facts`, `clocks`,
 * `decide`, `act` with `effects` and `yielding`, `motion` with `drive` and `hang`; `expressions` lowers what the moveset
 * says, `layout` says where a situation keeps what.
 */
export type { Operation, Place, Procedure, Program, Sense, Statement, Term, WorldAct } from './program.js';
export * as terms from './terms.js';
export * as place from './layout.js';
export { type Layout, layoutOf } from './layout.js';
export { lower, type LowerOptions } from './lower.js';
export { lowerSensesAfter } from './senses-after.js';
export { numbersApart, unshared } from './numbers.js';
export { SEVERAL } from './lowering.js';
export { CALLED, printJavaScript } from './print/javascript.js';
