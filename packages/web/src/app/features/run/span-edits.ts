import { type Change, fragmentOf } from '@glenmark/core/model';
import { parseSpan, type Span, spansOf, type Tape } from '@glenmark/core/run';
import type { Stretch } from '../../shared/document/score-rows';
import { valuesOf } from './tape-edits';

/** What is done to a stretch of a whole tape, all controls at once, as changes of its document. */

/** What is held in some ticks, as a tape writes it. */
export interface Held {
  ticks: number;
  inputs: Record<string, string[]>;
}

/** What the tape holds in a stretch. */
export function heldIn(tape: Tape, { from, to }: Stretch): Held {
  const inputs = Object.fromEntries(
    controlsOf(tape)
      .map((control) => [control, spansOf(valuesOf(tape, control).slice(from, to))] as const)
      .filter(([, spans]) => spans.length > 0),
  );
  return { ticks: to - from, inputs };
}

/** What a copied text holds, or undefined for a text that is something else. */
export function heldOf(text: string): Held | undefined {
  if (!/^inputs:/m.test(text)) return undefined;
  const { ticks, inputs } = fragmentOf(text) ?? {};
  if (!Number.isInteger(ticks) || (ticks as number) < 1 || typeof inputs !== 'object' || inputs === null)
    return undefined;
  const isRight = Object.values(inputs).every(
    (spans) =>
      Array.isArray(spans) && spans.every((s) => typeof s === 'string' && typeof parseSpan(s) !== 'string'),
  );
  return isRight ? { ticks: ticks as number, inputs: inputs as Held['inputs'] } : undefined;
}

/** Nothing is held in a stretch any more. */
export const clearSpan = (tape: Tape, { from, to }: Stretch): Change[] => [
  inputsChange(tape, (values) => values.fill(0, from, to)),
];

/** A stretch is taken out, and what comes after moves up; undefined when that would be the whole tape. */
export const cutSpan = (tape: Tape, { from, to }: Stretch): Change[] | undefined =>
  to - from >= tape.ticks ? undefined : spliced(tape, from, to - from, { ticks: 0, inputs: {} });

/** What a stretch holds comes once more after it, and what came after moves on. */
export const repeatSpan = (tape: Tape, span: Stretch): Change[] =>
  spliced(tape, span.to, 0, heldIn(tape, span));

/** What was copied is put in at a tick, and what is there moves on. */
export const pasteAt = (tape: Tape, tick: number, held: Held): Change[] => spliced(tape, tick, 0, held);

/** The tape lasts so many ticks: rest is added at its end, or what is beyond taken off. */
export const resized = (tape: Tape, ticks: number): Change[] =>
  ticks >= tape.ticks
    ? [{ path: ['ticks'], value: ticks }]
    : spliced(tape, ticks, tape.ticks - ticks, { ticks: 0, inputs: {} });

/** Marks and expectations keep to what they are about; those in the ticks that are taken out go with them. */
function spliced(tape: Tape, at: number, removed: number, held: Held): Change[] {
  const by = held.ticks - removed;
  const moved = (tick: number): number | undefined =>
    tick < at ? tick : tick < at + removed ? undefined : tick + by;
  const marks = tape.marks.flatMap(({ name, tick }) => {
    const next = moved(tick);
    return next === undefined ? [] : [[name, next] as const];
  });
  const expect = tape.expect.flatMap((line) => movedLine(line, moved) ?? []);
  const inputs = inputsChange(
    tape,
    (values, control) => {
      const spans = (held.inputs[control] ?? []).map((text) => parseSpan(text) as Span);
      const own = new Array<number>(held.ticks).fill(0);
      for (const { from, length, value } of spans) own.fill(value, from, from + length);
      values.splice(at, removed, ...own);
    },
    Object.keys(held.inputs),
  );
  return [
    { path: ['ticks'], value: tape.ticks + by },
    inputs,
    ...listChange(['marks'], tape.marks.length, marks.length, Object.fromEntries(marks)),
    ...listChange(['expect'], tape.expect.length, expect.length, expect),
  ];
}

/** An expectation whose ticks have moved; undefined when one of them is gone. */
function movedLine(line: string, moved: (tick: number) => number | undefined): string | undefined {
  const head = /^\s*(?:at\s+\d+|between\s+\d+\s+and\s+\d+)/.exec(line)?.[0];
  if (head === undefined) return line;
  let isGone = false;
  const next = head.replace(/\d+/g, (tick) => {
    const to = moved(Number(tick));
    isGone ||= to === undefined;
    return String(to);
  });
  return isGone ? undefined : next + line.slice(head.length);
}

function inputsChange(
  tape: Tape,
  change: (values: number[], control: string) => void,
  more: string[] = [],
): Change {
  const inputs = Object.fromEntries(
    [...new Set([...controlsOf(tape), ...more])]
      .map((control) => {
        const values = valuesOf(tape, control);
        change(values, control);
        return [control, spansOf(values)] as const;
      })
      .filter(([, spans]) => spans.length > 0),
  );
  return Object.keys(inputs).length === 0 ? { path: ['inputs'] } : { path: ['inputs'], value: inputs };
}

const listChange = (path: string[], before: number, after: number, value: unknown): Change[] =>
  before === 0 ? [] : after === 0 ? [{ path }] : [{ path, value }];

const controlsOf = (tape: Tape): string[] => tape.inputs.map((i) => i.control);
