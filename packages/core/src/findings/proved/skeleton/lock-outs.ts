import { ofState } from '../guard.js';
import { present } from '../../../present.js';
import { chainOf, type Machine } from '../../../machine/index.js';
import { createFinding, type Finding } from '../../sentences/finding.js';
import { type ByLeaf, isReached } from './basis.js';
import type { ThingValue } from '../../catalogue/evidence.js';
import type { Skeleton } from './explore/explore.js';
import { type Digit, isVariable, valueOf } from './space.js';
import { canReach, lastingValues } from './explore/reach.js';

/** OUT4: states, or a value of a variable, after which no home of their lane can be reached again. */
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
  const names = (list: readonly number[]): string[] => list.map((leaf) => present(machine.states[leaf]).name);
  const finding = (leaves: readonly number[], values: ThingValue[]): Finding =>
    createFinding({
      ...ofState(machine, present(leaves[0])),
      code: 'OUT4',
      path: present(machine.states[present(leaves[0])]).path,
      evidence: { kind: 'home', homes: names(homes), lost: names(leaves), values },
    });
  if (open.length >= 2) return [finding(open, [])];
  const isStuck = (leaf: number): boolean =>
    known.has(present(machine.states[leaf]).name) ||
    chainOf(machine, leaf).some((s) => present(machine.states[s]).final);
  return lostByValue(skeleton, own, safe).flatMap(({ digit, value, leaves }) => {
    const going = leaves.filter((leaf) => !isStuck(leaf) && !isHome(leaf));
    return going.length === 0 ? [] : [finding(going, [valueOf(machine, digit, value)])];
  });
}

/** The first variable, and its value, with which no home can be reached whatever else is so. */
function lostByValue(
  skeleton: Skeleton,
  own: number,
  safe: Uint8Array,
): { digit: Digit; value: number; leaves: number[] }[] {
  const { slice, situations } = skeleton;
  for (const [p, digit] of slice.digits.entries()) {
    if (!isVariable(digit.kind)) continue;
    for (const value of lastingValues(skeleton, p)) {
      if (situations.some((v, i) => v[p] === value && safe[i] !== 0)) continue;
      const states = present(slice.digits[own]).leaves;
      const leaves = new Set(
        situations.flatMap((v) => (v[p] === value ? [present(states[present(v[own])])] : [])),
      );
      return [{ digit, value, leaves: [...leaves] }];
    }
  }
  return [];
}
