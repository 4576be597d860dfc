import { TICK_SLACK } from '../../tolerances.js';
import { approach, type Expression, toTicks } from '../../notation/index.js';

/**
 * Expressions as source text over a table of facts `f`. What is not written out is asked of the `helpers`; `ask(slot)`
 * works out a fact that is only worked out when needed. Each gives what `evaluate` gives, to the last bit.
 */
export interface Writer {
  isLazy(slot: number): boolean;
}

/** What generated code calls beside `Math`. */
export const helpers = {
  approach,
  sign: (a: number): number => (a > 0 ? 1 : a < 0 ? -1 : 0),
  root: (a: number): number => (a > 0 ? Math.sqrt(a) : 0),
  mix: (a: number, b: number, c: number): number => a + (b - a) * c,
  over: (a: number, b: number): number => (b === 0 ? 0 : a / b),
};

/** The value of an expression. */
export function valueSource(e: Expression, w: Writer): string {
  const of = (part: Expression): string => valueSource(part, w);
  switch (e.kind) {
    case 'constant':
      return numberSource(e.value);
    case 'fact':
      return w.isLazy(e.slot) ? `(ask(${e.slot}), f[${e.slot}])` : `f[${e.slot}]`;
    case 'memory':
      return `f[${e.slot}]`;
    case 'negate':
      return `(0 - ${of(e.of)})`;
    case 'arithmetic':
      return e.op === '/' ? `over(${of(e.left)}, ${of(e.right)})` : `(${of(e.left)} ${e.op} ${of(e.right)})`;
    case 'choice':
      return `(${truthSource(e.when, w)} ? ${of(e.then)} : ${of(e.otherwise)})`;
    case 'function':
      return functionSource(e.name, e.args.map(of));
    case 'not':
    case 'compare':
    case 'logic':
      return `(${truthSource(e, w)} ? 1 : 0)`;
  }
}

/** Whether an expression holds, as a condition. */
export function truthSource(e: Expression, w: Writer): string {
  switch (e.kind) {
    case 'not':
      return `!${truthSource(e.of, w)}`;
    case 'compare':
      return `(${comparedSource(e.left, e.rate, w)} ${OPERATORS[e.op]} ${comparedSource(e.right, e.rate, w)})`;
    case 'logic':
      return `(${e.parts.map((part) => truthSource(part, w)).join(e.op === 'and' ? ' && ' : ' || ')})`;
    default:
      return `(${valueSource(e, w)} !== 0)`;
  }
}

const OPERATORS = { '<': '<', '<=': '<=', '>': '>', '>=': '>=', '=': '===', '!=': '!==' };

/** One side of a comparison; lengths of time are compared in whole ticks. */
function comparedSource(e: Expression, rate: number | undefined, w: Writer): string {
  if (rate === undefined) return valueSource(e, w);
  if (e.kind === 'constant') return numberSource(toTicks(e.value, rate));
  return `Math.ceil(${valueSource(e, w)} * ${numberSource(rate)} - ${numberSource(TICK_SLACK)})`;
}

function functionSource(name: string, args: string[]): string {
  const list = args.join(', ');
  switch (name) {
    case 'min':
    case 'max':
    case 'abs':
      return `Math.${name}(${list})`;
    case 'sign':
      return `sign(${list})`;
    case 'sqrt':
      return `root(${list})`;
    case 'lerp':
      return `mix(${list})`;
    case 'clamp':
      return `Math.max(${args[1]}, Math.min(${args[2]}, ${args[0]}))`;
    case 'approach':
      return `approach(${args[0]}, ${args[1]}, Math.abs(${args[2]}))`;
    default:
      throw new RangeError(`no function is called ${name}`);
  }
}

/** A number as a literal that reads back as itself. */
export const numberSource = (value: number): string => (value < 0 ? `(${value})` : String(value));
