import { present } from '../../present.js';
import { type Expression, factsIn, type FactRef } from '../../notation/index.js';
import { chainOf, type Crossing, type Effect, isWithin, type Machine } from './machine.js';
import { expressionsInMotion, valuesOf } from './expressions.js';

/** The controls that conditions of the whole moveset read in every state: refills, and timers that run on a condition. */
export const readAlways = (machine: Machine): number[] =>
  controlsIn(machine, [
    ...machine.variables.map((v) => v.refill),
    ...machine.timers.map((t) => t.runs),
    ...machine.cooldowns.map((c) => c.refill),
  ]);

/** The controls that a state reads for as long as it lasts: by its motion, and by what it does each tick. */
export function readIn(machine: Machine, leaf: number): number[] {
  const each = chainOf(machine, leaf).flatMap((s) => present(machine.states[s]).each);
  return distinct([
    ...controlsIn(machine, expressionsInMotion(present(machine.states[leaf]).motion)),
    ...readByEffects(machine, each),
  ]);
}

/**
 * The controls that a crossing out of a state reads: by its guard, and by all that may be done on the way: effects of
 * leaving the state and its groups, the crossing's own, and those of entering what it leads to.
 */
export function readBy(machine: Machine, { when, do: effects, to }: Crossing, leaf: number): number[] {
  const left = chainOf(machine, leaf).flatMap((s) => present(machine.states[s]).exit);
  // Of a group any member may be entered: the one it begins with, or the one that was left last.
  const entered = machine.states
    .filter((s) => isWithin(machine, s.index, to) || isWithin(machine, to, s.index))
    .flatMap((s) => s.enter);
  return distinct([
    ...controlsIn(machine, [when]),
    ...readByEffects(machine, [...left, ...effects, ...entered]),
  ]);
}

function readByEffects(machine: Machine, effects: readonly Effect[]): number[] {
  const refs = effects.flatMap((e): FactRef[] => {
    if (e.kind === 'face') return e.way === 'axis' ? [present(machine.facts.refs[e.slot])] : [];
    return e.kind === 'cast' ? [{ fact: 'catches', of: present(machine.tethers[e.tether]).name }] : [];
  });
  return [...refs.flatMap((ref) => controlsBehind(machine, ref)), ...controlsIn(machine, valuesOf(effects))];
}

const controlsIn = (machine: Machine, expressions: readonly (Expression | undefined)[]): number[] =>
  expressions
    .flatMap((e) => (e === undefined ? [] : factsIn(e)))
    .flatMap((ref) => controlsBehind(machine, ref));

/** The controls that a fact is worked out from, by place. */
export function controlsBehind(machine: Machine, { fact, of }: FactRef): number[] {
  const named = (name: string | undefined): number[] => {
    const control = machine.controls.findIndex((c) => c.name === name);
    return control < 0 ? [] : [control];
  };
  switch (fact) {
    case 'held':
    case 'pressed':
    case 'released':
    case 'axis':
    case 'aim':
    case 'aimx':
    case 'aimy':
      return named(of);
    case 'pushing':
      return machine.steering;
    case 'probe':
    case 'distance':
    case 'angle':
    case 'hits': {
      // A probe that follows an aim sees what it is turned to.
      const probe = machine.probes.find((p) => p.name === of);
      return probe !== undefined && 'aim' in probe.direction ? named(probe.direction.aim) : [];
    }
    case 'catches':
      return named(machine.tethers.find((t) => t.name === of)?.aim);
    default:
      return [];
  }
}

const distinct = (numbers: readonly number[]): number[] => [...new Set(numbers)];
