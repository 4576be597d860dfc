/**
 * What became other between two revisions of a moveset: `differences` in the terms of the model (`things` are what it is
 * made of, `renames` what only has another name), which `words` says; `take-back` undoes one of them; `replay` tells what the same tapes do on both; `apart`
 * which findings came and went, `bisect` which revision began something.
 */
export * from './things.js';
export * from './renames.js';
export * from './differences.js';
export * from './words.js';
export * from './take-back.js';
export * from './replay.js';
export * from './apart.js';
export * from './bisect.js';
