import { type Crossing, guardOf, type Machine } from '../machine/index.js';
import { present } from '../present.js';

/** A crossing in one line: its guard, then its rank and ability where they are not the usual. */
export const crossingText = (machine: Machine, crossing: Crossing): string =>
  [
    guardOf(machine, crossing)?.text ?? 'always',
    ...(crossing.rank === 0 ? [] : [`rank ${crossing.rank}`]),
    ...(crossing.ability < 0 ? [] : [`with ${present(machine.abilities[crossing.ability]).name}`]),
  ].join(', ');

/** The names of the states and groups that a crossing leaves; `*` for everywhere. */
export const leftBy = ({ states }: Machine, { from }: Crossing): string[] =>
  from.length === 0 ? ['*'] : from.map((state) => present(states[state]).name);
