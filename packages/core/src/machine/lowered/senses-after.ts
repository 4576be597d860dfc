import { idOfRef } from '../../notation/index.js';
import { slotOf } from '../definition/facts.js';
import type { Machine } from '../definition/machine.js';
import { sourcesOf } from './facts.js';
import { layoutOf, TICK } from './layout.js';
import type { Asked, Program, Statement } from './program.js';
import { fact, field, minus, number, set } from './terms.js';

/**
 * A program that finds some facts, by slot, as they are after a tick, when its controls still are what they were: what a
 * tape's expectations look at. It changes nothing of the situation.
 */
export function lowerSensesAfter(machine: Machine, slots: readonly number[]): Program {
  const layout = layoutOf(machine, 0);
  const wanted = new Set(slots);
  // Probes and tethers are cast along the aim.
  for (const { kind, name } of machine.controls)
    if (kind === 'aim') wanted.add(slotOf(machine.facts, 'aim', name));
  const found: Statement[] = [];
  const last: Statement[] = [];
  const asked: Asked[] = [];
  // The tick that is over is the one before the next.
  sourcesOf(machine, layout, minus(field(TICK), number(1))).forEach((source, slot) => {
    const ref = machine.facts.refs[slot];
    if (source === undefined || ref === undefined || !wanted.has(slot)) return;
    if (source.when === 'asked') {
      asked.push({ slot, ref });
      last.push(set(fact(slot), fact(slot, true)));
    } else found.push(set(fact(slot), source.value));
  });
  return {
    layout,
    facts: machine.facts.refs.map((ref) => (ref === undefined ? 'memory' : idOfRef(ref))),
    registers: [],
    asked,
    steps: [{ name: 'sense', statements: [...found, ...last] }],
    procedures: [],
  };
}
