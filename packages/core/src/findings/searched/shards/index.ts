/**
 * A scouting in parts that are searched anywhere, in any order, by whoever is there. `plan` says which shards there are and
 * how far each goes at a time: a leg. `leg` searches one, `gathered` is what is known when all of a leg are done, which the
 * next leg begins with, `merged` is the report. It depends on the plan alone.
 */
export * from './plan.js';
export { createLeg, type Leg, type LegResult } from './leg.js';
export { gather, type Gathered, isExhausted, startOfShards } from './gathered.js';
export { mergedReport } from './merged.js';
export { groundOfShards, type ShardGround } from './ground.js';
