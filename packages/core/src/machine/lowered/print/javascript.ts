import { present } from '../../../present.js';
import type { Place, Program, Statement, Term } from '../program.js';
import { isTruth } from '../terms.js';

export interface PrintOptions {
  /** Tell every write to a channel, for recording. */
  writes: boolean;
  /** Numbers that are not written down but read from the list `k` of `env`, each with its place there. */
  varying?: ReadonlyMap<Term, number>;
}

/** What printed code calls, by name, beside `Math`; `env` has a function for each. */
export const CALLED = [
  'ask',
  'over',
  'root',
  'sign',
  'bounded',
  'decay',
  'mix',
  'approach',
  'downward',
  'aimX',
  'aimY',
  'tetherLength',
  'windUp',
  'hangs',
  'centreX',
  'centreY',
  'middle',
  'pickUp',
  'launch',
  'blow',
  'cast',
  'release',
  'drop',
  'wrote',
  'withdraw',
  'took',
  'tie',
  'body',
] as const;

/** Longer programs are printed as a function a step: what is too long for one is never made fast by the engine. */
const LONGEST = 40_000;

/**
 * A program as the body of a JavaScript function of `env` that returns a tick: a function of a situation `s`, of what is
 * kept for a tick `f` (the facts, then the registers), and of the `input`.
 */
export function printJavaScript(program: Program, options: PrintOptions): string {
  const print = createPrinter(program, options);
  const steps = program.steps.map(({ name, statements }) => ({
    name: identifier(`step ${name}`),
    source: print(statements),
  }));
  const isLong = steps.reduce((sum, { source }) => sum + source.length, 0) > LONGEST;
  const functions = [
    ...program.procedures.map(({ name, statements }) => ({
      name: identifier(name),
      source: print(statements),
    })),
    ...(isLong ? steps : []),
  ];
  const tick = steps.map(({ name, source }) =>
    isLong ? `${name}(s, f, input);` : `{ // ${name}\n${source}\n}`,
  );
  return `'use strict';
const { ${CALLED.join(', ')}, k } = env;
${functions.map(({ name, source }) => `const ${name} = (s, f, input) => {\n${source}\n};`).join('\n')}
return (s, f, input) => {
${tick.join('\n')}
};`;
}

/** A name as JavaScript takes it: what stands between its words, and letters that are none there, are underlined. */
const identifier = (name: string): string =>
  `do_${name.replace(/[^\w]/g, (c) => (c === ' ' ? '_' : `$${c.charCodeAt(0)}`))}`;

function createPrinter(
  program: Program,
  { writes, varying }: PrintOptions,
): (list: readonly Statement[]) => string {
  const registers = program.facts.length;
  const body = (list: readonly Statement[]): string =>
    list
      .map(statement)
      .filter((source) => source !== '')
      .join('\n');

  const statement = (s: Statement): string => {
    switch (s.kind) {
      case 'let':
        return `let ${s.name} = ${isTruth(s.value) ? truth(s.value) : number(s.value)};`;
      case 'set':
        return `${place(s.to)} = ${isTruth(s.to) ? truth(s.value) : number(s.value)};${comment(s)}`;
      case 'block':
        return braced(body(s.body));
      case 'if': {
        const otherwise = body(s.otherwise);
        const then = body(s.then);
        if (then === '' && otherwise === '') return '';
        return `if (${truth(s.when)}) {\n${then}\n}${otherwise === '' ? '' : ` else {\n${otherwise}\n}`}`;
      }
      case 'switch': {
        const otherwise = body(s.otherwise);
        const cases = s.cases.map(({ of, body: list }) => `case ${of}: {\n${body(list)}\nbreak;\n}`);
        return `switch (${number(s.on)}) {\n${cases.join('\n')}${otherwise === '' ? '' : `\ndefault: {\n${otherwise}\n}`}\n}`;
      }
      case 'repeat':
        return `for (let n = 0; n < ${s.times} && ${truth(s.while)}; n++) {\n${body(s.body)}\n}`;
      case 'call':
        return `${identifier(s.procedure)}(s, f, input);`;
      case 'world':
        return world(s);
      case 'tell':
        return told(s.what);
    }
  };

  const braced = (source: string): string => (source === '' ? '' : `{\n${source}\n}`);

  const comment = ({ to }: Extract<Statement, { kind: 'set' }>): string =>
    to.kind === 'fact' ? ` // ${present(program.facts[to.slot]).replace(/\s/g, ' ')}` : '';

  const world = ({ act, index }: Extract<Statement, { kind: 'world' }>): string => {
    switch (act) {
      case 'pickUp':
      case 'launch':
      case 'drop':
        return `${act}(s);`;
      case 'cast':
      case 'release':
        return `${act}(s, ${index});`;
      case 'blow':
        return 'body.vx = vx; body.vy = vy;\nblow(s, stands, nx, ny);\nvx = body.vx; vy = body.vy;';
    }
  };

  const told = (what: Extract<Statement, { kind: 'tell' }>['what']): string => {
    switch (what.kind) {
      case 'write': {
        const { channel, lane, by, who, to, replaces, value } = what;
        if (!writes) return '';
        return `wrote('${channel}', ${lane}, '${by}', ${number(who)}, ${number(to)}, ${replaces}, ${number(value)});`;
      }
      case 'withdrawn':
        return writes ? `withdraw('${what.channel}', ${number(what.lane)});` : '';
      case 'taken':
        return `took(${what.lane}, ${what.crossing}, ${what.from}, ${what.to});`;
      case 'tie':
        return `tie(${what.lane}, ${number(what.chosen)}, ${what.crossing});`;
      case 'gravity':
      case 'origin':
        return '';
    }
  };

  const place = (to: Place): string => {
    switch (to.kind) {
      case 'fact':
        return `f[${to.slot}]`;
      case 'local':
        return to.name;
      default:
        return number(to);
    }
  };

  /** A term as a number. */
  const number = (t: Term): string => {
    if (isTruth(t)) return `(${truth(t)} ? 1 : 0)`;
    switch (t.kind) {
      case 'number': {
        const listed = varying?.get(t);
        return listed === undefined ? literal(t.value) : `k[${listed}]`;
      }
      case 'field':
        return `s[${t.place}]`;
      case 'element':
        return `s[${t.first} + ${number(t.index)}]`;
      case 'input':
        return `input[${t.control}]`;
      case 'fact':
        return t.asked ? `(ask(${t.slot}), f[${t.slot}])` : `f[${t.slot}]`;
      case 'register':
        return `f[${registers + t.index}]`;
      case 'local':
        return t.name;
      case 'sense':
        return `${t.sense}(${['s', ...t.args.map(number)].join(', ')})`;
      case 'operation':
        return operation(t);
      case 'choice':
        return `(${truth(t.when)} ? ${number(t.then)} : ${number(t.otherwise)})`;
      default:
        return `(${truth(t)} ? 1 : 0)`;
    }
  };

  const operation = ({ op, args }: Extract<Term, { kind: 'operation' }>): string => {
    const list = args.map(number);
    switch (op) {
      case '+':
      case '-':
      case '*':
      case '/':
        return `(${list.join(` ${op} `)})`;
      case 'min':
      case 'max':
      case 'abs':
      case 'floor':
      case 'ceil':
      case 'sqrt':
        return `Math.${op}(${list.join(', ')})`;
      default:
        return `${op}(${list.join(', ')})`;
    }
  };

  /** A term as a condition. */
  const truth = (t: Term): string => {
    switch (t.kind) {
      case 'compare':
        return `(${number(t.left)} ${COMPARED[t.op]} ${number(t.right)})`;
      case 'not':
        return `!${truth(t.of)}`;
      case 'all':
        return t.of.length === 0 ? 'true' : `(${t.of.map(truth).join(' && ')})`;
      case 'any':
        return t.of.length === 0 ? 'false' : `(${t.of.map(truth).join(' || ')})`;
      case 'choice':
        return isTruth(t)
          ? `(${truth(t.when)} ? ${truth(t.then)} : ${truth(t.otherwise)})`
          : `(${number(t)} !== 0)`;
      case 'local':
        return t.isTruth ? t.name : `(${t.name} !== 0)`;
      case 'sense':
        return isTruth(t) ? `${t.sense}(s)` : `(${number(t)} !== 0)`;
      default:
        return `(${number(t)} !== 0)`;
    }
  };

  return body;
}

const COMPARED = { '<': '<', '<=': '<=', '>': '>', '>=': '>=', '=': '===', '!=': '!==' };

/** A number as a literal that reads back as itself. */
const literal = (value: number): string => (value < 0 || Object.is(value, -0) ? `(${value})` : String(value));
