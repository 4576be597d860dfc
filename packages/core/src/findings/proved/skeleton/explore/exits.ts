import { present } from '../../../../present.js';
import {
  chainOf,
  type Crossing,
  type Effect,
  effectsBetween,
  exitsOf,
  type Machine,
  refOf,
} from '../../../../machine/index.js';
import { constantFacts } from '../../constants.js';
import { perMachine } from '../../per-machine.js';
import { abilitiesAsked, isFree, targetsOf } from '../../guard.js';
import { type Formula, formulaOf, keysIn } from '../../../../solver/index.js';
import { type Digit, digitRead, type Slice } from '../space.js';
import { type Op, opsOf } from '../writes.js';

/** A crossing as one leaf considers it. */
export interface Exit {
  crossing: Crossing;
  leaf: number;
  level: number;
  targets: { leaf: number; effects: Effect[]; ops: Op[] }[];
  /** What it asks for by itself: its guard and its abilities. */
  asks: Formula[];
  /** What it asks for, what never changes, and that none that would win is open. */
  formulas: Formula[];
  /** Parts that the formulas speak of. */
  digits: number[];
}

/** Formulas, with the digits that they speak of. */
export type Conditions = Pick<Exit, 'formulas' | 'digits'>;

/** The states of a lane, groups left out. */
export const leavesOfLane = (machine: Machine, lane: number): number[] =>
  machine.lanes[lane]!.states.filter((s) => machine.states[s]!.members.length === 0);

/** What an exit is, whatever a slice follows; `reads` are the things that its formulas speak of. */
type Basis = Omit<Exit, 'targets' | 'digits'> & {
  targets: Omit<Exit['targets'][number], 'ops'>[];
  reads: readonly Pick<Digit, 'kind' | 'index'>[];
};

/** The exits of a leaf, in the order in which they are considered. */
export function exitsIn(machine: Machine, { digits }: Slice, leaf: number): Exit[] {
  const known = knownBases(machine);
  let bases = known.get(leaf);
  if (bases === undefined) known.set(leaf, (bases = basesOf(machine, leaf)));
  return bases.map(({ targets, reads, ...basis }) => ({
    ...basis,
    targets: targets.map((target) => ({ ...target, ops: opsOf(machine, digits, target.effects) })),
    // A passing state is left on the facts of the tick that entered it: those of before its own effects.
    digits: machine.states[leaf]!.passing ? [] : placesOf(digits, reads),
  }));
}

/** They are the same in each of a lane's skeletons, of which there may be many. */
const knownBases = perMachine(() => new Map<number, Basis[]>());

function basesOf(machine: Machine, leaf: number): Basis[] {
  const all = exitsOf(machine, leaf);
  const constants = constantFacts(machine).map((c) => c.formula);
  return all.map(({ crossing, level }, i): Basis => {
    const targets = targetsOf(machine, crossing);
    const roomy = targets.map((t) => machine.states[t]!);
    const winners = all.slice(0, i).filter((w) => isFree(machine, w.crossing, roomy));
    const asks: Formula[] = [
      ...(crossing.when === undefined ? [] : [formulaOf(crossing.when)]),
      ...abilitiesAsked(machine, crossing),
    ];
    const formulas: Formula[] = [
      ...constants,
      ...asks,
      ...winners.map(({ crossing: { when } }): Formula =>
        when === undefined ? { kind: 'never' } : formulaOf(when, false),
      ),
    ];
    return {
      crossing,
      leaf,
      level,
      targets: targets.map((target) => ({
        leaf: target,
        effects: effectsBetween(machine, leaf, crossing, target).map(({ effect }) => effect),
      })),
      asks,
      formulas,
      reads: readIn(machine, formulas),
    };
  });
}

/** The digits that formulas speak of. */
export const digitsIn = (
  machine: Machine,
  digits: readonly Digit[],
  formulas: readonly Formula[],
): number[] => placesOf(digits, readIn(machine, formulas));

/** The things that formulas speak of, as far as a skeleton may follow them. */
const readIn = (machine: Machine, formulas: readonly Formula[]): Pick<Digit, 'kind' | 'index'>[] =>
  [...keysIn(formulas)].flatMap((key) => {
    const ref = refOf(machine.facts, key);
    return (ref && digitRead(machine, ref)) ?? [];
  });

/** The places of things among the digits, ascending; what is not followed has none. */
function placesOf(digits: readonly Digit[], things: readonly Pick<Digit, 'kind' | 'index'>[]): number[] {
  const found = new Set<number>();
  for (const { kind, index } of things) {
    const digit = digits.findIndex((p) => p.kind === kind && p.index === index);
    if (digit >= 0) found.add(digit);
  }
  return [...found].sort((a, b) => a - b);
}

/** The digit that a lane's state is. */
export const leafDigit = ({ digits }: Pick<Slice, 'digits'>, lane: number): number =>
  digits.findIndex((p) => p.kind === 'leaf' && p.index === lane);

/** What a leaf does every tick. */
export const eachOf = (machine: Machine, leaf: number): Effect[] =>
  chainOf(machine, leaf)
    .reverse()
    .flatMap((s) => present(machine.states[s]).each);
