/**
 * What our files are: the Zod shape of a moveset, a course and a tape, reading them with a place for every
 * fault, and changing a text without disturbing the rest of it. Nothing here knows what a guard means.
 */
export * from './diagnostics.js';
export * from './source.js';
export { NAME, nameFault } from './schema.js';
export * from './moveset.js';
export * from './course.js';
export * from './tape.js';
export * from './limits.js';
export * from './read.js';
export * from './places.js';
export * from './edit.js';
export { laidOutAs } from './layout.js';
export { splicedSource, spliceText } from './splice.js';
export * from './fragment.js';
export * from './json-schema.js';
