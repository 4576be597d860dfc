/**
 * The fast machine: `fast` lowers a machine and a world to tables, `layout` says where a situation keeps what in its
 * buffer, `step` is one tick (senses, clocks, `decide`, `act`, `motion`, `move`), `convert` begins a situation and
 * compares it with the reference's.
 */
export { type Fast, type FastOptions, lower } from './fast.js';
export * as place from './layout.js';
export type { Layout } from './layout.js';
export { type Log, writesOf } from './log.js';
export { step } from './step.js';
export { bufferOf, startFast } from './convert.js';
