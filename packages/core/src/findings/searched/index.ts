/**
 * What a scouting finds. `scouting` takes the scouts of several courses forward, `collect` makes findings of what they see,
 * `witness` gives each its shortest tape (with `tails`, for what shows only after), `rhythms` are tried beside the search,
 * `triggered-traps` and `traps` confirm traps, `unreached` says what was not come to and how near it was.
 */
export * from './scouting.js';
export { witnessTape } from './witness.js';
