import { present } from '../../present.js';
import { idOfRef, type Scope, type ThingKind } from '../../notation/index.js';
import type { Machine } from '../definition/machine.js';

/** The names of a machine, for checking and completing a text that is about it; nothing new can be remembered. */
export function scopeOf(machine: Machine): Scope {
  const names = (list: readonly { name: string }[]): string[] => list.map((item) => item.name);
  const things: Record<ThingKind, string[]> = {
    button: names(machine.controls.filter((c) => c.kind === 'button')),
    axis: names(machine.controls.filter((c) => c.kind === 'axis')),
    probe: names(machine.probes),
    timer: names(machine.timers),
    cooldown: names(machine.cooldowns),
    state: names(machine.states),
    stance: names(machine.stances),
    ability: names(machine.abilities),
    event: machine.events,
    aim: names(machine.controls.filter((c) => c.kind === 'aim')),
    tether: names(machine.tethers),
    zone: machine.zoneTags,
  };
  return {
    rate: machine.rate,
    pixel: undefined,
    constant: (name) =>
      name === 'gravity'
        ? { dimension: { truth: false, m: 1, s: -2, deg: 0 }, value: machine.gravity }
        : machine.dials.find((d) => d.name === name),
    variable: (name) => machine.variables.find((v) => v.name === name)?.dimension,
    things: (kind) => things[kind],
    names: () => ['gravity', ...names(machine.dials), ...names(machine.variables)],
    slot: (ref) => machine.facts.slots.get(idOfRef(ref)),
    memory: () => undefined,
    elapsed: { fact: 'laneElapsed', of: present(machine.lanes[0]).name },
  };
}
