import { present } from '../../present.js';
import { type Crossing, leavesOf, levelOf, chainOf, type Machine, type State } from '../../machine/index.js';
import { type Expression, print } from '../../notation/index.js';
import type { Constant } from './constants.js';
import type { Certainty } from '../catalogue/catalogue.js';
import type { ClosedWay, ConstantRef, CrossingPlace, Hindrance } from '../catalogue/evidence.js';
import { type Core, coreOf } from '../../world/index.js';
import { type Assertion, contradiction, type Formula, formulaOf, truthOf } from '../../solver/index.js';
import { shutWords } from '../sentences/words.js';

/** Why a crossing can never be taken: terms of its guard that exclude each other, and facts that never change. */
export interface Shut {
  terms: string[];
  constants: ConstantRef[];
}

/** The leaves from which a crossing can be taken at all. */
export const sourcesOf = (machine: Machine, crossing: Crossing): number[] =>
  present(machine.lanes[crossing.lane]).states.filter(
    (s) =>
      present(machine.states[s]).members.length === 0 &&
      levelOf(machine, crossing, s, chainOf(machine, s)) >= 0,
  );

/** The leaves that a crossing can lead into. */
export function targetsOf(machine: Machine, crossing: Crossing): number[] {
  const enter = (state: number): number[] => {
    const { members, initial, resumes } = present(machine.states[state]);
    if (members.length === 0) return [state];
    return resumes ? leavesOf(machine, state) : enter(initial);
  };
  return enter(crossing.to);
}

/** Why a crossing can never be taken, or undefined when it may be. Never wrongly. */
export function shutGuard(
  machine: Machine,
  crossing: Crossing,
  constants: readonly Constant[],
): Shut | undefined {
  const sources = sourcesOf(machine, crossing);
  if (sources.length === 0) return undefined;
  // A passing state is left on the facts of the tick that entered it: those are of the state before.
  const passing = sources.some((s) => present(machine.states[s]).passing);
  const inOne: Formula = passing
    ? { kind: 'free' }
    : { kind: 'or', parts: sources.map((s) => truthOf('in', present(machine.states[s]).name)) };
  const assertions: Assertion<{ term?: string; because?: ConstantRef }>[] = [
    { formula: inOne, about: {} },
    ...constants.map((c) => ({ formula: c.formula, about: { because: c.because } })),
    ...abilitiesAsked(machine, crossing).map((formula) => ({ formula, about: {} })),
    ...roomAsked(machine, crossing),
    ...conjuncts(crossing.when).map((e) => ({ formula: formulaOf(e), about: { term: print(e.syntax) } })),
  ];
  const core = contradiction(machine, assertions);
  if (core === undefined) return undefined;
  return {
    terms: core.flatMap((a) => (a.term === undefined ? [] : [a.term])),
    constants: core.flatMap((a) => (a.because === undefined ? [] : [a.because])),
  };
}

/** That the abilities are unlocked without which a crossing is not taken: its own, and that of the one state it leads to. */
export function abilitiesAsked(machine: Machine, crossing: Crossing): Formula[] {
  const [target, ...others] = targetsOf(machine, crossing);
  const own = target === undefined || others.length > 0 ? -1 : present(machine.states[target]).ability;
  return [crossing.ability, own]
    .filter((a) => a >= 0)
    .map((a) => truthOf('unlocked', present(machine.abilities[a]).name));
}

/** That there is room for the stance of the one state that a crossing leads to, when it is refused without. */
function roomAsked(machine: Machine, crossing: Crossing): Assertion<{ term: string }>[] {
  const [target, ...others] = targetsOf(machine, crossing).map((t) => present(machine.states[t]));
  if (target === undefined || others.length > 0 || target.stance < 0 || target.ifBlocked === 'wait')
    return [];
  const { name } = present(machine.stances[target.stance]);
  return [{ formula: truthOf('fits', name), about: { term: `fits(${name})` } }];
}

/** Why a guard can never hold, in words; for the line under a guard that is being written. */
export const describeShut = ({ terms, constants }: Shut): string => shutWords(terms, constants);

/** A guard as people read it in a list of crossings; null when it is always open. */
export const guardOrNull = ({ when }: Pick<Crossing, 'when'>): string | null =>
  when === undefined ? null : print(when.syntax);

/** A guard as people read it in a sentence. */
export const guardText = (when: Expression | undefined): string =>
  when === undefined ? 'always' : print(when.syntax);

export function conjuncts(e: Expression | undefined): Expression[] {
  if (e === undefined) return [];
  return e.kind === 'logic' && e.op === 'and' ? e.parts.flatMap(conjuncts) : [e];
}

/** Whether nothing but its guard can hold a crossing back while there is room for some states: no ability, same room. */
export function isFree(machine: Machine, crossing: Crossing, roomy: readonly State[]): boolean {
  return (
    crossing.ability < 0 &&
    targetsOf(machine, crossing).every((t) => {
      const target = present(machine.states[t]);
      if (target.ability >= 0) return false;
      if (target.stance < 0 || target.ifBlocked === 'wait') return true;
      return roomy.every((r) => r.ifBlocked === 'refuse' && liesWithin(machine, target.stance, r.stance));
    })
  );
}

/**
 * Whether a stance fits wherever another one does: it is that one, or both stand on the same feet and every part of it
 * lies in a part of the other.
 */
export function liesWithin(machine: Machine, inner: number, outer: number): boolean {
  if (inner === outer) return true;
  const [small, large] = [machine.stances[inner], machine.stances[outer]];
  if (small?.anchor !== 'feet' || large?.anchor !== 'feet') return false;
  return small.parts.map(coreOf).every((a) => large.parts.map(coreOf).some((b) => liesIn(a, b)));
}

/** Whether a rounded box lies in another: each corner of its core is no farther from the other's than their radii differ. */
function liesIn(a: Core, b: Core): boolean {
  // What rounding makes of two stances that share an edge is far less than what `fits` forgives.
  const room = b.radius - a.radius + 1e-9;
  if (room < 0) return false;
  const beyond = (centre: number, half: number, of: number, ofHalf: number): number =>
    Math.max(0, Math.abs(centre - of) + half - ofHalf);
  const dx = beyond(a.cx, a.hx, b.cx, b.hx);
  const dy = beyond(a.cy, a.hy, b.cy, b.hy);
  return dx * dx + dy * dy <= room * room;
}

/** Crossings that lead into a state from another one. */
export const waysIn = (machine: Machine, crossings: readonly Crossing[], leaf: number): Crossing[] =>
  crossings.filter(
    (c) => targetsOf(machine, c).includes(leaf) && sourcesOf(machine, c).some((s) => s !== leaf),
  );

/** Crossings that lead out of a state to another one. */
export const waysOut = (machine: Machine, crossings: readonly Crossing[], leaf: number): Crossing[] =>
  crossings.filter(
    (c) =>
      levelOf(machine, c, leaf, chainOf(machine, leaf)) >= 0 && targetsOf(machine, c).some((t) => t !== leaf),
  );

/** Where a crossing comes from, in words. */
export const fromOf = (machine: Machine, c: Crossing): string =>
  c.from.length === 0 ? 'everywhere' : c.from.map((s) => present(machine.states[s]).name).join(', ');

/** A crossing's place, as findings name it. */
export const placeOf = (machine: Machine, c: Crossing): CrossingPlace => ({
  from: fromOf(machine, c),
  to: present(machine.states[c.to]).name,
  index: c.index,
});

/** A crossing that cannot be taken, and what hinders it, as evidence; `state` is the one from which that was asked. */
export const closedWay = (
  machine: Machine,
  crossing: Crossing,
  hindrance: Hindrance,
  state = fromOf(machine, crossing),
): ClosedWay => ({ crossing: placeOf(machine, crossing), rank: crossing.rank, state, hindrance });

/** What findings about a state have in common. */
export const ofState = (machine: Machine, leaf: number) => {
  const { name, lane } = present(machine.states[leaf]);
  return {
    certainty: 'proved' as Certainty,
    lane: present(machine.lanes[lane]).name,
    state: name,
    crossing: null as CrossingPlace | null,
    witness: null,
  };
};
