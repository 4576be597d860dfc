import { present } from '../present.js';
import { type Fault, FaultError, fail } from './fault.js';
import { lex, type Token } from './lex.js';
import type { Arithmetic, Comparison, EffectSyntax, Syntax } from './syntax.js';

/** How deep parentheses and the like may nest; beyond it is an error, not a crash. */
export const MAX_DEPTH = 100;
/** How many terms may stand in a row; the tree of a sum is as deep as it is long. */
export const MAX_CHAIN = 500;
/** The longest piece of notation, in UTF-16 units. */
export const MAX_LENGTH = 10_000;

export type Parsed<T> = { ok: true; value: T } | { ok: false; fault: Fault };

/** Parses an expression. Never throws; linear in the length of the text. */
export const parseExpression = (text: string): Parsed<Syntax> => run(text, (p) => p.expression());

/** Parses an effect such as `vy := hopSpeed` or `start slideTime`. Never throws. */
export const parseEffect = (text: string): Parsed<EffectSyntax> => run(text, (p) => p.effect());

function run<T>(text: string, read: (parser: Parser) => T): Parsed<T> {
  try {
    if (text.length > MAX_LENGTH)
      fail(MAX_LENGTH, text.length, `found ${text.length} characters, expected at most ${MAX_LENGTH}`);
    const parser = new Parser(lex(text));
    const value = read(parser);
    parser.expectEnd();
    return { ok: true, value };
  } catch (error) {
    if (error instanceof FaultError) return { ok: false, fault: error.fault };
    throw error;
  }
}

const COMPARISONS: readonly string[] = ['<', '<=', '>', '>=', '=', '!='];

/**
 * Recursive descent, one method per precedence, loosest first:
 * choice, or, and, for, not, within, compare, sum, product, unary, primary.
 *
 * `for` is looser than `not` and `within` is tighter, so that both read as they are said:
 * `not grounded for 3 ticks` means it has not been grounded for 3 ticks,
 * `not pressed(hop) within 0.1 s` means no press within 0.1 s.
 */
class Parser {
  private at = 0;
  private depth = 0;

  constructor(private readonly tokens: Token[]) {}

  expression(): Syntax {
    if (++this.depth > MAX_DEPTH)
      this.failHere(`nested deeper than ${MAX_DEPTH} levels, expected a simpler expression`);
    const result = this.choice();
    this.depth--;
    return result;
  }

  effect(): EffectSyntax {
    const first = this.name('an effect, such as vy := 3 m/s or start slideTime');
    const next = this.peek();
    if (next.kind === 'symbol' && (next.text === ':=' || next.text === '+=' || next.text === '-=')) {
      return this.write(first, false);
    }
    if (first.text === 'keep')
      return this.write(
        this.name("the variable to keep the value in, as in 'keep entrySpeed := speed'"),
        true,
        first,
      );
    const words: Token[] = [];
    while (this.peek().kind === 'name') words.push(this.next());
    return {
      kind: 'verb',
      verb: first.text,
      words: words.map(({ text, start, end }) => ({ text, start, end })),
      start: first.start,
      end: (words[words.length - 1] ?? first).end,
    };
  }

  expectEnd(): void {
    if (this.peek().kind !== 'end') this.failHere(`found ${this.found()}, expected an operator or the end`);
  }

  private write(target: Token, keep: boolean, from: Token = target): EffectSyntax {
    const op = this.peek();
    if (op.kind !== 'symbol' || !(op.text === ':=' || (!keep && (op.text === '+=' || op.text === '-=')))) {
      this.failHere(`found ${this.found()}, expected ':='${keep ? '' : ", '+=' or '-='"}`);
    }
    this.next();
    const value = this.expression();
    return {
      kind: 'write',
      name: target.text,
      nameSpan: { start: target.start, end: target.end },
      op: op.text as ':=' | '+=' | '-=',
      value,
      keep,
      start: from.start,
      end: value.end,
    };
  }

  private choice(): Syntax {
    if (!this.isWord('if')) return this.logic('or');
    const start = this.next().start;
    const when = this.expression();
    this.word('then');
    const then = this.expression();
    this.word('else');
    const otherwise = this.expression();
    return { kind: 'choice', when, then, otherwise, start, end: otherwise.end };
  }

  private logic(op: 'or' | 'and'): Syntax {
    const operand = (): Syntax => (op === 'or' ? this.logic('and') : this.lasting());
    const first = operand();
    if (!this.isWord(op)) return first;
    const parts = [first];
    while (this.isWord(op)) {
      this.next();
      parts.push(operand());
    }
    return { kind: 'logic', op, parts, start: first.start, end: present(parts[parts.length - 1]).end };
  }

  private lasting(): Syntax {
    let of = this.negation();
    for (let n = 1; this.isWord('for'); n++) {
      if (n > MAX_DEPTH) this.failHere(`found 'for' more than ${MAX_DEPTH} times in a row, expected fewer`);
      this.next();
      const length = this.sum();
      of = { kind: 'for', of, length, start: of.start, end: length.end };
    }
    return of;
  }

  private negation(): Syntax {
    const starts: number[] = [];
    while (this.isWord('not')) starts.push(this.next().start);
    if (starts.length > MAX_DEPTH)
      this.failHere(`found ${starts.length} times 'not' in a row, expected at most ${MAX_DEPTH}`);
    let of = this.recent();
    for (const start of starts.reverse()) of = { kind: 'not', of, start, end: of.end };
    return of;
  }

  private recent(): Syntax {
    let of = this.comparison();
    for (let n = 1; this.isWord('within'); n++) {
      if (n > MAX_DEPTH)
        this.failHere(`found 'within' more than ${MAX_DEPTH} times in a row, expected fewer`);
      this.next();
      const length = this.sum();
      of = { kind: 'within', of, length, start: of.start, end: length.end };
    }
    return of;
  }

  private comparison(): Syntax {
    const left = this.sum();
    if (!this.isSymbol(...COMPARISONS)) return left;
    const op = this.next().text as Comparison;
    const right = this.sum();
    if (this.isSymbol(...COMPARISONS))
      this.failHere(`found a second comparison, expected 'and' between them`);
    return { kind: 'compare', op, left, right, start: left.start, end: right.end };
  }

  private sum(): Syntax {
    return this.leftAssociative(['+', '-'], () => this.product());
  }

  private product(): Syntax {
    return this.leftAssociative(['*', '/'], () => this.unary());
  }

  private leftAssociative(ops: readonly string[], operand: () => Syntax): Syntax {
    let left = operand();
    for (let terms = 1; this.isSymbol(...ops); terms++) {
      if (terms > MAX_CHAIN) this.failHere(`found more than ${MAX_CHAIN} terms in a row, expected fewer`);
      const op = this.next().text as Arithmetic;
      const right = operand();
      left = { kind: 'arithmetic', op, left, right, start: left.start, end: right.end };
    }
    return left;
  }

  private unary(): Syntax {
    const starts: number[] = [];
    while (this.isSymbol('-')) starts.push(this.next().start);
    if (starts.length > MAX_DEPTH)
      this.failHere(`found ${starts.length} minus signs in a row, expected at most ${MAX_DEPTH}`);
    let of = this.primary();
    for (const start of starts.reverse()) of = { kind: 'negate', of, start, end: of.end };
    return of;
  }

  private primary(): Syntax {
    const token = this.peek();
    const { start, end } = token;
    if (token.kind === 'number') {
      this.next();
      return { kind: 'number', value: token.value, digits: token.text, unit: token.unit, start, end };
    }
    if (this.isWord('true', 'false')) {
      this.next();
      return { kind: 'truth', value: token.text === 'true', start, end };
    }
    if (token.kind === 'name') {
      this.next();
      if (this.isSymbol('(')) return this.call(token);
      if (token.text === 'in' && this.peek().kind === 'name') {
        const state = this.next();
        const arg: Syntax = { kind: 'name', name: state.text, start: state.start, end: state.end };
        return { kind: 'call', name: 'in', args: [arg], start, end: state.end };
      }
      return { kind: 'name', name: token.text, start, end };
    }
    if (this.isSymbol('(')) {
      this.next();
      const inner = this.expression();
      this.symbol(')');
      return inner;
    }
    return this.failHere(`found ${this.found()}, expected a value: a number, a name, a fact or '('`);
  }

  private call(name: Token): Syntax {
    this.next();
    const args: Syntax[] = [];
    if (!this.isSymbol(')')) {
      args.push(this.expression());
      while (this.isSymbol(',')) {
        this.next();
        args.push(this.expression());
      }
    }
    const close = this.symbol(')');
    return { kind: 'call', name: name.text, args, start: name.start, end: close.end };
  }

  private peek = (): Token => present(this.tokens[this.at]);
  private next = (): Token => present(this.tokens[this.at++]);
  private isWord = (...words: string[]): boolean =>
    this.peek().kind === 'word' && words.includes(this.peek().text);
  private isSymbol = (...symbols: string[]): boolean =>
    this.peek().kind === 'symbol' && symbols.includes(this.peek().text);

  private name(what: string): Token {
    if (this.peek().kind !== 'name') this.failHere(`found ${this.found()}, expected ${what}`);
    return this.next();
  }

  private word(word: string): void {
    if (!this.isWord(word)) this.failHere(`found ${this.found()}, expected '${word}'`);
    this.next();
  }

  private symbol(symbol: string): Token {
    if (!this.isSymbol(symbol)) this.failHere(`found ${this.found()}, expected '${symbol}'`);
    return this.next();
  }

  private found(): string {
    const token = this.peek();
    if (token.kind === 'end') return 'the end';
    if (token.kind === 'number')
      return `the number ${token.text}${token.unit === undefined ? '' : ` ${token.unit}`}`;
    return `'${token.text}'`;
  }

  private failHere(message: string): never {
    const { start, end } = this.peek();
    return fail(start, end, message);
  }
}
