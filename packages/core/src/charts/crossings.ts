import type { Crossing, Machine } from '../machine/index.js';
import { present } from '../present.js';

/** The guard of a crossing as the moveset has it, and `always` where it has none. */
export const guardText = (machine: Machine, { path }: Crossing): string =>
  machine.texts.find(({ path: at }) => at.join('/') === [...path, 'when'].join('/'))?.text ?? 'always';

/** A crossing in one line: its guard, then its rank and ability where they are not the usual. */
export const crossingText = (machine: Machine, crossing: Crossing): string =>
  [
    guardText(machine, crossing),
    ...(crossing.rank === 0 ? [] : [`rank ${crossing.rank}`]),
    ...(crossing.ability < 0 ? [] : [`with ${present(machine.abilities[crossing.ability]).name}`]),
  ].join(', ');

/** The names of the states and groups that a crossing leaves; `*` for everywhere. */
export const leftBy = ({ states }: Machine, { from }: Crossing): string[] =>
  from.length === 0 ? ['*'] : from.map((state) => present(states[state]).name);
