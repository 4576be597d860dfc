import { present } from '../../../present.js';
import { exitsOf, type Machine } from '../../../machine/index.js';
import { factsIn } from '../../../notation/index.js';
import { leavesOfLane } from './explore/exits.js';
import { exploreInSteps, type ExploreLimits, type Skeleton } from './explore/explore.js';
import type { Steps } from '../../../steps.js';
import { digitRead, type Freed, sliceOf } from './space.js';

/** How large a lane's skeleton may be: the product of its digits' sizes, and what is explored. */
export interface SkeletonLimits extends ExploreLimits {
  product: number;
}

export const DEFAULT_LIMITS: SkeletonLimits = { product: 40_000, situations: 40_000, steps: 300_000 };

/** A skeleton that is too large is tried again with so much less, until it is this small. */
const SMALLER = 8;
const SMALLEST = 500;

/** What was left free is followed apart, in so many smaller skeletons at most. */
const MAX_APART = 8;
const APART = 4000;

/** The largest skeleton of a lane that is not too much work; `first` is followed before all else. */
export function* largestOf(
  machine: Machine,
  lane: number,
  limits: SkeletonLimits,
  first: readonly Freed[] = [],
): Steps<Skeleton | undefined> {
  for (let product = limits.product; ; product = Math.floor(product / SMALLER)) {
    const skeleton = yield* exploreInSteps(machine, sliceOf(machine, lane, product, first), limits);
    if (!skeleton.isPartial) return skeleton;
    if (product < SMALLEST) return undefined;
  }
}

/** Smaller skeletons of a lane that follow what a larger one left free; `see` takes each in. */
export function* followedApart(
  machine: Machine,
  lane: number,
  { freed, limits }: { freed: readonly Freed[]; limits: SkeletonLimits },
  see: (skeleton: Skeleton) => Steps<void>,
): Steps<void> {
  let open = freed;
  for (let n = 0; n < MAX_APART && open.length > 0; n++) {
    const smaller = { ...limits, product: Math.min(APART, limits.product) };
    const skeleton = yield* largestOf(machine, lane, smaller, open);
    const followed = skeleton?.slice.digits ?? [];
    const isFollowed = ({ kind, index }: Freed): boolean =>
      followed.some((d) => d.kind === kind && d.index === index);
    if (skeleton === undefined || !open.some(isFollowed)) {
      // The first of them alone is too much: the others may not be.
      open = open.slice(1);
      continue;
    }
    yield* see(skeleton);
    open = open.filter((f) => !isFollowed(f));
  }
}

/** The states of a lane whose ways out read some things. */
export const readersOf = (machine: Machine, lane: number, things: readonly Freed[]): string[] =>
  leavesOfLane(machine, lane)
    .filter((leaf) =>
      exitsOf(machine, leaf).some(({ crossing: { when } }) =>
        (when === undefined ? [] : factsIn(when)).some((ref) => {
          const read = digitRead(machine, ref);
          return things.some((t) => t.kind === read?.kind && t.index === read.index);
        }),
      ),
    )
    .map((leaf) => present(machine.states[leaf]).name);
