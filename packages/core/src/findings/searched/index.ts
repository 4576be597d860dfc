/**
 * What a scouting finds. `scouting` takes the scouts of several courses forward, `collect` makes findings of what they see,
 * `witness` gives each its shortest tape (with `tails`, for what shows only after), `rhythms` are tried beside the search,
 * `triggered-traps` and `traps` confirm traps, `unreached` and `unlockers` say what was not come to and how near it was.
 * `rounds` are how a search goes on, `ground` is what it need not look for, `report` puts together what came of it. `shards`
 * are the same search in parts, for machines that share nothing but what they tell each other.
 */
export * from './scouting.js';
export * from './shards/index.js';
export type { Elsewhere, Expanding } from './rounds.js';
export type { ScoutingReport } from './report.js';
export type { KnownBefore } from './ground.js';
export { witnessTape } from './witness.js';
