import type { Control, Machine } from '@glenmark/core/machine';
import type { Change } from '@glenmark/core/model';
import { type Span, spansOf, type Tape, tapeInputs, tapeText, toMachineTick } from '@glenmark/core/run';

/** What a person does to a tape, as changes of its document. Ticks are those of the tape's own grid. */

/** The values of one control tick by tick. */
export function valuesOf(tape: Tape, control: string): number[] {
  const values = new Array<number>(tape.ticks).fill(0);
  for (const { spans } of tape.inputs.filter((i) => i.control === control))
    for (const { from, length, value } of spans) values.fill(value, from, from + length);
  return values;
}

/** The changes that give a control other values. */
function written(tape: Tape, control: string, values: readonly number[]): Change[] {
  const spans = spansOf(values);
  const others = tape.inputs.filter((i) => i.control !== control);
  if (spans.length > 0) {
    return tape.inputs.length === 0
      ? [{ path: ['inputs'], value: { [control]: spans } }]
      : [{ path: ['inputs', control], value: spans }];
  }
  if (!tape.inputs.some((i) => i.control === control)) return [];
  return others.length === 0 ? [{ path: ['inputs'] }] : [{ path: ['inputs', control] }];
}

/**
 * Puts a bar in place of another (either may be left out): what the old one covered goes to rest, the new one covers
 * what was there, and a tape that it goes beyond becomes longer.
 */
export function putBar(
  tape: Tape,
  control: string,
  old: Pick<Span, 'from' | 'length'> | undefined,
  next: Span | undefined,
): Change[] {
  const values = valuesOf(tape, control);
  if (old !== undefined) values.fill(0, old.from, old.from + old.length);
  if (next === undefined) return written(tape, control, values);
  const from = Math.max(0, next.from);
  const end = Math.max(from + 1, next.from + next.length);
  while (values.length < end) values.push(0);
  values.fill(next.value, from, end);
  return [...(end > tape.ticks ? lengthened(end) : []), ...written(tape, control, values)];
}

export const lengthened = (ticks: number): Change[] => [{ path: ['ticks'], value: Math.max(1, ticks) }];

/** What a bar that is drawn with the pointer holds: an axis goes its way by the half of the row. */
export const drawnValue = (kind: Control['kind'], upper: boolean): number =>
  kind === 'axis' ? (upper ? 1 : -1) : kind === 'aim' ? (upper ? 45 : -45) : 1;

/** The change that adds an expectation, which must be one line as tapes hold them. */
export const expecting = (tape: Tape, line: string): Change[] =>
  tape.expect.length === 0
    ? [{ path: ['expect'], value: [line] }]
    : [{ path: ['expect', tape.expect.length], value: line, insert: true }];

export const notExpecting = (tape: Tape, index: number): Change[] => [
  { path: tape.expect.length === 1 ? ['expect'] : ['expect', index] },
];

/** The changes that set a mark, or move one of that name. */
export const marking = (tape: Tape, name: string, tick: number): Change[] => [
  tape.marks.length === 0
    ? { path: ['marks'], value: { [name]: tick } }
    : { path: ['marks', name], value: tick },
];

export const notMarking = (tape: Tape, name: string): Change[] => [
  { path: tape.marks.length === 1 ? ['marks'] : ['marks', name] },
];

/** The text of a tape after it was driven: what looks at ticks beyond its new end cannot be asked any more. */
export function drivenText(
  tape: Tape,
  machine: Machine,
  moveset: string,
  inputs: readonly (readonly number[])[],
): string {
  const expect = tape.expect.filter((line) => {
    const [, ticks] = /^\s*(?:at|between)\s+(\d+(?:\s+and\s+\d+)?)/.exec(line) ?? [];
    return Math.max(...(ticks?.match(/\d+/g) ?? ['-1']).map(Number)) < inputs.length;
  });
  return tapeText(machine, {
    ...headOf(tape, moveset),
    inputs,
    marks: tape.marks.filter((mark) => mark.tick < inputs.length),
    expect,
  });
}

/** The text of a tape laid on the moveset's own ticks: it plays there as it did, and its bars can be edited. */
export function regriddedText(tape: Tape, machine: Machine, moveset: string): string {
  const onGrid = (tick: number): number => toMachineTick(tape, machine, tick);
  const expect = tape.expect.map((line) =>
    line.replace(/^\s*(?:at|between)\s+\d+(?:\s+and\s+\d+)?/, (when) =>
      when.replace(/\d+/g, (tick) => String(onGrid(Number(tick)))),
    ),
  );
  return tapeText(machine, {
    ...headOf(tape, moveset),
    inputs: tapeInputs(tape, machine),
    marks: tape.marks.map(({ name, tick }) => ({ name, tick: onGrid(tick) })),
    expect,
  });
}

/** What stays of a tape when its inputs are written anew. */
const headOf = ({ name, course, start, facing }: Tape, moveset: string) => ({
  name,
  moveset,
  course,
  start,
  facing,
});
