import type { Crossing, Machine } from '../../../machine/index.js';
import { createFinding, type Finding } from '../../sentences/finding.js';
import { equivalent } from '../../../solver/index.js';
import { guardText } from '../guard.js';
import { ofCrossing } from './subject.js';

/** TD4: a later crossing that leaves the same states for the same target under the same guard, and does the same. */
export function twinCrossings(machine: Machine, crossings: readonly Crossing[]): Finding[] {
  return crossings.flatMap((crossing, i): Finding[] => {
    const twin = crossings
      .slice(0, i)
      .find(
        (c) =>
          c.to === crossing.to &&
          c.from.length === crossing.from.length &&
          c.from.every((s) => crossing.from.includes(s)) &&
          c.ability === crossing.ability &&
          c.reenter === crossing.reenter &&
          doesText(c) === doesText(crossing) &&
          equivalent(machine, c.when, crossing.when),
      );
    if (twin === undefined) return [];
    return [
      createFinding({
        ...ofCrossing(machine, crossing),
        code: 'TD4',
        // The one that is considered last is never taken.
        path: (crossing.rank > twin.rank ? twin : crossing).path,
        evidence: { guards: [guardText(twin.when), guardText(crossing.when)] },
      }),
    ];
  });
}

const doesText = (crossing: Crossing): string => crossing.do.map((e) => e.text).join('; ');
