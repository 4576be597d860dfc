/**
 * The scout: a search through input sequences in the real simulation. `moves` are what it tries, `key` says which
 * situations are the same to it, `starts` are where it begins, `rhythm` are longer ones, made from the model, `expand` is
 * one situation and what comes of moves from it, in an `arena` that threads may share, `events` are what is noted of them,
 * `keys`, `memory`, `buckets`, `nearest` and `leaf-codes` are what it remembers. `tree` are ways and `digests` are keys as
 * they are given to somebody else, who keeps keys in a `filter` and goes on from such ways as `roots`. `scout` draws,
 * expands and merges in rounds; its `survey` is what it saw. `nearby` looks around one situation.
 */
export * from './random.js';
export * from './distance.js';
export * from './arena.js';
export * from './events.js';
export * from './expand.js';
export { controlsOf, createMoves, type Moves } from './moves.js';
export { recipesOf } from './recipes.js';
export * from './rhythm.js';
export { shrink } from './shrink.js';
export * from './key.js';
export * from './keys.js';
export * from './leaf-codes.js';
export * from './memory.js';
export * from './starts.js';
export * from './digests.js';
export * from './filter.js';
export * from './tree.js';
export * from './nearest.js';
export * from './nearby.js';
export * from './box.js';
export * from './survey.js';
export * from './scout.js';
