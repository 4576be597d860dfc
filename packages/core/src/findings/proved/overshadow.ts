import { present } from '../../present.js';
import { type Crossing, exitsOf, type Machine } from '../../machine/index.js';
import type { Constant } from './constants.js';
import { isFree, sourcesOf, targetsOf } from './guard.js';
import { type Assertion, contradiction, type Formula, formulaOf, truthOf } from '../../solver/index.js';

/**
 * The crossings that a crossing always loses to: from every state that it leaves, whenever it is open, one of them is
 * too and is considered first. Undefined when it may be taken. Never wrongly: what is not understood may hold.
 */
export function shadowOf(
  machine: Machine,
  crossing: Crossing,
  constants: readonly Constant[],
): Crossing[] | undefined {
  const winners = new Set<Crossing>();
  const sources = sourcesOf(machine, crossing);
  for (const leaf of sources) {
    const losing = shadowAt(machine, crossing, leaf, constants);
    if (losing === undefined) return undefined;
    for (const winner of losing) winners.add(winner);
  }
  return sources.length === 0 ? undefined : [...winners];
}

/** The same from one state. */
function shadowAt(
  machine: Machine,
  crossing: Crossing,
  leaf: number,
  constants: readonly Constant[],
): Crossing[] | undefined {
  const exits = exitsAt(machine, leaf);
  const roomy = targetsOf(machine, crossing).map((t) => present(machine.states[t]));
  const earlier = exits.slice(0, exits.indexOf(crossing)).filter((e) => isFree(machine, e, roomy));
  if (earlier.length === 0) return undefined;
  const state = present(machine.states[leaf]);
  // A passing state is left on the facts of the tick that entered it: those are of the state before.
  const inState: Formula = state.passing ? { kind: 'free' } : truthOf('in', state.name);
  const assertions: Assertion<Crossing | undefined>[] = [
    { formula: inState, about: undefined },
    ...constants.map(({ formula }) => ({ formula, about: undefined })),
    ...(crossing.when === undefined ? [] : [{ formula: formulaOf(crossing.when), about: undefined }]),
    ...earlier.map((e) => ({
      formula: e.when === undefined ? ({ kind: 'never' } as const) : formulaOf(e.when, false),
      about: e,
    })),
  ];
  const core = contradiction(machine, assertions)?.filter((c) => c !== undefined);
  // Without a winner in it, the crossing is shut by itself, which is another finding.
  return core === undefined || core.length === 0 ? undefined : core;
}

/** The crossings that leave a state in order; every one of them asks for it. */
function exitsAt(machine: Machine, leaf: number): readonly Crossing[] {
  let exits = known.get(machine);
  if (exits === undefined) known.set(machine, (exits = []));
  return (exits[leaf] ??= exitsOf(machine, leaf).map((exit) => exit.crossing));
}

const known = new WeakMap<Machine, Crossing[][]>();
