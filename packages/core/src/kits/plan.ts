import { present } from '../present.js';
import type { Machine } from '../machine/index.js';
import type { SymbolKind } from '../notation/index.js';

/** A named thing of a kit, and what it becomes in the moveset that takes the kit. */
export interface KitPart {
  kind: SymbolKind;
  /** Its name in the kit. */
  name: string;
  /** Its name in the moveset: of something that is there already, or a new one. */
  as: string;
  /** Whether the moveset has it already, so that only what refers to it is added. */
  isThere: boolean;
}

/** Everything of a machine that has a name, by its kind, in the order of the file. */
export const namesOf = (machine: Machine): { kind: SymbolKind; name: string }[] => [
  ...machine.dials.map(({ name }) => ({ kind: 'dial' as const, name })),
  ...machine.controls.map(({ kind, name }) => ({ kind, name })),
  ...machine.stances.filter((s) => !s.hidden).map(({ name }) => ({ kind: 'stance' as const, name })),
  ...machine.probes.map(({ name }) => ({ kind: 'probe' as const, name })),
  ...machine.variables.map(({ name }) => ({ kind: 'variable' as const, name })),
  ...machine.timers.map(({ name }) => ({ kind: 'timer' as const, name })),
  ...machine.cooldowns.map(({ name }) => ({ kind: 'cooldown' as const, name })),
  ...machine.tethers.map(({ name }) => ({ kind: 'tether' as const, name })),
  ...machine.abilities.map(({ name }) => ({ kind: 'ability' as const, name })),
  ...machine.states.map(({ name }) => ({ kind: 'state' as const, name })),
];

/**
 * A first plan for taking a kit into a lane of a moveset, to be changed by a person. `yours` are the states of the kit
 * that stand for what the moveset has already: where it walks, where it is aloft. Controls and stances of the same name
 * are the same thing, an axis is the moveset's first one; all else is new, under a name that is free.
 */
export function planKit(target: Machine, lane: number, kit: Machine, yours: readonly string[]): KitPart[] {
  const taken = new Set(namesOf(target).map((n) => n.name));
  const used = new Set<string>();
  const free = (name: string): string => {
    let as = name;
    for (let n = 2; taken.has(as) || used.has(as); n++) as = `${name}${n}`;
    used.add(as);
    return as;
  };
  return namesOf(kit).map(({ kind, name }): KitPart => {
    const there = standsFor(target, lane, kit, { kind, name }, yours);
    return there === undefined || used.has(there)
      ? { kind, name, as: free(name), isThere: false }
      : { kind, name, as: (used.add(there), there), isThere: true };
  });
}

/** What of a moveset a thing of a kit stands for, if anything. */
function standsFor(
  target: Machine,
  lane: number,
  kit: Machine,
  { kind, name }: { kind: SymbolKind; name: string },
  yours: readonly string[],
): string | undefined {
  if (kind === 'button' || kind === 'axis' || kind === 'aim') {
    const same = target.controls.filter((c) => c.kind === kind);
    const isFirstAxis = kind === 'axis' && kit.controls.find((c) => c.kind === 'axis')?.name === name;
    return (same.find((c) => c.name === name) ?? (isFirstAxis ? same[0] : undefined))?.name;
  }
  if (kind === 'stance') {
    const own = present(kit.stances.find((s) => s.name === name));
    const isPlain = own.parts.length === 1;
    return isPlain ? target.stances.find((s) => s.name === name && s.parts.length === 1)?.name : undefined;
  }
  if (kind !== 'state' || !yours.includes(name)) return undefined;
  const { states, lanes } = target;
  const own = present(lanes[lane]).states.map((s) => present(states[s]));
  const isBegin = present(kit.states[present(kit.lanes[0]).initial]).name === name || name === yours[0];
  if (isBegin) return present(states[present(lanes[lane]).initial]).name;
  return (
    own.find((s) => s.name === name) ??
    own.find((s) => s.kind === 'aloft' && s.parent < 0 && s.index !== present(lanes[lane]).initial)
  )?.name;
}
