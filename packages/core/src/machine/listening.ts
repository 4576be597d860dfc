import { type Expression, factsIn } from '../notation/index.js';
import { chainOf, type Crossing, type Effect, type Machine, type Motion } from './definition.js';

/** The controls that conditions of the whole moveset read in every state: refills, and timers that run on a condition. */
export const readAlways = (machine: Machine): number[] =>
  controlsIn(machine, [
    ...machine.variables.map((v) => v.refill),
    ...machine.timers.map((t) => t.runs),
    ...machine.cooldowns.map((c) => c.refill),
  ]);

/** The controls that a state reads for as long as it lasts: by its motion, and by what it does each tick. */
export function readIn(machine: Machine, leaf: number): number[] {
  const each = chainOf(machine, leaf).flatMap((s) => machine.states[s]!.each);
  return distinct([
    ...controlsIn(machine, expressionsIn(machine.states[leaf]!.motion)),
    ...readByEffects(machine, each),
  ]);
}

/** The controls that a crossing reads: by its guard, and by what is done on the way. */
export const readBy = (machine: Machine, { when, do: effects, to }: Crossing): number[] =>
  distinct([
    ...controlsIn(machine, [when]),
    ...readByEffects(machine, [...effects, ...chainOf(machine, to).flatMap((s) => machine.states[s]!.enter)]),
  ]);

function readByEffects(machine: Machine, effects: readonly Effect[]): number[] {
  const keys = effects.flatMap((e) => {
    if (e.kind === 'face') return e.way === 'axis' ? [machine.facts.keys[e.slot]!] : [];
    return e.kind === 'cast' ? (machine.tethers[e.tether]!.aim ?? []) : [];
  });
  const values = effects.map((e) => (e.kind === 'velocity' || e.kind === 'variable' ? e.value : undefined));
  return [...controlsBehind(machine, keys), ...controlsIn(machine, values)];
}

const controlsIn = (machine: Machine, expressions: readonly (Expression | undefined)[]): number[] =>
  controlsBehind(
    machine,
    expressions.flatMap((e) => (e === undefined ? [] : factsIn(e))),
  );

/** The controls that facts are worked out from, by place. */
function controlsBehind(machine: Machine, keys: readonly string[]): number[] {
  const found = new Set<number>();
  const steering = machine.controls.findIndex((c) => c.kind === 'axis');
  for (const key of keys) {
    const [, fact, name] = /^(\w+)\((\w+)\)$/.exec(key) ?? [];
    if (key === 'pushing' && steering >= 0) found.add(steering);
    if (name === undefined) continue;
    if (/^(held|pressed|released|axis|aim|aimx|aimy)$/.test(fact!))
      found.add(machine.controls.findIndex((c) => c.name === name));
    // A probe that follows an aim sees what it is turned to.
    const probe = machine.probes.find((p) => p.name === name);
    if (probe !== undefined && 'aim' in probe.direction)
      for (const control of controlsBehind(machine, [probe.direction.aim])) found.add(control);
  }
  return [...found];
}

const distinct = (numbers: readonly number[]): number[] => [...new Set(numbers)];

/** Every expression in a motion, wherever it stands. */
function expressionsIn(motion: Motion): Expression[] {
  const found: Expression[] = [];
  const look = (thing: unknown): void => {
    if (typeof thing !== 'object' || thing === null) return;
    if ('syntax' in thing && 'dimension' in thing) found.push(thing as Expression);
    else Object.values(thing).forEach(look);
  };
  look(motion);
  return found;
}
