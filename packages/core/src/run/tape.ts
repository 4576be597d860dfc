import { present } from '../present.js';
import {
  type Diagnostic,
  diagnosticAt,
  didYouMean,
  isUsable,
  type NotationText,
  type Path,
  readFile,
  type Source,
  type TapeFile,
} from '../model/index.js';
import { GRID_SLACK } from '../tolerances.js';
import type { Control, Machine } from '../machine/index.js';
import { metresOf, readQuantity } from '../world/index.js';

/** A stretch of one control: `value` from tick `from`, for `length` ticks. */
export interface Span {
  from: number;
  length: number;
  value: number;
}

/** A tape as read: not yet tied to a moveset. */
export interface Tape {
  name: string;
  course: string;
  /** Where it begins: a spawn of the course, or a place of its own (metres, the feet). */
  start: { spawn: string } | { x: number; y: number };
  /** The way faced at first; the spawn's, or right, when undefined. */
  facing: 1 | -1 | undefined;
  /** Its own tick grid; that of the moveset when undefined. */
  rate: number | undefined;
  ticks: number;
  inputs: { control: string; spans: Span[] }[];
  marks: { name: string; tick: number }[];
  expect: string[];
  source: Source;
}

const SPAN = /^\s*(\d+)\s+for\s+(\d+)(?:\s+at\s+([+-]?(?:\d+(?:\.\d*)?|\.\d+)))?\s*$/;

/** Reads a tape from YAML or JSON text; all faults, each at its place. */
export function readTape(text: string): { tape?: Tape; file?: TapeFile; diagnostics: Diagnostic[] } {
  const { file, source, diagnostics } = readFile('tape', text);
  if (file === undefined || source === undefined) return { diagnostics };
  const found: Diagnostic[] = [];
  const inputs = Object.entries(file.inputs ?? {}).map(([control, texts]) => ({
    control,
    spans: texts.flatMap((span, i): Span[] => {
      const parsed = parseSpan(span);
      const path: Path = ['inputs', control, i];
      if (typeof parsed === 'string') {
        found.push(diagnosticAt(source, path, parsed));
        return [];
      }
      if (parsed.from + parsed.length > file.ticks) {
        found.push(
          diagnosticAt(
            source,
            path,
            `found a span up to tick ${parsed.from + parsed.length}, expected it to end by the tape's ${file.ticks} ticks`,
          ),
        );
      }
      return [parsed];
    }),
  }));
  file.at?.forEach((length, i) => {
    for (const { message, start } of readQuantity(length).faults)
      found.push(diagnosticAt(source, ['at', i], message, start === undefined ? {} : { offset: start }));
  });
  if (!isUsable(found)) return { file, diagnostics: found };
  const tape: Tape = {
    name: file.name,
    course: file.course,
    start: file.at === undefined ? { spawn: present(file.spawn) } : placeOf(file.at),
    facing: file.facing === undefined ? undefined : file.facing === 'left' ? -1 : 1,
    rate: file.tickRate,
    ticks: file.ticks,
    inputs,
    marks: Object.entries(file.marks ?? {}).map(([name, tick]) => ({ name, tick })),
    expect: file.expect ?? [],
    source,
  };
  return { tape, file, diagnostics: [] };
}

const placeOf = ([x, y]: readonly [NotationText, NotationText]): { x: number; y: number } => ({
  x: metresOf(x),
  y: metresOf(y),
});

/** One span from its text, or what is wrong with it. */
export function parseSpan(text: string): Span | string {
  const match = SPAN.exec(text);
  if (match === null)
    return `found '${text}', expected a span such as '20 for 11', or '6 for 144 at -1' for an axis`;
  const span = {
    from: Number(match[1]),
    length: Number(match[2]),
    value: match[3] === undefined ? 1 : Number(match[3]),
  };
  if (span.length < 1) return `found a span of ${span.length} ticks, expected at least one`;
  if (Math.abs(span.value) > 180)
    return `found the value ${span.value}, expected -1 to 1, or degrees from -180 to 180 for an aim`;
  return span;
}

/** The text of a span, as tapes hold it. */
export const printSpan = (span: Span): string =>
  `${span.from} for ${span.length}${span.value === 1 ? '' : ` at ${span.value}`}`;

/** What is wrong with a tape for this machine: controls that are not there, a value that they cannot have. */
export function checkTape(tape: Tape, machine: Machine): Diagnostic[] {
  const names = machine.controls.map((c) => c.name);
  return tape.inputs.flatMap(({ control, spans }): Diagnostic[] => {
    const known = machine.controls.find((c) => c.name === control);
    if (known === undefined) {
      return [
        diagnosticAt(
          tape.source,
          ['inputs', control],
          `the moveset '${machine.name}' has no control '${control}'${didYouMean(control, names)}`,
          { key: true },
        ),
      ];
    }
    return spans.flatMap((span, i) => {
      const wrong = wrongValue(known.kind, span.value);
      const message = `found the value ${span.value} on the ${known.kind} '${control}', expected ${wrong}`;
      return wrong === undefined ? [] : [diagnosticAt(tape.source, ['inputs', control, i], message)];
    });
  });
}

/** What a span of a control should have held instead, or undefined when its value is right. */
export function wrongValue(kind: Control['kind'], value: number): string | undefined {
  if (kind === 'button') return value === 1 ? undefined : 'none';
  if (kind === 'aim') return Math.abs(value) > 180 ? '-180 to 180 degrees' : undefined;
  return Math.abs(value) > 1 ? '-1 to 1' : undefined;
}

/** How many ticks a tape lasts at a machine's rate. */
export const tapeLength = (tape: Tape, machine: Machine): number =>
  Math.ceil(tape.ticks * ratioOf(tape, machine) - GRID_SLACK);

/** Ticks of a machine's rate in one of the tape's own grid. */
const ratioOf = (tape: Tape, machine: Machine): number => machine.rate / (tape.rate ?? machine.nominalRate);

/**
 * The last tick of one grid that ends no later than a tick of another, or the first one: where both look at the same
 * time. `ratio` is how many ticks of the one there are in one of the other.
 */
export const tickAtEnd = (tick: number, ratio: number): number =>
  Math.max(0, Math.floor((tick + 1) * ratio + GRID_SLACK) - 1);

/** A tick of the tape's own grid, as the tick of the machine's rate after which the world is that old. */
export const toMachineTick = (tape: Tape, machine: Machine, tick: number): number =>
  tickAtEnd(tick, ratioOf(tape, machine));

/**
 * The inputs of a tape tick by tick, each one number a control in the machine's order. At another rate than the tape's,
 * a tick takes what the tape holds at its beginning; but every press of a button, and every release between two of them,
 * has a tick of its own, if need be a later one.
 */
export function tapeInputs(tape: Tape, machine: Machine): number[][] {
  const length = tapeLength(tape, machine);
  const ratio = ratioOf(tape, machine);
  const own = machine.controls.map((control): Float64Array => {
    const values = valuesOf(tape, control.name);
    if (control.kind === 'button') return heldAt(pressesAt(stretchesOf(values), ratio), length);
    const at = (n: number): number => Math.min(tape.ticks - 1, Math.floor(n / ratio + GRID_SLACK));
    return Float64Array.from({ length }, (_, n) => present(values[at(n)]));
  });
  return Array.from({ length }, (_, n) => own.map((values) => present(values[n])));
}

/** What a tape holds a control at, tick by tick of its own grid. */
function valuesOf(tape: Tape, control: string): Float64Array {
  const values = new Float64Array(tape.ticks);
  for (const { spans } of tape.inputs.filter((input) => input.control === control))
    for (const { from, length, value } of spans) values.fill(value, from, from + length);
  return values;
}

/** A press of a button: from a tick up to another. */
interface Press {
  from: number;
  to: number;
}

function stretchesOf(values: Float64Array): Press[] {
  const presses: Press[] = [];
  for (let t = 0; t < values.length; t++) {
    if (values[t] === 0) continue;
    const from = t;
    while (t < values.length && values[t] !== 0) t++;
    presses.push({ from, to: t });
  }
  return presses;
}

/** Presses on another grid, each at least a tick long and a tick after the one before. */
function pressesAt(presses: readonly Press[], ratio: number): Press[] {
  let free = 0;
  return presses.map(({ from, to }) => {
    const start = Math.max(free, firstTick(from, ratio));
    const end = Math.max(
      start + 1,
      ratio < 1 ? Math.floor((to - 1) * ratio + GRID_SLACK) + 1 : firstTick(to, ratio),
    );
    free = end + 1;
    return { from: start, to: end };
  });
}

/** On a finer grid the first tick that begins no earlier than another; on a coarser one the tick that it lies in. */
const firstTick = (tick: number, ratio: number): number =>
  ratio < 1 ? Math.floor(tick * ratio + GRID_SLACK) : Math.ceil(tick * ratio - GRID_SLACK);

function heldAt(presses: readonly Press[], length: number): Float64Array {
  const values = new Float64Array(length);
  for (const { from, to } of presses) values.fill(1, from, to);
  return values;
}

/** A press that comes so many ticks later than the tape says is not the same play any more. */
const LATE = 1;

/**
 * What a rate is too low to hold: buttons that a tape presses again so soon that the presses would run together, and
 * come more than a tick late, or after the end.
 */
export function tooLowFor(tape: Tape, machine: Machine): Diagnostic[] {
  const ratio = ratioOf(tape, machine);
  if (ratio >= 1) return [];
  const length = tapeLength(tape, machine);
  return machine.controls.flatMap((control): Diagnostic[] => {
    if (control.kind !== 'button') return [];
    const presses = stretchesOf(valuesOf(tape, control.name));
    const late = pressesAt(presses, ratio).findIndex(
      ({ from }, i) => from >= length || from > firstTick(present(presses[i]).from, ratio) + LATE,
    );
    if (late < 0) return [];
    const message = `at ${machine.rate} ticks per second there is no room for each press of '${control.name}': the one at tick ${present(presses[late]).from} comes late`;
    return [diagnosticAt(tape.source, ['inputs', control.name], message, { key: true, severity: 'warning' })];
  });
}
