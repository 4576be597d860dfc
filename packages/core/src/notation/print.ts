import type { EffectSyntax, Syntax } from './syntax.js';

/**
 * The canonical text of an expression: one space around operators, parentheses only where they are needed.
 * `parse(print(parse(s)))` is the tree of `s`, and `print` of it is the same text again.
 */
export const print = (node: Syntax): string => write(node, 0);

/** The canonical text of an effect. */
export function printEffect(effect: EffectSyntax): string {
  if (effect.kind === 'verb') return [effect.verb, ...effect.words.map((w) => w.text)].join(' ');
  return `${effect.keep ? 'keep ' : ''}${effect.name} ${effect.op} ${print(effect.value)}`;
}

/** How tightly each kind binds; a child that binds less than its place asks for gets parentheses. */
const LEVEL = {
  choice: 1,
  or: 2,
  and: 3,
  for: 4,
  not: 5,
  within: 6,
  compare: 7,
  sum: 8,
  product: 9,
  unary: 10,
  primary: 11,
};

function level(node: Syntax): number {
  switch (node.kind) {
    case 'logic':
      return LEVEL[node.op];
    case 'arithmetic':
      return node.op === '+' || node.op === '-' ? LEVEL.sum : LEVEL.product;
    case 'negate':
      return LEVEL.unary;
    case 'choice':
    case 'for':
    case 'not':
    case 'within':
    case 'compare':
      return LEVEL[node.kind];
    default:
      return LEVEL.primary;
  }
}

function write(node: Syntax, atLeast: number): string {
  const text = bare(node);
  return level(node) < atLeast ? `(${text})` : text;
}

function bare(node: Syntax): string {
  switch (node.kind) {
    case 'number':
      return node.unit === undefined
        ? node.digits
        : node.unit === '%'
          ? `${node.digits}%`
          : `${node.digits} ${node.unit}`;
    case 'truth':
      return String(node.value);
    case 'name':
      return node.name;
    case 'call':
      return `${node.name}(${node.args.map((arg) => write(arg, 0)).join(', ')})`;
    case 'negate':
      return `-${write(node.of, LEVEL.unary)}`;
    case 'not':
      return `not ${write(node.of, LEVEL.not)}`;
    case 'arithmetic': {
      const own = level(node);
      return `${write(node.left, own)} ${node.op} ${write(node.right, own + 1)}`;
    }
    case 'compare':
      return `${write(node.left, LEVEL.sum)} ${node.op} ${write(node.right, LEVEL.sum)}`;
    case 'logic':
      return node.parts.map((part) => write(part, level(node) + 1)).join(` ${node.op} `);
    case 'within':
      return `${write(node.of, LEVEL.within)} within ${write(node.length, LEVEL.sum)}`;
    case 'for':
      return `${write(node.of, LEVEL.for)} for ${write(node.length, LEVEL.sum)}`;
    case 'choice':
      return `if ${write(node.when, 0)} then ${write(node.then, 0)} else ${write(node.otherwise, 0)}`;
  }
}
