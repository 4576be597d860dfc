import { present } from '../../../present.js';
import type { Machine } from '../../../machine/index.js';
import { createFinding, type Finding } from '../../sentences/finding.js';
import { ofState, guardText, placeOf, sourcesOf, targetsOf } from '../guard.js';
import { type ByLeaf, closedIn, isReached } from './basis.js';
import type { Skeleton } from './explore/explore.js';

/** IN5: crossings that are never open though where they come from and lead to is entered. */
export function deadCrossings(
  machine: Machine,
  skeleton: Skeleton,
  byLeaf: ByLeaf,
  found: readonly Finding[],
): Finding[] {
  const { lane } = skeleton.slice;
  return present(machine.lanes[lane]).crossings.flatMap((crossing): Finding[] => {
    const sources = sourcesOf(machine, crossing).filter((s) => isReached(byLeaf, s));
    if (sources.length === 0 || !targetsOf(machine, crossing).some((t) => isReached(byLeaf, t))) return [];
    const ways = sources.flatMap((s) => {
      return closedIn(machine, skeleton, { leaf: s, crossing }, present(byLeaf.get(s)));
    });
    if (ways.length < sources.length) return [];
    const place = placeOf(machine, crossing);
    const laneName = present(machine.lanes[lane]).name;
    const isReported = found.some(
      (f) =>
        f.lane === laneName &&
        (f.crossing?.index === crossing.index ||
          (f.code === 'OUT2' && sources.every((s) => present(machine.states[s]).name === f.state))),
    );
    if (isReported) return [];
    return [
      createFinding({
        ...ofState(machine, present(targetsOf(machine, crossing)[0])),
        code: 'IN5',
        state: place.to,
        crossing: place,
        path: crossing.path,
        evidence: { guard: guardText(crossing.when), ways },
      }),
    ];
  });
}
