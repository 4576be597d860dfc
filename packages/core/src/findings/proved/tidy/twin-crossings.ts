import type { Crossing, Machine } from '../../../machine/index.js';
import { createFinding, type Finding } from '../../sentences/finding.js';
import { equivalent } from '../../../solver/index.js';
import { guardText } from '../guard.js';
import { ofCrossing } from './subject.js';

/** TD4: a later crossing that leaves the same states for the same target under the same guard. */
export function twinCrossings(machine: Machine, crossings: readonly Crossing[]): Finding[] {
  return crossings.flatMap((crossing, i): Finding[] => {
    const twin = crossings
      .slice(0, i)
      .find(
        (c) =>
          c.to === crossing.to &&
          c.from.length === crossing.from.length &&
          c.from.every((s) => crossing.from.includes(s)) &&
          equivalent(machine, c.when, crossing.when),
      );
    if (twin === undefined) return [];
    return [
      createFinding({
        ...ofCrossing(machine, crossing),
        code: 'TD4',
        path: crossing.path,
        evidence: { guards: [guardText(twin.when), guardText(crossing.when)] },
      }),
    ];
  });
}
