import { present } from '../../../present.js';
import type { Crossing, Machine } from '../../../machine/index.js';
import { createFinding, type Finding } from '../../sentences/finding.js';
import { implies } from '../../../solver/index.js';
import { guardText } from '../guard.js';
import { ofCrossing } from './subject.js';

/** TD5: a term of `and` that others of its terms imply already. */
export function redundantTerms(machine: Machine, crossing: Crossing): Finding[] {
  const terms = crossing.when?.kind === 'logic' && crossing.when.op === 'and' ? crossing.when.parts : [];
  const found = terms.find((term, i) =>
    terms.some(
      (other, j) => i !== j && (j < i || !implies(machine, term, other)) && implies(machine, other, term),
    ),
  );
  if (found === undefined) return [];
  const other = present(terms.find((t) => t !== found && implies(machine, t, found)));
  return [
    createFinding({
      ...ofCrossing(machine, crossing),
      code: 'TD5',
      path: [...crossing.path, 'when'],
      evidence: { term: guardText(found), by: guardText(other) },
    }),
  ];
}
