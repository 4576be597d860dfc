import { present } from '../../../present.js';
import { chainOf, type Crossing, type Machine } from '../../../machine/index.js';
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

/**
 * Whether another lane of the slice has come to its end in a situation: to a final state, or to one that is reported
 * never to be left. What follows from that is not a fault of its own.
 */
export function endedElsewhere(
  machine: Machine,
  { slice: { digits, lane } }: Skeleton,
  known: readonly Finding[],
): (values: readonly number[]) => boolean {
  const sealed = new Set(
    known.flatMap((f) => (f.code === 'OUT1' || f.code === 'OUT2' ? [`${f.lane} ${f.state}`] : [])),
  );
  const ends = digits.map(({ kind, index, leaves }) =>
    kind !== 'leaf' || index === lane
      ? []
      : leaves.map((leaf) => {
          const isFinal = chainOf(machine, leaf).some((s) => present(machine.states[s]).final);
          return (
            isFinal ||
            sealed.has(`${present(machine.lanes[index]).name} ${present(machine.states[leaf]).name}`)
          );
        }),
  );
  return (values) => ends.some((list, p) => list[present(values[p])] === true);
}
