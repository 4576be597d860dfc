import { present } from '../../present.js';
import { type Crossing, exitsOf, type Machine } from '../../machine/index.js';
import { type Expression, type FactName, factsIn, visit } from '../../notation/index.js';
import { canHold, formulaOf, truthOf } from '../../solver/index.js';
import type { Code } from '../catalogue/catalogue.js';
import { createFinding, type Finding } from '../sentences/finding.js';
import { placeOf, targetsOf } from './guard.js';

/** What only changes when a hand does. */
const OF_HANDS: ReadonlySet<FactName> = new Set(['held', 'axis', 'aim', 'aimx', 'aimy']);

/** What a crossing itself may end: a press is over, a time begins anew, what effects write may be another. */
const PASSING: ReadonlySet<FactName> = new Set([
  'pressed',
  'released',
  'elapsed',
  'laneElapsed',
  'running',
  'done',
  'left',
  'ready',
  'charges',
  'variable',
  'event',
  'unlocked',
  'vx',
  'vy',
  'speed',
  'facing',
]);

/** What says more of a state: that it is never entered, or never left. */
const GRAVER: ReadonlySet<Code> = new Set(['IN1', 'IN2', 'IN3', 'OUT2']);

/**
 * AG4: a crossing that leads back to where the lane is, and stays open there: the state is entered again every tick.
 * Proved where it asks for nothing but held controls and comes first; suspected where it asks for what the course gives.
 */
export function reentries(machine: Machine, known: readonly Finding[]): Finding[] {
  return machine.states.flatMap((state): Finding[] => {
    if (state.members.length > 0 || state.passing) return [];
    const lane = present(machine.lanes[state.lane]).name;
    const isReported = known.some((f) => f.lane === lane && f.state === state.name && GRAVER.has(f.code));
    if (isReported) return [];
    const exits = exitsOf(machine, state.index);
    return exits.flatMap(({ crossing }, i): Finding[] => {
      const [target, ...others] = targetsOf(machine, crossing);
      if (target !== state.index || others.length > 0 || !lasts(crossing.when)) return [];
      const formulas = [truthOf('in', state.name), ...guardOf(crossing)];
      if (!canHold(machine, formulas)) return [];
      const refs = crossing.when === undefined ? [] : factsIn(crossing.when);
      const isSure = i === 0 && crossing.ability < 0 && refs.every(({ fact }) => OF_HANDS.has(fact));
      return [
        createFinding({
          code: 'AG4',
          certainty: isSure ? 'proved' : 'suspected',
          lane,
          state: state.name,
          crossing: placeOf(machine, crossing),
          path: crossing.path,
          witness: null,
          evidence: {
            states: [state.name, state.name],
            ticks: 1,
            held: refs.flatMap(({ fact, of }) => (OF_HANDS.has(fact) && of !== undefined ? [of] : [])),
          },
        }),
      ];
    });
  });
}

/** Whether a guard that held in one tick may go on to hold by itself: it asks for nothing that its crossing ends. */
function lasts(when: Expression | undefined): boolean {
  if (when === undefined) return true;
  let hasMemory = false;
  visit(when, (e) => (hasMemory ||= e.kind === 'memory'));
  return !hasMemory && !factsIn(when).some(({ fact }) => PASSING.has(fact));
}

const guardOf = ({ when }: Crossing) => (when === undefined ? [] : [formulaOf(when)]);
