import { present } from '../../../present.js';
import type { Machine } from '../../../machine/index.js';
import { createFinding, type Finding, type FindingOf } from '../../sentences/finding.js';
import { ofState, sourcesOf, waysIn } from '../guard.js';
import { type ByLeaf, closedIn, isReached } from './basis.js';
import type { Skeleton } from './explore/explore.js';

/** IN1 and IN2: states that nothing leads into; those that only such states lead to are reported with them. */
export function unreachableStates(
  machine: Machine,
  skeleton: Skeleton,
  byLeaf: ByLeaf,
  shut: ReadonlySet<string>,
): Finding[] {
  const { lane } = skeleton.slice;
  const crossings = present(machine.lanes[lane]).crossings;
  const unreached = [...byLeaf.keys()].filter((leaf) => !isReached(byLeaf, leaf));
  const nameOf = (leaf: number): string => present(machine.states[leaf]).name;
  const roots = unreached.flatMap((leaf): FindingOf<'IN2'>[] => {
    if (shut.has(nameOf(leaf))) return [];
    const ways = waysIn(machine, crossings, leaf).flatMap((crossing) =>
      sourcesOf(machine, crossing)
        .filter((s) => s !== leaf && isReached(byLeaf, s))
        .flatMap((s) => {
          return closedIn(machine, skeleton, { leaf: s, crossing }, present(byLeaf.get(s)));
        }),
    );
    const [first] = ways;
    if (first === undefined) return [];
    return [
      createFinding({
        ...ofState(machine, leaf),
        code: 'IN2',
        crossing: first.crossing,
        path: present(present(machine.lanes[lane]).crossings[first.crossing.index]).path,
        evidence: { ways, also: [], waits: [] },
      }) as FindingOf<'IN2'>,
    ];
  });
  const known = new Set([...shut, ...roots.map((f) => f.state)]);
  const others = unreached.filter((leaf) => !known.has(nameOf(leaf)));
  if (others.length === 0) return roots;
  // Those that follow are reported at what they follow from; a ring that leads only round at its first state.
  const follows = (leaf: number, seen: Set<number>): boolean =>
    waysIn(machine, crossings, leaf).some((c) =>
      sourcesOf(machine, c).some(
        (s) =>
          known.has(nameOf(s)) ||
          (!seen.has(s) && !isReached(byLeaf, s) && follows(s, new Set([...seen, s]))),
      ),
    );
  const ring = others.filter((leaf) => !follows(leaf, new Set([leaf])));
  const also = others.filter((l) => !ring.includes(l)).map(nameOf);
  const [root, ...rest] = roots;
  const entered =
    root === undefined || also.length === 0
      ? roots
      : [createFinding({ ...root, evidence: { ...root.evidence, also } }), ...rest];
  const [head] = ring;
  if (head === undefined) return entered;
  return [
    ...entered,
    createFinding({
      ...ofState(machine, head),
      code: 'IN1',
      crossing: null,
      path: present(machine.states[head]).path,
      evidence: { ring: ring.map(nameOf) },
    }),
  ];
}
