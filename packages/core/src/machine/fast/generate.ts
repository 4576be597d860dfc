import { bounded } from '../../tolerances.js';
import type { Expression } from '../../notation/index.js';
import type { Moving } from '../../world/index.js';
import type { Machine } from '../definition/machine.js';
import { NEVER } from '../reference/memories.js';
import type { Exit, Yieldable, Yielded } from './fast.js';
import { type Layout, TICK } from './layout.js';
import type { Log } from './log.js';
import { motionHelpers } from './motion.js';
import { motionSource } from './motion-source.js';
import { type Cheap, senseHelpers, type Senses } from './senses.js';
import { helpers, numberSource, truthSource, valueSource, type Writer } from './source.js';

/**
 * The parts of a tick that are generated as code for one machine, because they are asked in every tick and differ from
 * machine to machine. Making them needs a place where code may be made from text: a server, or a worker whose own
 * content security policy allows it; the page needs nothing.
 */
export interface Generated {
  /** Fills the cheap facts of the world and the controls. */
  sense(s: Float64Array, f: Float64Array, input: ArrayLike<number>): void;
  /** Fills the machine's own facts; `age` is the tick that `elapsed` counts to. */
  own(s: Float64Array, f: Float64Array, age: number): void;
  /** Keeps this tick's controls for the next. */
  keep(s: Float64Array, input: ArrayLike<number>): void;
  /** Step 3: timers, cooldowns, memories, refills. */
  clocks(s: Float64Array, f: Float64Array): void;
  /** The first exit of a leaf that is open, by its place in the list, or −1. */
  first(s: Float64Array, f: Float64Array, leaf: number): number;
  /** Step 6: turns the velocity of a situation into this tick's, in the body. */
  motion(s: Float64Array, f: Float64Array): void;
  /** For each guard given, whether it holds. */
  guards: ((f: Float64Array) => boolean)[];
  /** For each guard given, what marks the controls whose press made it hold; undefined where it asks for none. */
  spends: (((f: Float64Array, spent: Uint8Array) => void) | undefined)[];
  /** For each expression of an effect given, its value. */
  values: ((f: Float64Array) => number)[];
}

/** What there is to generate beside what the machine itself says. */
export interface Parts {
  exits: Exit[][];
  guards: (Expression | undefined)[];
  values: Expression[];
  isOpen: (s: Float64Array, leaf: number, exit: number) => boolean;
  yielded: Record<Yieldable, Yielded>;
  takeBack: (s: Float64Array, channel: Yieldable) => void;
}

export function generate(
  machine: Machine,
  layout: Layout,
  senses: Senses,
  log: Log,
  body: Moving,
  parts: Parts,
): Generated {
  const w: Writer = { isLazy: (slot) => senses.lazy[slot] !== undefined };
  const env = {
    ...helpers,
    ...senseHelpers(senses),
    ...motionHelpers(senses, log, body),
    ask: senses.ask,
    bounded,
    isOpen: parts.isOpen,
    yielded: parts.yielded,
    takeBack: parts.takeBack,
  };
  const fills = (list: readonly Cheap[]): string =>
    list.map(({ slot, source }) => `f[${slot}] = ${source};`).join('\n');
  const made = (name: string, of: readonly string[], args: string): string =>
    `${name}: [${of.map((body) => `(${args}) => ${body}`).join(',\n')}]`;
  const source = `'use strict';
const { ${Object.keys(env).join(', ')} } = env;
const own = (s, f, age) => {
${fills(senses.own)}
};
return {
own,
sense: (s, f, input) => {
${fills(senses.eager)}
},
keep: (s, input) => {
${machine.controls.map((_, i) => `s[${layout.input + i}] = input[${i}];`).join('\n')}
},
clocks: (s, f) => {
${clocksSource(machine, layout, w)}
},
first: (s, f, leaf) => {
switch (leaf) {
${parts.exits.map((exits, leaf) => (exits.length === 0 ? '' : `case ${leaf}: ${firstSource(parts, leaf, w)}`)).join('\n')}
default: return -1;
}
},
motion: ${motionSource(machine, layout, w)},
${made(
  'guards',
  parts.guards.map((e) => (e === undefined ? 'true' : truthSource(e, w))),
  'f',
)},
spends: [${parts.guards.map((e) => spendSource(machine, e, w)).join(',\n')}],
${made(
  'values',
  parts.values.map((e) => valueSource(e, w)),
  'f',
)},
};`;
  // The text comes from checked expressions only: numbers, slots and the operators above.
  return (new Function('env', source) as (e: typeof env) => Generated)(env);
}

function clocksSource(machine: Machine, layout: Layout, w: Writer): string {
  const { memories, timers, cooldowns, variables } = machine;
  const lines: string[] = memories.map((_, i) => `const m${i} = s[${layout.memories + i}];`);
  /** What the memories are one tick after what they were, on the facts as they are by now. */
  const remembered = memories.flatMap(({ mode, of, ticks, slot }, i) => {
    const [since, over] = mode === 'within' ? [truthSource(of, w), '<'] : [`!${truthSource(of, w)}`, '>='];
    const count = `s[${layout.memories + i}]`;
    return [
      `${count} = ${since} ? 0 : Math.min(m${i} + 1, ${NEVER});`,
      `f[${slot}] = ${count} ${over} ${ticks} ? 1 : 0;`,
    ];
  });
  // No time has passed before the first tick.
  lines.push(`if (s[${TICK}] !== 0) {`);
  const guarded = timers.flatMap((t, i) => (t.runs === undefined ? [] : [`s[${layout.timers + i}] > 0`]));
  // `runs` sees this tick's senses, with the clocks as the last tick left them.
  if (guarded.length > 0)
    lines.push(`if (${guarded.join(' || ')}) {`, `own(s, f, s[${TICK}] - 1);`, ...remembered, '}');
  timers.forEach(({ runs }, i) => {
    const left = `s[${layout.timers + i}]`;
    lines.push(`if (${left} > 0${runs === undefined ? '' : ` && ${truthSource(runs, w)}`}) ${left}--;`);
  });
  cooldowns.forEach(({ order, charges, ticks }, i) => {
    const clock = `s[${layout.clocks + i}]`;
    const now = `s[${layout.charges + i}]`;
    lines.push(`if (${clock} !== 0 && --${clock} <= 0) {
${now} = ${order === 'together' ? charges : `${now} + 1`};
if (${now} < ${charges}) ${clock} = ${ticks};
}`);
  });
  lines.push('}', `own(s, f, s[${TICK}]);`, ...remembered);
  if ([...cooldowns, ...variables].every(({ refill }) => refill === undefined)) return lines.join('\n');
  lines.push('let changed = false;');
  cooldowns.forEach(({ refill, charges }, i) => {
    if (refill === undefined) return;
    const now = `s[${layout.charges + i}]`;
    lines.push(`if (${truthSource(refill, w)}) {
if (${now} !== ${charges}) { ${now} = ${charges}; changed = true; }
s[${layout.clocks + i}] = 0;
}`);
  });
  variables.forEach(({ refill, kind, max, initial }, i) => {
    if (refill === undefined) return;
    const now = `s[${layout.variables + i}]`;
    const full = numberSource(kind === 'count' ? max : initial);
    lines.push(`if (${truthSource(refill, w)} && ${now} !== ${full}) { ${now} = ${full}; changed = true; }`);
  });
  lines.push('if (changed) {', `own(s, f, s[${TICK}]);`, ...remembered, '}');
  return lines.join('\n');
}

/** What marks the presses that made a guard hold, as `pressesUsed` of the reference finds them. */
function spendSource(machine: Machine, guard: Expression | undefined, w: Writer): string {
  const mark = (controls: readonly string[]): string =>
    controls.map((name) => `spent[${machine.controls.findIndex((c) => c.name === name)}] = 1;`).join(' ');
  const used = (e: Expression): string => {
    switch (e.kind) {
      case 'fact':
        return e.ref.fact === 'pressed' ? mark([e.ref.of!]) : '';
      case 'memory':
        return mark(e.presses);
      case 'choice': {
        const [then, otherwise] = [used(e.then), used(e.otherwise)];
        return then + otherwise === ''
          ? ''
          : `if (${truthSource(e.when, w)}) { ${then} } else { ${otherwise} }`;
      }
      case 'logic':
        if (e.op === 'and') return e.parts.map(used).join(' ');
        return usedOfAny(e.parts);
      default:
        return '';
    }
  };
  /** Nothing when a part holds without a press, else what the first part that holds used. */
  const usedOfAny = (parts: readonly Expression[]): string => {
    if (parts.every((part) => used(part) === '')) return '';
    const free = parts.map((part) => `(${truthSource(part, w)} && !(${pressSource(part, w)}))`);
    const first = parts.map((part) => `if (${truthSource(part, w)}) { ${used(part)} }`);
    return `if (!(${free.join(' || ')})) { ${first.join(' else ')} }`;
  };
  const source = guard === undefined ? '' : used(guard);
  return source === '' ? 'undefined' : `(f, spent) => { ${source} }`;
}

/** Whether an expression that holds used a press, as a condition. */
function pressSource(e: Expression, w: Writer): string {
  switch (e.kind) {
    case 'fact':
      return String(e.ref.fact === 'pressed');
    case 'memory':
      return String(e.presses.length > 0);
    case 'choice':
      return `(${truthSource(e.when, w)} ? ${pressSource(e.then, w)} : ${pressSource(e.otherwise, w)})`;
    case 'logic': {
      if (e.op === 'and') return `(${e.parts.map((part) => pressSource(part, w)).join(' || ')})`;
      const free = e.parts.map((part) => `(${truthSource(part, w)} && !(${pressSource(part, w)}))`);
      return `!(${free.join(' || ')})`;
    }
    default:
      return 'false';
  }
}

/** The exits of a leaf, tried in order. Where a group resumes, what an exit leads to is asked when it is open. */
function firstSource(parts: Parts, leaf: number, w: Writer): string {
  const tries = parts.exits[leaf]!.map((exit, i) => {
    const guard = exit.crossing.when === undefined ? [] : [truthSource(exit.crossing.when, w)];
    const conditions: string[] = [];
    if (exit.unlocked >= 0) conditions.push(`f[${exit.unlocked}] !== 0`);
    if (exit.target === undefined) conditions.push(...guard, `isOpen(s, ${leaf}, ${i})`);
    else {
      if (exit.target.unlocked >= 0) conditions.push(`f[${exit.target.unlocked}] !== 0`);
      conditions.push(...guard);
      const { fits } = exit.target;
      if (fits >= 0) conditions.push(`(ask(${fits}), f[${fits}] !== 0)`);
    }
    return `if (${conditions.join(' && ') || 'true'}) return ${i};`;
  });
  return `{ ${[...tries, 'return -1;'].join('\n')} }`;
}

/** Whether where a crossing leads depends on what was active before: a group on the way down resumes. */
export const isResumed = (machine: Machine, to: number): boolean => {
  let state = to;
  while (machine.states[state]!.members.length > 0) {
    if (machine.states[state]!.resumes) return true;
    state = machine.states[state]!.initial;
  }
  return false;
};
