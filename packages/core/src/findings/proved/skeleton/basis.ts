import { present } from '../../../present.js';
import type { Crossing, Machine } from '../../../machine/index.js';
import type { ClosedWay } from '../../catalogue/evidence.js';
import type { Finding } from '../../sentences/finding.js';
import { closedWay } from '../guard.js';
import type { Skeleton } from './explore/explore.js';
import { blockedBy } from './reasons.js';

/** Something suspected that is so in some situations, by place in the skeleton, as soon as a run comes to one. */
export interface Trap {
  finding: Finding;
  skeleton: Skeleton;
  places: ReadonlySet<number>;
}

/** The situations of each leaf of a lane; none for a leaf that is never entered. */
export type ByLeaf = ReadonlyMap<number, number[][]>;

export const isReached = (byLeaf: ByLeaf, leaf: number): boolean => present(byLeaf.get(leaf)).length > 0;

/** A crossing that is closed in situations of a leaf, as evidence; nothing where it is open in one of them. */
export function closedIn(
  machine: Machine,
  skeleton: Skeleton,
  { leaf, crossing }: { leaf: number; crossing: Crossing },
  situations: readonly number[][],
): ClosedWay[] {
  const exit = present(present(skeleton.exits.get(leaf)).find((e) => e.crossing === crossing));
  const hindrance = blockedBy(machine, skeleton, exit, situations);
  if (hindrance === undefined) return [];
  return [closedWay(machine, crossing, hindrance, present(machine.states[leaf]).name)];
}
