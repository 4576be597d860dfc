import { present } from '../present.js';
import { didYouMean } from '../model/index.js';
import {
  combine,
  type Dimension,
  dimensionName,
  PLAIN,
  rootOf,
  sameDimension,
  TIME,
  toBase,
  toTicks,
  TRUTH,
  unitDimension,
} from './dimension.js';
import { apply, arithmetic, compare } from './evaluate.js';
import { type Expression, type ExpressionOf, partsOf } from './expression.js';
import {
  FACTS,
  FACTS_OF,
  FUNCTIONS,
  isNamedFact,
  isPlainFact,
  type NamedFact,
  type ThingKind,
} from './facts.js';
import type { Fault } from './fault.js';
import { type Parsed, parseExpression } from './parse.js';
import { print } from './print.js';
import type { FactRef, Mention } from './reference.js';
import type { TextSpan, Syntax, SyntaxOf } from './syntax.js';

/** What the checker must know of the place where an expression stands. */
export interface Scope {
  rate: number;
  pixel: number | undefined;
  /** A dial or another constant; `cyclic` when it is being worked out right now. */
  constant(name: string): { dimension: Dimension; value: number } | 'cyclic' | undefined;
  /** The dimension of a variable; undefined when there is none of that name. */
  variable(name: string): Dimension | undefined;
  /** Names of the things of a kind; undefined where any name will do, as for the zones of a course. */
  things(kind: ThingKind): readonly string[] | undefined;
  /** All constants and variables, to suggest the nearest. */
  names(): readonly string[];
  /** The slot of a fact; undefined where no facts can be read (a dial, a course). */
  slot(ref: FactRef): number | undefined;
  /** The slot of a new memory; undefined where none can be kept (a tape's expectation). */
  memory(memory: Omit<Remembered, 'slot'>): number | undefined;
  /** Parses a text, where there is a quicker way than to do it anew each time. */
  parse?(text: string): Parsed<Syntax>;
  /** Whether a press that makes the expression hold is used up by that: in the guard of a crossing. */
  usesPresses?: boolean;
  /** What `elapsed` means here. */
  elapsed: FactRef;
  /** Told of every name that was resolved. */
  mention?(mention: Mention): void;
}

/** What a `within` or `for` has to remember. */
export type Remembered = Pick<ExpressionOf<'memory'>, 'mode' | 'of' | 'ticks' | 'slot' | 'presses'>;

export interface Checked {
  expression?: Expression;
  faults: Fault[];
}

/** Parses and checks a text that must have a dimension (any one, when none is given). Never throws. */
export function checkText(text: string, scope: Scope, expected?: Dimension): Checked {
  const parsed = (scope.parse ?? parseExpression)(text);
  return parsed.ok ? check(parsed.value, scope, expected) : { faults: [parsed.fault] };
}

/** Checks a syntax tree: names, dimensions, arguments. All faults are reported, not only the first. */
export function check(syntax: Syntax, scope: Scope, expected?: Dimension): Checked {
  const checker = new Checker(scope);
  let expression = checker.visit(syntax);
  if (expression !== undefined && expected !== undefined) expression = checker.as(expression, expected);
  return checker.faults.length > 0 ? { faults: checker.faults } : { expression, faults: [] };
}

type Maybe = Expression | undefined;

class Checker {
  readonly faults: Fault[] = [];

  /** 1 where what is visited makes the whole hold, −1 under a `not`, 0 where it may be either. */
  private sense: 1 | -1 | 0 = 1;

  constructor(private readonly scope: Scope) {}

  /** Visits a part that stands in another sense. */
  private visitAs(syntax: Syntax, sense: 1 | -1 | 0): Maybe {
    const outer = this.sense;
    this.sense = sense;
    const visited = this.visit(syntax);
    this.sense = outer;
    return visited;
  }

  visit(syntax: Syntax): Maybe {
    switch (syntax.kind) {
      case 'number':
        return this.number(syntax);
      case 'truth':
        return { kind: 'constant', value: syntax.value ? 1 : 0, dials: NO_DIALS, dimension: TRUTH, syntax };
      case 'name':
        return this.name(syntax);
      case 'call':
        return this.call(syntax);
      case 'negate': {
        const of = this.numeric(this.visit(syntax.of));
        return of && fold({ kind: 'negate', of, dimension: of.dimension, syntax });
      }
      case 'not': {
        const of = this.as(this.visitAs(syntax.of, this.sense === 0 ? 0 : this.sense > 0 ? -1 : 1), TRUTH);
        return of && fold({ kind: 'not', of, dimension: TRUTH, syntax });
      }
      case 'arithmetic':
        return this.arithmetic(syntax);
      case 'compare':
        return this.compare(syntax);
      case 'logic': {
        const parts = syntax.parts.map((part) => this.as(this.visit(part), TRUTH));
        return all(parts)
          ? fold({ kind: 'logic', op: syntax.op, parts, dimension: TRUTH, syntax })
          : undefined;
      }
      case 'within':
      case 'for':
        return this.memory(syntax);
      case 'choice': {
        const when = this.as(this.visitAs(syntax.when, 0), TRUTH);
        const pair = this.same(this.visit(syntax.then), this.visit(syntax.otherwise), syntax);
        if (when === undefined || pair === undefined) return undefined;
        return fold({
          kind: 'choice',
          when,
          then: pair[0],
          otherwise: pair[1],
          dimension: pair[0].dimension,
          syntax,
        });
      }
    }
  }

  /** The expression if it has the dimension (a bare 0 has every one), else a fault. */
  as(e: Maybe, expected: Dimension): Maybe {
    if (e === undefined || sameDimension(e.dimension, expected)) return e;
    if (isBareZero(e) && !expected.truth) return { ...e, dimension: expected };
    return this.fail(e.syntax, `found ${dimensionName(e.dimension)}, expected ${dimensionName(expected)}`);
  }

  private number(syntax: SyntaxOf<'number'>): Maybe {
    if (syntax.unit === 'px' && this.scope.pixel === undefined) {
      return this.fail(
        syntax,
        "found a length in px, expected m or cm, or a line such as 'pixel: 2 cm' in the moveset",
      );
    }
    return {
      kind: 'constant',
      value: toBase(syntax.value, syntax.unit, this.scope),
      dials: NO_DIALS,
      dimension: unitDimension(syntax.unit),
      syntax,
    };
  }

  private name(syntax: SyntaxOf<'name'>): Maybe {
    const { name } = syntax;
    const constant = this.scope.constant(name);
    if (constant === 'cyclic')
      return this.fail(syntax, `'${name}' depends on itself, expected dials without a cycle`);
    if (constant !== undefined) {
      this.mention('dial', syntax);
      const { value, dimension } = constant;
      return { kind: 'constant', value, dimension, dials: [name], syntax };
    }
    const variable = this.scope.variable(name);
    if (variable !== undefined) {
      this.mention('variable', syntax);
      return this.fact({ fact: 'variable', of: name }, variable, syntax);
    }
    if (isPlainFact(name))
      return this.fact(
        name === 'elapsed' ? this.scope.elapsed : { fact: name },
        FACTS[name].dimension,
        syntax,
      );
    if (isNamedFact(name)) {
      const { of } = FACTS_OF[name];
      return this.fail(
        syntax,
        `'${name}' needs a name after it, as in ${name}(${this.scope.things(of)?.[0] ?? of})`,
      );
    }
    if (Object.hasOwn(FUNCTIONS, name))
      return this.fail(syntax, `'${name}' is a function, expected its arguments in parentheses`);
    const known = [...this.scope.names(), ...Object.keys(FACTS)];
    return this.fail(
      syntax,
      `unknown name '${name}'${didYouMean(name, known) || ', expected a dial, a variable or a fact'}`,
    );
  }

  private call(syntax: SyntaxOf<'call'>): Maybe {
    const { name, args } = syntax;
    if (isNamedFact(name)) return this.factOf(name, syntax);
    if (Object.hasOwn(FUNCTIONS, name)) return this.function(syntax);
    for (const arg of args) if (arg.kind !== 'name') this.visit(arg);
    const known = [...Object.keys(FACTS_OF), ...Object.keys(FUNCTIONS)];
    if (isPlainFact(name)) return this.fail(syntax, `'${name}' takes no argument`);
    return this.fail(
      { start: syntax.start, end: syntax.start + name.length },
      `unknown fact or function '${name}'${didYouMean(name, known)}`,
    );
  }

  private factOf(name: NamedFact, syntax: SyntaxOf<'call'>): Maybe {
    const { args } = syntax;
    const entry = FACTS_OF[name];
    const [arg, second] = args;
    const wanted = entry.also === undefined ? 1 : 2;
    if (args.length !== wanted || arg?.kind !== 'name' || (wanted === 2 && second?.kind !== 'name')) {
      const form =
        entry.also === undefined
          ? `the name of one ${entry.of} in ${name}(…)`
          : `a ${entry.of} and a ${entry.also} in ${name}(…, …)`;
      const found =
        args.length === wanted ? 'an expression' : `${args.length} argument${args.length === 1 ? '' : 's'}`;
      return this.fail(syntax, `found ${found}, expected ${form}`);
    }
    const known = this.scope.things(entry.of);
    if (known !== undefined && !known.includes(arg.name)) {
      return this.fail(
        arg,
        `no ${entry.of} is called '${arg.name}'${didYouMean(arg.name, known) || (known.length > 0 ? `, expected one of ${known.slice(0, 12).join(', ')}` : ', there is none yet')}`,
      );
    }
    this.mention(entry.of, arg);
    if (second?.kind !== 'name') return this.fact({ fact: name, of: arg.name }, entry.dimension, syntax);
    this.mention('tag', second);
    return this.fact({ fact: name, of: arg.name, tag: second.name }, entry.dimension, syntax);
  }

  private fact(ref: FactRef, dimension: Dimension, syntax: Syntax): Maybe {
    const slot = this.scope.slot(ref);
    if (slot === undefined)
      return this.fail(syntax, `'${print(syntax)}' changes while running, expected a constant here`);
    return { kind: 'fact', ref, slot, dimension, syntax };
  }

  private mention(kind: Mention['kind'], { name, start, end }: SyntaxOf<'name'>): void {
    this.scope.mention?.({ kind, name, span: { start, end } });
  }

  private function(syntax: SyntaxOf<'call'>): Maybe {
    const { name } = syntax;
    const entry = present(FUNCTIONS[name]);
    const wrong = entry.args === 'many' ? syntax.args.length < 2 : syntax.args.length !== entry.args;
    if (wrong) {
      return this.fail(
        syntax,
        `found ${syntax.args.length} arguments of ${name}, expected ${entry.args === 'many' ? 'two or more' : entry.args}`,
      );
    }
    const args = syntax.args.map((arg) => this.numeric(this.visit(arg)));
    if (!all(args)) return undefined;
    let dimension = present(args[0]).dimension;
    if (name === 'sqrt') dimension = rootOf(dimension);
    else if (name === 'sign') dimension = PLAIN;
    else {
      const sharing = name === 'lerp' ? args.slice(0, 2) : args;
      dimension = (sharing.find((arg) => !isBareZero(arg)) ?? present(args[0])).dimension;
      for (let i = 0; i < args.length; i++) {
        const adapted = this.as(args[i], name === 'lerp' && i === 2 ? PLAIN : dimension);
        if (adapted === undefined) return undefined;
        args[i] = adapted;
      }
    }
    return fold({ kind: 'function', name, args, dimension, syntax });
  }

  private arithmetic(syntax: SyntaxOf<'arithmetic'>): Maybe {
    const left = this.numeric(this.visit(syntax.left));
    const right = this.numeric(this.visit(syntax.right));
    if (left === undefined || right === undefined) return undefined;
    const { op } = syntax;
    if (op === '*' || op === '/') {
      if (op === '/' && right.kind === 'constant' && right.value === 0)
        return this.fail(right.syntax, 'found a division by 0');
      const dimension = combine(left.dimension, right.dimension, op === '*' ? 1 : -1);
      return fold({ kind: 'arithmetic', op, left, right, dimension, syntax });
    }
    const pair = this.same(left, right, syntax, op === '+' ? 'added to' : 'taken from');
    return (
      pair &&
      fold({ kind: 'arithmetic', op, left: pair[0], right: pair[1], dimension: pair[0].dimension, syntax })
    );
  }

  private compare(syntax: SyntaxOf<'compare'>): Maybe {
    const sides = [syntax.left, syntax.right].map((side) => this.visitAs(side, 0));
    const pair = this.same(sides[0], sides[1], syntax, 'compared with');
    if (pair === undefined) return undefined;
    const [left, right] = pair;
    const equality = syntax.op === '=' || syntax.op === '!=';
    if (left.dimension.truth && !equality)
      return this.fail(syntax, `found truth values compared by '${syntax.op}', expected '=' or '!='`);
    const time = sameDimension(left.dimension, TIME);
    if (time && equality) {
      return this.fail(
        syntax,
        `found lengths of time compared by '${syntax.op}', expected >= or < (a clock may step over an exact time)`,
      );
    }
    return fold({
      kind: 'compare',
      op: syntax.op,
      left,
      right,
      rate: time ? this.scope.rate : undefined,
      dimension: TRUTH,
      syntax,
    });
  }

  private memory(syntax: SyntaxOf<'within'> | SyntaxOf<'for'>): Maybe {
    const of = this.as(this.visit(syntax.of), TRUTH);
    const length = this.as(this.visit(syntax.length), TIME);
    if (of === undefined || length === undefined) return undefined;
    if (length.kind !== 'constant')
      return this.fail(
        length.syntax,
        `found a length of time that changes while running, expected a constant after '${syntax.kind}'`,
      );
    const ticks = toTicks(length.value, this.scope.rate);
    if (ticks < 1)
      return this.fail(length.syntax, `found ${ticks} ticks, expected at least one after '${syntax.kind}'`);
    if (of.kind === 'constant') return of;
    const uses = syntax.kind === 'within' && this.sense > 0 && this.scope.usesPresses === true;
    const presses = uses ? neededPresses(of) : NO_NAMES;
    const slot = this.scope.memory({ mode: syntax.kind, of, ticks, presses });
    if (slot === undefined) return this.fail(syntax, `'${syntax.kind}' cannot be used here`);
    return {
      kind: 'memory',
      mode: syntax.kind,
      of,
      ticks,
      slot,
      dials: length.dials,
      presses,
      dimension: TRUTH,
      syntax,
    };
  }

  private numeric(e: Maybe): Maybe {
    if (e === undefined || !e.dimension.truth) return e;
    return this.fail(e.syntax, 'found a truth value, expected a number');
  }

  private same(a: Maybe, b: Maybe, at: Syntax, verb = 'beside'): [Expression, Expression] | undefined {
    if (a === undefined || b === undefined) return undefined;
    if (sameDimension(a.dimension, b.dimension)) return [a, b];
    if (isBareZero(a) && !b.dimension.truth) return [{ ...a, dimension: b.dimension }, b];
    if (isBareZero(b) && !a.dimension.truth) return [a, { ...b, dimension: a.dimension }];
    const [first, second] = verb === 'taken from' ? [b, a] : [a, b];
    this.fail(
      at,
      `found ${dimensionName(first.dimension)} ${verb} ${dimensionName(second.dimension)}, expected two of a kind`,
    );
    return undefined;
  }

  private fail(at: TextSpan, message: string): undefined {
    this.faults.push({ start: at.start, end: at.end, message });
    return undefined;
  }
}

const all = (parts: Maybe[]): parts is Expression[] => parts.every((part) => part !== undefined);

const isBareZero = (e: Expression): boolean =>
  e.syntax.kind === 'number' && e.syntax.value === 0 && e.syntax.unit === undefined;

const NO_NAMES: readonly string[] = [];
const NO_DIALS = NO_NAMES;

/** The controls without whose press an expression cannot hold: of an `or`, all if each part needs one. */
function neededPresses(e: Expression): readonly string[] {
  switch (e.kind) {
    case 'fact':
      return e.ref.fact === 'pressed' && e.ref.of !== undefined ? [e.ref.of] : NO_NAMES;
    case 'memory':
      return e.presses;
    case 'logic': {
      const needed = e.parts.map(neededPresses);
      return e.op === 'or' && needed.some((presses) => presses.length === 0) ? NO_NAMES : needed.flat();
    }
    default:
      return NO_NAMES;
  }
}

const dialsOf = (parts: readonly Expression[]): readonly string[] => {
  const dials = new Set(parts.flatMap((part) => (part.kind === 'constant' ? part.dials : [])));
  return dials.size === 0 ? NO_DIALS : [...dials];
};

/** An expression whose parts are all constant is a constant; it keeps the dials that it was made from. */
function fold(e: Expression): Expression {
  const constant = (value: number): Expression => ({
    kind: 'constant',
    value,
    dials: dialsOf(partsOf(e)),
    dimension: e.dimension,
    syntax: e.syntax,
  });
  switch (e.kind) {
    case 'negate':
      return e.of.kind === 'constant' ? constant(0 - e.of.value) : e;
    case 'not':
      return e.of.kind === 'constant' ? constant(e.of.value === 0 ? 1 : 0) : e;
    case 'arithmetic':
      return e.left.kind === 'constant' && e.right.kind === 'constant'
        ? constant(arithmetic(e.op, e.left.value, e.right.value))
        : e;
    case 'compare': {
      if (e.left.kind !== 'constant' || e.right.kind !== 'constant') return e;
      const scale = (v: number): number => (e.rate === undefined ? v : toTicks(v, e.rate));
      return constant(compare(e.op, scale(e.left.value), scale(e.right.value)));
    }
    case 'function': {
      const values = e.args.map((arg) => (arg.kind === 'constant' ? arg.value : undefined));
      return values.every((v) => v !== undefined) ? constant(apply(e.name, values as number[])) : e;
    }
    default:
      return e;
  }
}
