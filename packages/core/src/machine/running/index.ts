/**
 * A lowered machine running in a world: `fast` prints its program and binds it, `senses` and `acts` are what the program
 * asks of the world and has it do, `move` moves the body, `step` is one tick, `start` begins a situation.
 */
export { type Code, codeOf, createCodes } from './code.js';
export { createFast, type Fast, type FastOptions, runProgram } from './fast.js';
export { type Log, writesOf } from './log.js';
export { lookAfter, step } from './step.js';
export { bufferOf, startFast } from './start.js';
