import type { Machine } from '../../../machine/index.js';
import type { Course } from '../../../world/index.js';
import { type Ground, groundFor, type KnownBefore } from '../ground.js';
import { type Shard, shardsOf } from './plan.js';

/** What all legs of a scouting begin with; the same wherever it is worked out. */
export interface ShardGround extends Ground {
  machine: Machine;
  courses: readonly Course[];
  before: KnownBefore;
  shards: readonly Shard[];
  seed: number;
  grid: number | undefined;
}

/** Prepares a scouting of so many parts a course. */
export const groundOfShards = (
  machine: Machine,
  courses: readonly Course[],
  before: KnownBefore,
  { seed, grid, parts }: { seed: number; grid?: number; parts: number },
): ShardGround => ({
  ...groundFor(machine, courses, before, grid !== undefined),
  machine,
  courses,
  before,
  shards: shardsOf(courses.length, parts),
  seed,
  grid,
});
