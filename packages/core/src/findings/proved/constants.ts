import type { ConstantRef } from '../catalogue/evidence.js';
import { allEffects, type Machine } from '../../machine/index.js';
import { boundOf, canHold, type Formula, formulaOf, truthOf } from '../../solver/index.js';

/** A fact that no run can change, and why. */
export interface Constant {
  formula: Formula;
  because: ConstantRef;
}

/** What nobody ever writes, starts, unlocks or can press: facts that are the same in every run. */
export function constantFacts(machine: Machine): readonly Constant[] {
  let facts = known.get(machine);
  if (facts === undefined) known.set(machine, (facts = workedOut(machine)));
  return facts;
}

/** Those of each machine that were asked for before: every guard is judged with them. */
const known = new WeakMap<Machine, Constant[]>();

function workedOut(machine: Machine): Constant[] {
  const effects = allEffects(machine);
  const constants: Constant[] = [];
  for (const control of machine.controls) {
    if (control.keys.length > 0 || control.pad.length > 0) continue;
    const because: ConstantRef = { kind: 'unbound', name: control.name };
    if (control.kind === 'button') constants.push({ formula: truthOf('held', control.name, false), because });
    else
      constants.push({
        formula: {
          kind: 'and',
          parts: [boundOf('axis', control.name, '<=', 0), boundOf('axis', control.name, '>=', 0)],
        },
        because,
      });
  }
  machine.timers.forEach((timer, i) => {
    if (effects.some((e) => e.kind === 'start' && e.timer === i)) {
      const { runs, ticks } = timer;
      if (runs !== undefined && ticks > 0 && !canHold(machine, [formulaOf(runs)]))
        constants.push({
          formula: truthOf('done', timer.name, false),
          because: { kind: 'neverRuns', name: timer.name },
        });
      return;
    }
    const formula: Formula = {
      kind: 'and',
      parts: [truthOf('running', timer.name, false), truthOf('done', timer.name, false)],
    };
    constants.push({ formula, because: { kind: 'neverStarted', name: timer.name } });
  });
  // A locked ability is no constant: a zone of some course may unlock it.
  machine.variables.forEach((variable, i) => {
    const writes = effects.filter(
      (e) =>
        (e.kind === 'variable' && e.variable === i) ||
        ((e.kind === 'spend' || e.kind === 'refill') && e.what === 'count' && e.index === i),
    );
    if (variable.kind === 'flag') {
      const keeps = writes.every(
        (e) => e.kind === 'variable' && e.value.kind === 'constant' && e.value.value === variable.initial,
      );
      const kind = variable.initial === 0 ? 'neverSet' : 'neverCleared';
      if (keeps)
        constants.push({
          formula: truthOf('variable', variable.name, variable.initial !== 0),
          because: { kind, name: variable.name },
        });
    } else if (variable.kind === 'count') {
      const grows = variable.refill !== undefined || writes.some((e) => e.kind !== 'spend');
      if (!grows)
        constants.push({
          formula: boundOf('variable', variable.name, '<=', variable.initial),
          because: { kind: 'neverGivenBack', name: variable.name },
        });
    }
  });
  return constants;
}
