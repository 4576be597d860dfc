import type { Expression } from '../../notation/index.js';
import type { Moving } from '../../world/index.js';
import type { Machine } from '../definition.js';
import { NEVER } from '../situation.js';
import type { Exit } from './fast.js';
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
  /** For each expression of an effect given, its value. */
  values: ((f: Float64Array) => number)[];
}

/** What there is to generate beside what the machine itself says. */
export interface Parts {
  exits: Exit[][];
  guards: (Expression | undefined)[];
  values: Expression[];
  isOpen: (s: Float64Array, leaf: number, exit: number) => boolean;
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
    isOpen: parts.isOpen,
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
  const lines: string[] = [];
  const remember = (i: number): string => {
    const { mode, ticks, slot } = machine.memories[i]!;
    return `f[${slot}] = s[${layout.memories + i}] ${mode === 'within' ? '<' : '>='} ${ticks} ? 1 : 0;`;
  };
  // `runs` sees all but the senses as the last tick left it.
  const guarded = machine.timers.flatMap((t, i) =>
    t.runs === undefined ? [] : [`s[${layout.timers + i}] > 0`],
  );
  if (guarded.length > 0)
    lines.push(
      `if (${guarded.join(' || ')}) {`,
      `own(s, f, s[${TICK}] - 1);`,
      ...machine.memories.map((_, i) => remember(i)),
      '}',
    );
  machine.timers.forEach(({ runs }, i) => {
    const left = `s[${layout.timers + i}]`;
    lines.push(`if (${left} > 0${runs === undefined ? '' : ` && ${truthSource(runs, w)}`}) ${left}--;`);
  });
  machine.cooldowns.forEach(({ order, charges, ticks }, i) => {
    const clock = `s[${layout.clocks + i}]`;
    const now = `s[${layout.charges + i}]`;
    lines.push(`if (${clock} !== 0 && --${clock} <= 0) {
${now} = ${order === 'together' ? charges : `${now} + 1`};
if (${now} < ${charges}) ${clock} = ${ticks};
}`);
  });
  lines.push(`own(s, f, s[${TICK}]);`);
  machine.memories.forEach(({ mode, of }, i) => {
    const count = `s[${layout.memories + i}]`;
    const again = mode === 'within' ? truthSource(of, w) : `!${truthSource(of, w)}`;
    lines.push(`${count} = ${again} ? 0 : Math.min(${count} + 1, ${NEVER});`, remember(i));
  });
  lines.push('let changed = false;');
  machine.cooldowns.forEach(({ refill, charges }, i) => {
    if (refill === undefined) return;
    const now = `s[${layout.charges + i}]`;
    lines.push(`if (${truthSource(refill, w)}) {
if (${now} !== ${charges}) { ${now} = ${charges}; changed = true; }
s[${layout.clocks + i}] = 0;
}`);
  });
  machine.variables.forEach(({ refill, kind, max, initial }, i) => {
    if (refill === undefined) return;
    const now = `s[${layout.variables + i}]`;
    const full = numberSource(kind === 'count' ? max : initial);
    lines.push(`if (${truthSource(refill, w)} && ${now} !== ${full}) { ${now} = ${full}; changed = true; }`);
  });
  lines.push(`if (changed) own(s, f, s[${TICK}]);`);
  return lines.join('\n');
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
