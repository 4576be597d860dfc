import { present } from '../present.js';
import type { Machine } from '../machine/index.js';
import { printSpan, type Tape } from './tape.js';

/** What a tape file is made of. */
export interface TapeParts {
  name: string;
  moveset: string;
  course: string;
  start: Tape['start'];
  facing?: Tape['facing'];
  /** One number a control and tick, in the machine's order. */
  inputs: readonly (readonly number[])[];
  marks?: readonly { name: string; tick: number }[];
  expect: readonly string[];
  note?: string;
}

/** A tape as a file, as anyone can play it. */
export function tapeText(machine: Machine, parts: TapeParts): string {
  const { start, facing, marks = [] } = parts;
  const quoted = (text: string): string => JSON.stringify(text);
  const spans = machine.controls.flatMap((control, c) => {
    const list = spansOf(parts.inputs.map((input) => input[c] ?? 0));
    return list.length === 0 ? [] : [`  ${control.name}: [${list.map(quoted).join(', ')}]`];
  });
  return [
    ...(parts.note === undefined ? [] : [`# ${parts.note}`]),
    'glenmark: 1',
    'kind: tape',
    `name: ${quoted(parts.name)}`,
    `moveset: ${quoted(parts.moveset)}`,
    `course: ${quoted(parts.course)}`,
    'spawn' in start ? `spawn: ${start.spawn}` : `at: [${start.x} m, ${start.y} m]`,
    ...(facing === undefined ? [] : [`facing: ${facing < 0 ? 'left' : 'right'}`]),
    ...(machine.rate === machine.nominalRate ? [] : [`tickRate: ${machine.rate}`]),
    `ticks: ${parts.inputs.length}`,
    ...(spans.length === 0 ? [] : ['inputs:', ...spans]),
    ...(marks.length === 0 ? [] : ['marks:', ...marks.map(({ name, tick }) => `  ${name}: ${tick}`)]),
    ...(parts.expect.length === 0 ? [] : ['expect:', ...parts.expect.map((e) => `  - ${quoted(e)}`)]),
    '',
  ].join('\n');
}

/** The stretches of a control in which it is not at rest, as tapes hold them; `values` is one number a tick. */
export function spansOf(values: readonly number[]): string[] {
  const spans: string[] = [];
  for (let t = 0; t < values.length;) {
    const value = present(values[t]);
    let to = t + 1;
    while (to < values.length && values[to] === value) to++;
    if (value !== 0) spans.push(printSpan({ from: t, length: to - t, value }));
    t = to;
  }
  return spans;
}
