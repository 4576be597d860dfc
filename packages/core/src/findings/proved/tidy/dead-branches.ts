import { present } from '../../../present.js';
import type { Crossing, Machine } from '../../../machine/index.js';
import { type Expression, visit } from '../../../notation/index.js';
import { createFinding, type Finding } from '../../sentences/finding.js';
import { canHold, type Formula, formulaOf, truthOf } from '../../../solver/index.js';
import { constantFacts } from '../constants.js';
import { guardText, sourcesOf } from '../guard.js';
import { ofCrossing } from './subject.js';

/** TD6: a part of an `or`, or a branch of an `if`, that can never be the one that counts. */
export function deadBranches(machine: Machine, crossing: Crossing): Finding[] {
  if (crossing.when === undefined) return [];
  const sources = sourcesOf(machine, crossing);
  // A passing state is left on the facts of the state before it.
  const isPassing = sources.some((s) => present(machine.states[s]).passing);
  const given: Formula[] = [
    ...constantFacts(machine).map((c) => c.formula),
    ...(isPassing || sources.length === 0
      ? []
      : [{ kind: 'or' as const, parts: sources.map((s) => truthOf('in', present(machine.states[s]).name)) }]),
  ];
  // A guard that cannot hold at all is reported as such.
  if (!canHold(machine, [...given, formulaOf(crossing.when)])) return [];
  const dead: Expression[] = [];
  visit(crossing.when, (e) => {
    if (e.kind === 'logic' && e.op === 'or')
      dead.push(...e.parts.filter((part) => !canHold(machine, [...given, formulaOf(part)])));
    if (e.kind === 'choice') {
      if (!canHold(machine, [...given, formulaOf(e.when)])) dead.push(e.then);
      if (!canHold(machine, [...given, formulaOf(e.when, false)])) dead.push(e.otherwise);
    }
  });
  return dead.map((part) =>
    createFinding({
      ...ofCrossing(machine, crossing),
      code: 'TD6',
      path: [...crossing.path, 'when'],
      evidence: { term: guardText(part) },
    }),
  );
}
