import { columnText, type Machine, QUANTITIES } from '../../machine/index.js';
import { type Diagnostic, didYouMean } from '../../model/index.js';
import { toBase, UNIT_NAMES } from '../../notation/index.js';
import { present } from '../../present.js';
import { type CsvTable, readTable } from '../csv-table.js';
import { wrongValue } from '../tape.js';

/** A number of a body that a log has. */
export type Quantity = (typeof QUANTITIES)[number];

const isQuantity = (name: string): name is Quantity => QUANTITIES.some((q) => q === name);

/** A column of a log that is held against the model: by tick, a number in base units (NaN where the log says nothing). */
export interface NumberColumn {
  kind: 'number';
  is: Quantity;
  /** The game's name of it. */
  name: string;
  values: Float64Array;
}

/** By tick, which states of ours the game's state may be, by index; empty where the log says nothing. */
export interface StateColumn {
  kind: 'state';
  lane: number;
  name: string;
  /** What the log says, and what that is here. */
  said: string[];
  states: (readonly number[])[];
}

export type LogColumn = NumberColumn | StateColumn;

/** What a log of a game says: what was pressed, and what came of it, tick by tick. */
export interface GameLogData {
  inputs: number[][];
  columns: LogColumn[];
  /** The game's columns that are nothing here. */
  unread: string[];
  /** Controls that the log does not have; they rest. */
  resting: string[];
}

/**
 * Reads a log of the game: CSV with a line for each tick. A header names a column as the moveset does, or as its
 * `gameLog` says the game does, with the unit in brackets: `x [cm]`. Columns that are nothing here are told, not
 * refused; everything else that is wrong is reported at its line and field.
 */
export function readGameLog(
  machine: Machine,
  text: string,
): { log?: GameLogData; diagnostics: Diagnostic[] } {
  const table = readTable(text);
  const { header, rows, diagnostics } = table;
  const controls = machine.controls.map(({ name }) => name);
  const heads = header.map((cell, i) => headOf(machine, table, cell, i));
  const inputs = rows.map(() => controls.map(() => 0));
  const columns: LogColumn[] = [];
  const unread: string[] = [];
  const seen = new Map<string, string>();
  heads.forEach((head, i) => {
    if (head === undefined) return;
    const { is, name, factor } = head;
    const other = seen.get(is);
    if (other !== undefined) {
      table.fault(1, i + 1, `found '${name}', which is '${is}' as '${other}' is already`);
      return;
    }
    seen.set(is, name);
    const control = controls.indexOf(is);
    if (is === 'tick') checkTicks(table, i);
    else if (is === 'time') checkTimes(table, i, factor * machine.rate);
    else if (control >= 0) readControl(machine, table, i, control, inputs);
    else if (isQuantity(is)) columns.push({ kind: 'number', is, name, values: numbersOf(table, i, factor) });
    else if (is.startsWith('state:'))
      columns.push(statesOf(machine, table, i, is.slice('state:'.length), name));
    else unread.push(name);
  });
  const resting = controls.filter((name) => !seen.has(name));
  if (columns.length === 0 && diagnostics.length === 0)
    table.fault(
      1,
      1,
      `found nothing to compare, expected a column such as x, vy or state:${present(machine.lanes[0]).name}`,
    );
  return diagnostics.length > 0
    ? { diagnostics }
    : { log: { inputs, columns, unread, resting }, diagnostics };
}

interface Head {
  is: string;
  name: string;
  factor: number;
}

/** What a cell of the header is here, and what its unit is in base units. */
function headOf(machine: Machine, { fault }: CsvTable, cell: string, index: number): Head | undefined {
  const { gameLog, rate } = machine;
  const { is: name, unit: written } = columnText(cell);
  const mapped = gameLog.columns.get(name) ?? gameLog.columns.get(cell);
  const is = mapped?.is ?? name;
  const unit = written ?? mapped?.unit;
  const lane = is.startsWith('state:') ? is.slice('state:'.length) : undefined;
  const lanes = machine.lanes.map((l) => l.name);
  if (lane !== undefined && !lanes.includes(lane)) {
    fault(1, index + 1, `no lane is called '${lane}'${didYouMean(lane, lanes)}`);
    return undefined;
  }
  const factor = unit === undefined || unit === '' ? 1 : factorOf(unit, { rate, pixel: gameLog.pixel });
  if (factor === undefined || Number.isNaN(factor)) {
    const reason = /px/.test(unit ?? '') ? ', and the moveset does not say how long a pixel is' : '';
    fault(1, index + 1, `found the unit '${unit}'${reason}, expected one such as m, cm, m/s or px/tick`);
    return undefined;
  }
  return { is, name, factor };
}

/** What one of a unit, or of one unit for each of another, is in base units; undefined for what is no unit. */
function factorOf(unit: string, scale: { rate: number; pixel: number | undefined }): number | undefined {
  if (unit === 'm/s') return 1;
  const parts = unit.split('/').map((part) => part.trim());
  if (parts.length > 2 || parts.some((part) => !UNIT_NAMES.includes(part))) return undefined;
  const [of = '', per] = parts;
  return toBase(1, of, scale) / (per === undefined ? 1 : toBase(1, per, scale));
}

const numberIn = (cell: string): number => (cell.trim() === '' ? NaN : Number(cell));

/** By row, the numbers of a column in base units; an empty field says nothing. */
function numbersOf({ rows, fault }: CsvTable, index: number, factor: number): Float64Array {
  return Float64Array.from(rows, (row, i) => {
    const cell = row[index] ?? '';
    const value = numberIn(cell);
    if (cell.trim() !== '' && !Number.isFinite(value))
      fault(i + 2, index + 1, `found '${cell}', expected a number`);
    return value * factor;
  });
}

function checkTicks({ rows, fault }: CsvTable, index: number): void {
  const first = numberIn(rows[0]?.[index] ?? '');
  rows.forEach((row, i) => {
    const value = numberIn(row[index] ?? '');
    if (value !== first + i) fault(i + 2, index + 1, `found tick ${row[index] ?? ''}, expected ${first + i}`);
  });
}

/** Times must be one tick apart, within a tenth of one. */
function checkTimes({ rows, fault }: CsvTable, index: number, ticksPerUnit: number): void {
  const first = numberIn(rows[0]?.[index] ?? '');
  for (const [i, row] of rows.entries()) {
    const ticks = (numberIn(row[index] ?? '') - first) * ticksPerUnit;
    if (Math.abs(ticks - i) <= 0.1) continue;
    fault(
      i + 2,
      index + 1,
      `found ${row[index] ?? ''}, which is ${Number(ticks.toFixed(2))} ticks after the first line, expected ${i}`,
    );
    // What follows is off by as much.
    return;
  }
}

const TRUTHS: Partial<Record<string, number>> = { true: 1, false: 0 };

function readControl(
  machine: Machine,
  { rows, fault }: CsvTable,
  index: number,
  control: number,
  inputs: readonly number[][],
): void {
  const { kind, name } = present(machine.controls[control]);
  rows.forEach((row, i) => {
    const cell = (row[index] ?? '').trim();
    const value = TRUTHS[cell.toLowerCase()] ?? numberIn(cell);
    const wrong = Number.isNaN(value) ? 'a number' : value === 0 ? undefined : wrongValue(kind, value);
    if (wrong !== undefined)
      fault(
        i + 2,
        index + 1,
        `found '${cell}' for '${name}', expected ${kind === 'button' ? '0 or 1' : wrong}`,
      );
    present(inputs[i])[control] = Number.isNaN(value) ? 0 : value;
  });
}

/** The states of a lane that the game's names of states are. */
function statesOf(
  machine: Machine,
  { rows, fault }: CsvTable,
  index: number,
  laneName: string,
  name: string,
): StateColumn {
  const lane = machine.lanes.findIndex((l) => l.name === laneName);
  const inLane = machine.states.filter((s) => s.lane === lane);
  const names = machine.gameLog.states.get(laneName);
  const known = [...(names?.keys() ?? []), ...inLane.map((s) => s.name)];
  const said = rows.map((row) => (row[index] ?? '').trim());
  const states = said.map((cell, i): number[] => {
    if (cell === '') return [];
    const found = inLane.filter((s) => (names?.get(cell) ?? [cell]).includes(s.name)).map((s) => s.index);
    if (found.length === 0)
      fault(
        i + 2,
        index + 1,
        `found the state '${cell}'${didYouMean(cell, known)}, expected one of the lane ${laneName}, or one that the moveset's gameLog has`,
      );
    return found;
  });
  return { kind: 'state', lane, name, said, states };
}
