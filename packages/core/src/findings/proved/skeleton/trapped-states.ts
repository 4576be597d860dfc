import { present } from '../../../present.js';
import { chainOf, type Machine } from '../../../machine/index.js';
import { createFinding, type Finding } from '../../sentences/finding.js';
import { ofState, targetsOf, waysOut } from '../guard.js';
import { type ByLeaf, closedIn, endedElsewhere, isReached, type Trap } from './basis.js';
import type { Skeleton } from './explore/explore.js';
import { canReach } from './explore/reach.js';
import { tellsApart } from './reasons.js';

/** OUT2: states that are never left; and OUT3: those that cannot be left in some of their situations. */
export function trappedStates(
  machine: Machine,
  skeleton: Skeleton,
  { own, byLeaf }: { own: number; byLeaf: ByLeaf },
  known: ReadonlySet<string>,
  { suspects, found }: { suspects: Trap[]; found: readonly Finding[] },
): Finding[] {
  const { situations } = skeleton;
  const isOver = endedElsewhere(machine, skeleton, found);
  const { lane } = skeleton.slice;
  const leaves = present(skeleton.slice.digits[own]).leaves;
  const leaving = new Uint8Array(situations.length);
  skeleton.from.forEach((s, step) => {
    if (present(situations[s])[own] !== present(situations[present(skeleton.to[step])])[own]) leaving[s] = 1;
  });
  const free = canReach(
    skeleton,
    (_, place) => leaving[place] !== 0,
    (a, b) => present(situations[a])[own] === present(situations[b])[own],
  );
  return leaves.flatMap((leaf, value): Finding[] => {
    if (chainOf(machine, leaf).some((s) => present(machine.states[s]).final) || !isReached(byLeaf, leaf))
      return [];
    const stuck = situations.filter((v, i) => v[own] === value && free[i] === 0);
    if (stuck.length === 0 || known.has(present(machine.states[leaf]).name)) return [];
    const others = situations.filter((v, i) => v[own] === value && free[i] !== 0);
    const out = waysOut(machine, present(machine.lanes[lane]).crossings, leaf);
    // That nothing can enter what they lead to is reported there.
    if (out.length > 0 && out.every((c) => targetsOf(machine, c).every((t) => !isReached(byLeaf, t))))
      return [];
    const ways = out.flatMap((crossing) => {
      return closedIn(machine, skeleton, { leaf, crossing }, stuck);
    });
    const crossing = ways[0]?.crossing ?? null;
    const path =
      crossing === null
        ? present(machine.states[leaf]).path
        : present(present(machine.lanes[lane]).crossings[crossing.index]).path;
    if (others.length === 0)
      return [createFinding({ ...ofState(machine, leaf), code: 'OUT2', crossing, path, evidence: { ways } })];
    // Where only another lane's end keeps it in, that end is what there is to say.
    if (stuck.every(isOver)) return [];
    const finding = createFinding({
      ...ofState(machine, leaf),
      code: 'OUT3',
      certainty: 'suspected',
      crossing,
      path,
      evidence: {
        kind: 'while',
        values: tellsApart(
          machine,
          skeleton,
          stuck.filter((v) => !isOver(v)),
          others,
        ),
        ways,
      },
    });
    const places = new Set(
      situations.flatMap((v, i) => (v[own] === value && free[i] === 0 && !isOver(v) ? [i] : [])),
    );
    suspects.push({ finding, skeleton, places });
    return [finding];
  });
}
