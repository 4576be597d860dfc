import { present } from '../present.js';
import { type Diagnostic, diagnosticAt, type Path } from '../model/index.js';
import { type Machine, type Reference, remember, scopeOf, startOfMemory } from '../machine/index.js';
import {
  checkText,
  compare,
  type Comparison,
  dialsIn,
  evaluate,
  type Expression,
  formatValue,
  holds,
  type Remembered,
  type Scope,
  slotsIn,
  toTicks,
  TRUTH,
} from '../notation/index.js';
import { type Tape, tapeLength, toMachineTick } from './tape.js';

/** Something a tape expects of its run, watched tick by tick. */
export interface Expectation {
  text: string;
  /** First and last machine tick that it looks at. */
  from: number;
  to: number;
  mode: 'every' | 'some' | 'never' | 'peak' | 'lowest';
  /** A truth value; for `peak` and `lowest`, the quantity on the left of the comparison. */
  expression: Expression;
  bound: { op: Comparison; value: number; rate: number | undefined } | undefined;
  /** The dials that its constants were made from. */
  dials: readonly string[];
}

/** What a tape expects, and what `within` and `for` in it have to remember, inner ones first. */
export interface Expectations {
  list: Expectation[];
  memories: Remembered[];
}

export interface ExpectationResult {
  text: string;
  passed: boolean;
  /** The tick that decided it: of the failure, of the fulfilment, or of the extreme. */
  tick: number;
  /** What was seen there, when the text does not say. */
  seen: string | undefined;
}

const FORM =
  /^\s*(?:(at)\s+(end|\d+)|(between)\s+(\d+)\s+and\s+(\d+)|(always|never|sometime|peak|lowest))\s+/;

/** Where the words that an expectation begins with end, or undefined when it begins with none of them. */
export const expectedFrom = (text: string): number | undefined => FORM.exec(text)?.[0].length;

/** What an expectation can begin with, for those who write one. */
export const EXPECTATION_FORMS: readonly { text: string; help: string }[] = [
  { text: 'at end ', help: 'it holds in the last tick; a number instead of end: in that tick' },
  { text: 'between ', help: 'between 60 and 90: it holds in each of these ticks' },
  { text: 'always ', help: 'it holds in every tick' },
  { text: 'never ', help: 'it holds in no tick' },
  { text: 'sometime ', help: 'it holds in some tick' },
  { text: 'peak ', help: 'peak height >= 2 m: the most that it comes to' },
  { text: 'lowest ', help: 'lowest vy > -18 m/s: the least that it comes to' },
];

/** Compiles the `expect` lines of a tape for a machine; faults at their places. */
export function compileExpectations(
  tape: Tape,
  machine: Machine,
): { expectations: Expectations; diagnostics: Diagnostic[] } {
  const diagnostics: Diagnostic[] = [];
  const length = tapeLength(tape, machine);
  const memories: Remembered[] = [];
  const scope: Scope = {
    ...scopeOf(machine),
    // What expectations remember lies behind the machine's own facts.
    memory: (memory) => {
      const slot = machine.facts.refs.length + memories.length;
      memories.push({ ...memory, slot });
      return slot;
    },
  };
  const list = tape.expect.flatMap((text, i): Expectation[] => {
    const path: Path = ['expect', i];
    const fault = (message: string, offset = 0): [] => {
      diagnostics.push(diagnosticAt(tape.source, path, message, { offset }));
      return [];
    };
    const form = FORM.exec(text);
    if (form === null)
      return fault(
        `found '${text}', expected it to begin with 'at 40', 'at end', 'between 60 and 90', 'always', 'never', 'sometime', 'peak' or 'lowest'`,
      );
    const body = text.slice(form[0].length);
    const word = form[6];
    const extreme = word === 'peak' || word === 'lowest' ? word : undefined;
    const { expression, faults } = checkText(body, scope, TRUTH);
    for (const f of faults) fault(f.message, form[0].length + f.start);
    if (expression === undefined) return [];
    const ends =
      form[2] === 'end'
        ? [length - 1, length - 1]
        : form[2] !== undefined
          ? [form[2], form[2]]
          : form[4] !== undefined
            ? [form[4], form[5]]
            : undefined;
    const [from, to] =
      ends === undefined
        ? [0, length - 1]
        : (ends.map((t) => (typeof t === 'number' ? t : toMachineTick(tape, machine, Number(t)))) as [
            number,
            number,
          ]);
    if (to >= length || from > to)
      return fault(`found the ticks ${from} to ${to}, expected them within the tape's ${length} ticks`);
    const base = { text, from, to, dials: dialsIn(expression) };
    if (extreme === undefined) {
      const mode = word === 'never' ? 'never' : word === 'sometime' ? 'some' : 'every';
      return [{ ...base, mode, expression, bound: undefined }];
    }
    if (expression.kind !== 'compare' || expression.right.kind !== 'constant') {
      return fault(
        `found '${body}', expected a quantity compared with a constant, as in 'peak height >= 2 m'`,
        form[0].length,
      );
    }
    const bound = { op: expression.op, value: expression.right.value, rate: expression.rate };
    return [{ ...base, mode: extreme, expression: expression.left, bound }];
  });
  return { expectations: { list, memories }, diagnostics };
}

/** The names of a moveset that a tape uses: the controls that it plays, and what it expects of. */
export function tapeReferences(tape: Tape, machine: Machine): Reference[] {
  const references = tape.inputs.flatMap(({ control: name }): Reference[] => {
    const kind = machine.controls.find((c) => c.name === name)?.kind;
    return kind === undefined ? [] : [{ kind, name, use: 'key', path: ['inputs', name], span: undefined }];
  });
  tape.expect.forEach((text, i) => {
    const lead = expectedFrom(text) ?? 0;
    checkText(
      text.slice(lead),
      {
        ...scopeOf(machine),
        // Nothing is kept: only the names are looked at.
        memory: () => 0,
        mention: ({ kind, name, span: { start, end } }) => {
          const span = { start: lead + start, end: lead + end };
          references.push({ kind, name, use: 'read', path: ['expect', i], span });
        },
      },
      TRUTH,
    );
  });
  return references;
}

/** The facts that expectations look at, by slot; what they remember themselves lies behind the machine's facts. */
export const slotsRead = ({ list, memories }: Expectations): number[] => [
  ...new Set([...list.map((e) => e.expression), ...memories.map((m) => m.of)].flatMap(slotsIn)),
];

/** Watches a run: give it the facts after each tick, then ask for the results. */
export function watchExpectations(
  { list, memories }: Expectations,
  machine: Machine,
): { see(tick: number, facts: ArrayLike<number>): void; results(): ExpectationResult[] } {
  const seen = new Float64Array(machine.facts.refs.length + memories.length);
  const slots = slotsRead({ list, memories });
  let counts = memories.map(startOfMemory);
  const states = list.map((e) => ({
    decided: undefined as number | undefined,
    extreme: e.mode === 'peak' ? -Infinity : Infinity,
    at: e.to,
    last: -1,
  }));
  return {
    see(tick, now) {
      for (const slot of slots) seen[slot] = present(now[slot]);
      counts = remember(memories, counts, seen);
      list.forEach((e, i) => {
        if (tick < e.from || tick > e.to) return;
        const state = present(states[i]);
        state.last = tick;
        if (e.mode === 'peak' || e.mode === 'lowest') {
          const value = evaluate(e.expression, seen);
          if (e.mode === 'peak' ? value > state.extreme : value < state.extreme)
            [state.extreme, state.at] = [value, tick];
        } else if (state.decided === undefined && holds(e.expression, seen) !== (e.mode === 'every'))
          state.decided = tick;
      });
    },
    results: () =>
      list.map((e, i): ExpectationResult => {
        const state = present(states[i]);
        const reached = state.last === e.to;
        if (e.bound !== undefined) {
          const { rate } = e.bound;
          const scale = (v: number): number => (rate === undefined ? v : toTicks(v, rate));
          const passed =
            state.last >= 0 && compare(e.bound.op, scale(state.extreme), scale(e.bound.value)) !== 0;
          return {
            text: e.text,
            passed,
            tick: state.at,
            seen:
              state.last < 0
                ? 'the run ended before'
                : formatValue(state.extreme, e.expression.dimension, machine.rate),
          };
        }
        const passed =
          e.mode === 'some' ? state.decided !== undefined : state.decided === undefined && reached;
        const seen =
          passed || state.decided !== undefined
            ? undefined
            : reached
              ? 'it never held'
              : 'the run ended before';
        return { text: e.text, passed, tick: state.decided ?? e.to, seen };
      }),
  };
}
