import type { Operation, Sense, Statement, Term } from '../../machine/index.js';
import { terms } from '../../machine/index.js';
import { present } from '../../present.js';
import { type Member, NUMBER, type Owner, TRUTH, type Type, WHOLE } from '../members.js';
import { lineOf, memberAt, type Outline, type Procedure } from '../outline.js';
import { localsSet } from '../walk.js';

/** How a language writes what all of them have. */
export interface Syntax {
  /** The name of a member, with that of who keeps it. */
  member: (member: Member) => string;
  local: (name: string) => string;
  constant: (dial: string) => string;
  /** The name of a procedure. */
  procedure: (name: string) => string;
  /** How the values that a procedure needs are handed on. */
  owners: Partial<Record<Owner, string>>;
  /** A state, crossing or stance as its type has it. */
  enumerator: (type: Type, value: number) => string;
  /** The same value as a number, and the other way. */
  asNumber: (type: Type, text: string) => string;
  fromNumber: (type: Type, text: string) => string;
  literal: (value: number) => string;
  whole: (value: number) => string;
  yes: string;
  no: string;
  and: string;
  or: string;
  not: string;
  equal: string;
  differs: string;
  choice: (when: string, then: string, otherwise: string, isTruth: boolean) => string;
  /** A call of one of the functions that come with the code. */
  call: (name: Helper, args: readonly string[]) => string;
  declare: (type: Type, name: string, value: string, isConstant: boolean) => string;
  end: string;
  comment: string;
  ifLine: (when: string) => string;
  elseIfLines: (when: string) => string[];
  elseLines: string[];
  endLine: string;
  block: (body: readonly string[]) => string[];
  choose: (
    on: string,
    cases: readonly (readonly [labels: readonly string[], body: readonly string[]])[],
    otherwise: readonly string[],
  ) => string[];
  repeat: (times: number, when: string, body: readonly string[]) => string[];
  /** Wind and drag of zones on the locals `vx` and `vy`. */
  blow: readonly string[];
  /** A tether takes hold, or lets go. */
  cast: (tether: number) => readonly string[];
  release: (tether: number) => readonly string[];
}

/** Functions that the code may call; each language brings those that are called. */
export type Helper =
  | Exclude<Operation, '+' | '-' | '*' | '/'>
  | Exclude<Sense, 'middle'>
  | 'slope'
  | 'sine'
  /** A tether takes hold. */
  | 'hold';

/** How tightly an operator binds; what binds less than its place asks for stands in parentheses. */
const LEVEL = { choice: 0, or: 1, and: 2, compare: 3, sum: 4, product: 5, unary: 6, whole: 7 };

interface Text {
  text: string;
  level: number;
}

export interface Printer {
  /** What a procedure does as lines, not indented. */
  procedure: (procedure: Pick<Procedure, 'body'>) => string[];
  /** The helpers that were called so far. */
  called: Set<Helper>;
  /** The initial value of a member. */
  initial: (member: Member) => string;
}

const INDENT = '  ';
export const indented = (lines: readonly string[]): string[] =>
  lines.map((line) => (line === '' ? '' : INDENT + line));

/** Prints terms and statements of an outline in a language. */
export function createPrinter(outline: Outline, syntax: Syntax): Printer {
  const { members, constants, machine } = outline;
  const called = new Set<Helper>();
  const callOf = (name: Helper, args: readonly string[]): Text => {
    called.add(name);
    return { text: syntax.call(name, args), level: LEVEL.whole };
  };
  const whole = (text: string): Text => ({ text, level: LEVEL.whole });
  const within = ({ text, level }: Text, least: number): string => (level < least ? `(${text})` : text);

  const typeOf = (t: Term): Type => {
    if (t.kind === 'local') return t.isTruth ? TRUTH : (LOCALS[t.name.replace(/\d+$/, '')] ?? NUMBER);
    return memberAt(members, t)?.type ?? NUMBER;
  };
  /** Whether a term is a truth, by its form or by the type of what it stands for. */
  const isTruth = (t: Term): boolean => {
    if (terms.isTruth(t)) return true;
    if (t.kind === 'choice') return isTruth(t.then) && isTruth(t.otherwise);
    // What is true or false is within its bounds.
    if (t.kind === 'operation' && t.op === 'bounded') return isTruth(present(t.args[0]));
    return typeOf(t).kind === 'truth';
  };
  const nameOf = (t: Term): string =>
    t.kind === 'local' ? syntax.local(t.name) : syntax.member(present(memberAt(members, t)));
  const isPlace = (t: Term): boolean => t.kind === 'local' || memberAt(members, t) !== undefined;

  /** A number where a value of a type is asked for. */
  const literal = (value: number, type: Type): Text => {
    switch (type.kind) {
      case 'truth':
        return whole(value === 0 ? syntax.no : syntax.yes);
      case 'leaf':
      case 'way':
      case 'stance':
        return whole(syntax.enumerator(type, value));
      case 'anyLeaf': {
        const leaf: Type = { kind: 'leaf', lane: machine.states[value]?.lane ?? 0 };
        return value < 0
          ? { text: syntax.whole(value), level: LEVEL.unary }
          : whole(syntax.asNumber(leaf, syntax.enumerator(leaf, value)));
      }
      case 'anyStance':
        return value < 0
          ? { text: syntax.whole(value), level: LEVEL.unary }
          : whole(syntax.asNumber({ kind: 'stance' }, syntax.enumerator({ kind: 'stance' }, value)));
      case 'whole':
        return { text: syntax.whole(value), level: value < 0 ? LEVEL.unary : LEVEL.whole };
      case 'number':
        return { text: syntax.literal(value), level: value < 0 ? LEVEL.unary : LEVEL.whole };
    }
  };

  /** A term as a value of a type. */
  const valueOf = (t: Term, type: Type): Text => {
    if (type.kind === 'truth') return truth(t);
    if (t.kind === 'number' && !constants.named.has(t)) return literal(t.value, type);
    if (t.kind === 'choice' && !isTruth(t)) {
      const parts = [
        within(truth(t.when), LEVEL.compare),
        ...[t.then, t.otherwise].map((p) => within(valueOf(p, type), LEVEL.compare)),
      ];
      return { text: syntax.choice(...(parts as [string, string, string]), false), level: LEVEL.choice };
    }
    const own = typeOf(t);
    const isSame = own.kind === type.kind;
    if (isSame) return isPlace(t) ? whole(nameOf(t)) : number(t);
    return type.kind === 'leaf' || type.kind === 'way' || type.kind === 'stance'
      ? whole(syntax.fromNumber(type, isPlace(t) ? nameOf(t) : number(t).text))
      : number(t);
  };

  /** A term as a number. */
  const number = (t: Term): Text => {
    if (isTruth(t)) {
      const when = within(truth(t), LEVEL.compare);
      return { text: syntax.choice(when, syntax.literal(1), syntax.literal(0), false), level: LEVEL.choice };
    }
    switch (t.kind) {
      case 'number': {
        const dial = constants.named.get(t);
        if (dial === undefined) return t.value === machine.dt ? whole('dt') : literal(t.value, NUMBER);
        const text = syntax.constant(dial.name);
        return dial.isNegative ? { text: `-${text}`, level: LEVEL.unary } : whole(text);
      }
      case 'sense':
        return callOf(
          t.sense as Helper,
          t.args.map((arg) => number(arg).text),
        );
      case 'operation':
        return operation(t);
      case 'choice':
        return valueOf(t, NUMBER);
      case 'fact':
        if (t.asked) return callOf('slope', []);
        break;
    }
    const type = typeOf(t);
    const isEnumeration = type.kind === 'leaf' || type.kind === 'way' || type.kind === 'stance';
    return whole(isEnumeration ? syntax.asNumber(type, nameOf(t)) : nameOf(t));
  };

  const operation = ({ op, args }: Extract<Term, { kind: 'operation' }>): Text => {
    const [a, b] = args as [Term, Term];
    switch (op) {
      case '-':
        if (a.kind === 'number' && a.value === 0 && !constants.named.has(a)) {
          // 0 − x, not −x: for 0 that is another zero, which nothing asks for.
          return { text: `-${within(number(b), LEVEL.whole)}`, level: LEVEL.unary };
        }
        return binary(a, op, b, LEVEL.sum);
      case '+':
        return binary(a, op, b, LEVEL.sum);
      case '*':
      case '/':
        return binary(a, op, b, LEVEL.product);
      default:
        if ((op === 'min' || op === 'max') && args.length > 2)
          return number(args.reduce((left, right) => terms.operation(op, left, right)));
        return args.length === 1 && (op === 'min' || op === 'max')
          ? number(a)
          : callOf(
              op,
              args.map((arg) => number(arg).text),
            );
    }
  };

  // What is on the left is worked out first, in all of these languages.
  const binary = (a: Term, op: string, b: Term, level: number): Text => ({
    text: `${within(number(a), level)} ${op} ${within(number(b), level + 1)}`,
    level,
  });

  /** A term as a condition. */
  const truth = (t: Term): Text => {
    switch (t.kind) {
      case 'number':
        return whole(t.value === 0 ? syntax.no : syntax.yes);
      case 'compare':
        return compared(t);
      case 'not':
        return negated(t.of);
      case 'all':
        return joined(t.of, syntax.and, LEVEL.and, syntax.yes);
      case 'any':
        return joined(t.of, syntax.or, LEVEL.or, syntax.no);
      case 'choice':
        if (isTruth(t)) {
          const parts = [t.when, t.then, t.otherwise].map((part) => within(truth(part), LEVEL.compare));
          return { text: syntax.choice(...(parts as [string, string, string]), true), level: LEVEL.choice };
        }
        break;
      case 'operation':
        if (isTruth(t)) return truth(present(t.args[0]));
        break;
      case 'sense':
        if (t.sense === 'hangs') return callOf('hangs', []);
        break;
    }
    if (isTruth(t)) return whole(nameOf(t));
    return {
      text: `${within(number(t), LEVEL.sum)} ${syntax.differs} ${syntax.literal(0)}`,
      level: LEVEL.compare,
    };
  };

  const negated = (of: Term): Text => {
    if (of.kind === 'compare' && (of.op === '=' || of.op === '!='))
      return compared({ ...of, op: of.op === '=' ? '!=' : '=' });
    return { text: `${syntax.not}${within(truth(of), LEVEL.unary)}`, level: LEVEL.unary };
  };

  const joined = (parts: readonly Term[], by: string, level: number, none: string): Text => {
    if (parts.length === 0) return whole(none);
    if (parts.length === 1) return truth(present(parts[0]));
    // An `and` within an `or` stands in parentheses, though it need not.
    return { text: parts.map((part) => within(truth(part), LEVEL.compare)).join(` ${by} `), level };
  };

  const compared = ({ op, left, right }: Extract<Term, { kind: 'compare' }>): Text => {
    if (right.kind === 'number' && isTruth(left)) {
      const isYes = (op === '!=' && right.value === 0) || (op === '=' && right.value === 1);
      const isNo = (op === '=' && right.value === 0) || (op === '!=' && right.value === 1);
      if (isYes) return truth(left);
      if (isNo) return negated(left);
    }
    const type = typeOf(left);
    // Of a crossing or a last state that is kept it is asked whether there is one.
    if (
      op === '>=' &&
      right.kind === 'number' &&
      right.value === 0 &&
      (type.kind === 'way' || type.kind === 'anyLeaf' || type.kind === 'anyStance')
    )
      return compared({ kind: 'compare', op: '!=', left, right: { kind: 'number', value: -1 } });
    const asked = type.kind === 'truth' ? NUMBER : type;
    const sides = [left, right].map((side) => within(valueOf(side, asked), LEVEL.sum));
    const sign = op === '=' ? syntax.equal : op === '!=' ? syntax.differs : op;
    return { text: `${sides[0]} ${sign} ${sides[1]}`, level: LEVEL.compare };
  };

  let changing: ReadonlySet<string> = new Set();
  const lines = (list: readonly Statement[]): string[] => list.flatMap(statement);
  const procedure = ({ body }: Pick<Procedure, 'body'>): string[] => {
    changing = localsSet(body);
    return lines(body);
  };

  const statement = (s: Statement): string[] => {
    switch (s.kind) {
      case 'let': {
        const type = isTruth(s.value) ? TRUTH : typeOf({ kind: 'local', name: s.name, isTruth: false });
        const value = valueOf(s.value, type).text;
        return [syntax.declare(type, syntax.local(s.name), value, !changing.has(s.name)) + syntax.end];
      }
      case 'set': {
        return [
          `${nameOf(s.to)} = ${valueOf(s.value, isTruth(s.to) ? TRUTH : typeOf(s.to)).text}${syntax.end}`,
        ];
      }
      case 'block':
        return syntax.block(lines(s.body));
      case 'if':
        return [...chained(s, syntax.ifLine), syntax.endLine];
      case 'switch':
        return chosen(s);
      case 'repeat':
        return syntax.repeat(s.times, truth(s.while).text, lines(s.body));
      case 'call': {
        const { needs } = present(outline.procedures.find(({ name }) => name === s.procedure));
        const args = OWNERS.flatMap((owner) => (needs.has(owner) ? (syntax.owners[owner] ?? []) : []));
        return [`${syntax.procedure(s.procedure)}(${args.join(', ')})${syntax.end}`];
      }
      case 'world':
        if (s.act === 'blow') {
          called.add('decay');
          return [...syntax.blow];
        }
        if (s.act === 'release') return [...syntax.release(s.index)];
        called.add('hold');
        return [...syntax.cast(s.index)];
      case 'tell':
        return s.what.kind === 'origin'
          ? [`${syntax.comment} ${lineOf(outline, s.what.path)}: ${s.what.text}`]
          : [];
    }
  };

  /** A choice by a value; where there is one case alone, it is a condition. */
  const chosen = ({ on, cases, otherwise }: Extract<Statement, { kind: 'switch' }>): string[] => {
    const alike = casesAlike(
      cases.map(({ of, body }) => [literal(of, typeOf(on)).text, lines(body)] as const),
    );
    const by = valueOf(on, typeOf(on)).text;
    const [first, ...more] = alike;
    if (first === undefined || more.length > 0 || first[0].length > 2)
      return syntax.choose(by, alike, lines(otherwise));
    const [labels, body] = first;
    const when = labels.map((label) => `${by} ${syntax.equal} ${label}`).join(` ${syntax.or} `);
    return [
      syntax.ifLine(when),
      ...indented(body),
      ...(otherwise.length === 0 ? [] : [...syntax.elseLines, ...indented(lines(otherwise))]),
      syntax.endLine,
    ];
  };

  /** A condition with what is done otherwise, one below the other where that is a condition again. */
  const chained = (
    s: Extract<Statement, { kind: 'if' }>,
    begin: (when: string) => string | string[],
  ): string[] => {
    const first = [begin(truth(s.when).text)].flat();
    const then = [...first, ...indented(lines(s.then))];
    if (s.otherwise.length === 0) return then;
    const origins = s.otherwise.filter((o) => o.kind === 'tell');
    const rest = s.otherwise.slice(origins.length);
    const [next] = rest;
    if (rest.length !== 1 || next?.kind !== 'if')
      return [...then, ...syntax.elseLines, ...indented(lines(s.otherwise))];
    const notes = lines(origins);
    return [
      ...then,
      ...chained(next, (when) => {
        const [end, ...begins] = syntax.elseIfLines(when);
        // The end of what is before, then where the next comes from.
        return begins.length === 0 ? [...notes, present(end)] : [present(end), ...notes, ...begins];
      }),
    ];
  };

  return { procedure, called, initial: ({ type, initial }) => literal(initial, type).text };
}

/** Cases in which the same is done, together where the first of them is. */
function casesAlike(
  cases: readonly (readonly [label: string, body: readonly string[]])[],
): (readonly [labels: readonly string[], body: readonly string[]])[] {
  const groups = new Map<string, { labels: string[]; body: readonly string[] }>();
  for (const [label, body] of cases) {
    const key = body.join('\n');
    const known = groups.get(key);
    if (known === undefined) groups.set(key, { labels: [label], body });
    else known.labels.push(label);
  }
  return [...groups.values()].map(({ labels, body }) => [labels, body] as const);
}

/** The order in which procedures take what they need. */
export const OWNERS: readonly Owner[] = ['situation', 'senses', 'inputs', 'working'];

/** Locals that are no plain numbers. */
const LOCALS: Partial<Record<string, Type>> = {
  target: { kind: 'anyLeaf' },
  wanted: { kind: 'anyStance' },
  pull: WHOLE,
};
