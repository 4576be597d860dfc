import Papa from 'papaparse';
import type { Machine } from '../machine/index.js';
import { present } from '../present.js';
import { crossingText, leftBy } from './crossings.js';

/**
 * The from × to grid as CSV (RFC 4180): a row for each state and group of each lane, and for everywhere (`*`) where a
 * crossing leaves that; a column for each state and group; in a cell the crossings, one below the other.
 */
export function gridCsv(machine: Machine): string {
  const names = machine.states.map(({ name }) => name);
  const data = machine.lanes.flatMap(({ name: lane, states, crossings }) => {
    const rows = states.map((state) => present(machine.states[state]).name);
    const froms = crossings.some((c) => c.from.length === 0) ? [...rows, '*'] : rows;
    return froms.map((from) => [
      lane,
      from,
      ...names.map((to) =>
        crossings
          .filter((c) => present(machine.states[c.to]).name === to && leftBy(machine, c).includes(from))
          .map((c) => crossingText(machine, c))
          .join('\n'),
      ),
    ]);
  });
  return `${Papa.unparse({ fields: ['lane', 'from', ...names], data }, { newline: '\r\n' })}\r\n`;
}
