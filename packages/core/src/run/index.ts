/**
 * Running: a tape becomes inputs, `play` makes a trace of them, and the rest asks the trace: expectations, measures,
 * and *why* a tick went as it did. `runTape` is all of it in one call.
 */
export * from './tape.js';
export * from './write-tape.js';
export * from './csv.js';
export * from './trace.js';
export * from './player.js';
export * from './play.js';
export * from './play-fast.js';
export * from './expectations.js';
export * from './measures.js';
export * from './why.js';
export * from './when-open.js';
export * from './lost-press.js';
export * from './start.js';
export * from './session.js';
export * from './compare.js';
export * from './behaviour.js';
export * from './retime.js';
export * from './digest.js';
export * from './response.js';
export * from './log/index.js';
