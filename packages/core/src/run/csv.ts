import { present } from '../present.js';
import Papa from 'papaparse';
import { readTable } from './csv-table.js';
import { type Diagnostic, didYouMean } from '../model/index.js';
import type { Machine } from '../machine/index.js';
import { wrongValue } from './tape.js';
import type { Trace } from './trace.js';

/** Inputs as CSV (RFC 4180): a header of `tick` and the controls, then one line a tick. */
export const inputsCsv = (machine: Machine, inputs: readonly (readonly number[])[]): string =>
  written(
    ['tick', ...machine.controls.map((c) => c.name)],
    inputs.map((input, tick) => [tick, ...machine.controls.map((_, i) => input[i] ?? 0)]),
  );

/**
 * Inputs from CSV, one number a control in the machine's order. The header names the controls in any order; those it
 * leaves out rest. A column `tick`, when there is one, must count from 0. All faults, each at its line and column
 * (of fields, from 1).
 */
export function readInputsCsv(
  machine: Machine,
  text: string,
): { inputs?: number[][]; diagnostics: Diagnostic[] } {
  const { header, rows, diagnostics, fault } = readTable(text);
  const names = machine.controls.map((c) => c.name);
  const columns = header.map((cell, i) => {
    const name = cell.trim();
    const control = names.indexOf(name);
    if (name !== 'tick' && control < 0)
      fault(1, i + 1, `the moveset '${machine.name}' has no control '${name}'${didYouMean(name, names)}`);
    else if (header.findIndex((other) => other.trim() === name) < i) fault(1, i + 1, `found '${name}' twice`);
    return control;
  });
  const inputs = rows.map((row, tick) => {
    const line = tick + 2;
    const input = names.map(() => 0);
    row.slice(0, header.length).forEach((cell, i) => {
      const value = cell.trim() === '' ? NaN : Number(cell);
      const control = present(columns[i]);
      if (Number.isNaN(value)) fault(line, i + 1, `found '${cell}', expected a number`);
      else if (control < 0) {
        if (present(header[i]).trim() === 'tick' && value !== tick)
          fault(line, i + 1, `found tick ${cell.trim()}, expected ${tick}`);
      } else {
        const { kind } = present(machine.controls[control]);
        const wrong = value === 0 ? undefined : wrongValue(kind, value);
        const expected = kind === 'button' ? '0 or 1' : wrong;
        if (wrong !== undefined)
          fault(line, i + 1, `found ${value} for '${names[control]}', expected ${expected}`);
        input[control] = value;
      }
    });
    return input;
  });
  return diagnostics.length > 0 ? { diagnostics } : { inputs, diagnostics };
}

/** A run as CSV: one line a tick with what was put in and what came of it. Metres, metres a second, seconds. */
export function traceCsv({ machine, records }: Trace): string {
  const header = [
    'tick',
    'seconds',
    ...machine.controls.map((c) => c.name),
    ...machine.lanes.map((lane) => lane.name),
    ...['x', 'y', 'vx', 'vy', 'facing', 'stance', 'grounded'],
    ...machine.variables.map((v) => v.name),
    ...machine.timers.map((t) => `${t.name} ticks left`),
    ...machine.cooldowns.map((c) => `${c.name} charges`),
  ];
  return written(
    header,
    records.map((r) => [
      r.tick,
      (r.tick + 1) / machine.rate,
      ...r.input,
      ...r.leaves.map((leaf) => present(machine.states[leaf]).name),
      ...[r.body.x, r.body.y, r.body.vx, r.body.vy, r.facing],
      present(machine.stances[r.stance]).name,
      Number(r.grounded),
      ...r.variables,
      ...r.timers.map((t) => Math.max(0, t)),
      ...r.charges,
    ]),
  );
}

const written = (fields: string[], data: (string | number)[][]): string =>
  `${Papa.unparse({ fields, data }, { newline: '\r\n' })}\r\n`;
