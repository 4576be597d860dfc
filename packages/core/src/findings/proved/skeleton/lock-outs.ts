import { ofState } from '../guard.js';
import { present } from '../../../present.js';
import { chainOf, type Machine } from '../../../machine/index.js';
import { createFinding, type Finding } from '../../sentences/finding.js';
import { type ByLeaf, isReached } from './basis.js';
import type { Skeleton } from './explore/explore.js';
import { canReach } from './explore/reach.js';

/** OUT4: states after which no home of their lane can be reached again. */
export function lockOuts(
  machine: Machine,
  skeleton: Skeleton,
  own: number,
  byLeaf: ByLeaf,
  known: ReadonlySet<string>,
): Finding[] {
  const { digits } = skeleton.slice;
  const { situations } = skeleton;
  const isHome = (leaf: number): boolean =>
    chainOf(machine, leaf).some((s) => present(machine.states[s]).home);
  const homes = present(digits[own]).leaves.filter(isHome);
  if (!homes.some((leaf) => isReached(byLeaf, leaf))) return [];
  const safe = canReach(skeleton, (values) =>
    isHome(present(present(digits[own]).leaves[present(values[own])])),
  );
  const lost = present(digits[own]).leaves.filter((leaf, value) => {
    const isFinal = chainOf(machine, leaf).some((s) => present(machine.states[s]).final);
    return (
      !isFinal && isReached(byLeaf, leaf) && situations.every((v, i) => v[own] !== value || safe[i] === 0)
    );
  });
  // Being stuck is reported as such; what is lost without being stuck is reported at the first state of its kind.
  const open = lost.filter((leaf) => !known.has(present(machine.states[leaf]).name));
  if (open.length < 2) return [];
  const names = (list: readonly number[]): string[] => list.map((leaf) => present(machine.states[leaf]).name);
  return [
    createFinding({
      ...ofState(machine, present(open[0])),
      code: 'OUT4',
      path: present(machine.states[present(open[0])]).path,
      evidence: { kind: 'home', homes: names(homes), lost: names(open) },
    }),
  ];
}
