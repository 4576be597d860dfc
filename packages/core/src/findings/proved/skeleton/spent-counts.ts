import { present } from '../../../present.js';
import type { Machine } from '../../../machine/index.js';
import { createFinding, type Finding } from '../../sentences/finding.js';
import { ofState, placeOf } from '../guard.js';

import type { Skeleton } from './explore/explore.js';
import { canReach } from './explore/reach.js';
import { blockedBy } from './reasons.js';
import { writersOfThing } from './space.js';

/** OUT5: counts that are spent and never given back once they are used up. */
export function spentCounts(machine: Machine, skeleton: Skeleton, sealed: ReadonlySet<string>): Finding[] {
  const { slice, situations } = skeleton;
  return slice.digits.flatMap((digit, p): Finding[] => {
    if (digit.kind !== 'count') return [];
    const dry = situations.filter((v) => v[p] === 0);
    const variable = present(machine.variables[digit.index]);
    if (dry.length === 0 || dry.length === situations.length || variable.initial === 0) return [];
    const back = canReach(skeleton, (values) => present(values[p]) > 0);
    if (situations.some((v, i) => v[p] === 0 && back[i] !== 0)) return [];
    const needs = [...skeleton.exits.values()]
      .flat()
      .filter((exit) => exit.digits.includes(p) && blockedBy(machine, skeleton, exit, dry) !== undefined);
    const first = needs.find((exit) => !sealed.has(present(machine.states[exit.leaf]).name));
    if (first === undefined) return [];
    return [
      createFinding({
        ...ofState(machine, first.leaf),
        code: 'OUT5',
        crossing: placeOf(machine, first.crossing),
        path: variable.path,
        evidence: {
          count: digit.name,
          initial: variable.initial,
          to: present(machine.states[first.crossing.to]).name,
          writers: writersOfThing(machine, digit),
        },
      }),
    ];
  });
}
