import { present } from '../present.js';
import { didYouMean } from '../model/index.js';
import { UNIT_NAMES } from './dimension.js';
import { fail } from './fault.js';

export type TokenKind = 'number' | 'name' | 'word' | 'symbol' | 'end';

export interface Token {
  kind: TokenKind;
  /** The name, reserved word or symbol; for a number its digits. */
  text: string;
  value: number;
  unit: string | undefined;
  start: number;
  end: number;
}

/** Words with a meaning of their own; nothing else may be called so. */
export const RESERVED = ['if', 'then', 'else', 'or', 'and', 'not', 'within', 'for', 'true', 'false'] as const;

const NUMBER = /(?:\d+(?:\.\d*)?|\.\d+)(?:[eE][+-]?\d+)?/y;
const WORD = /[A-Za-z_][A-Za-z0-9_]*/y;
const UNIT = /\s*(m\/s2|m\/s|1\/s|%|[A-Za-z_][A-Za-z0-9_]*)/y;
const SYMBOL = /:=|\+=|-=|<=|>=|!=|[-+*/()<>=,]/y;
const SPACE = /\s+/y;

const match = (pattern: RegExp, text: string, at: number): RegExpExecArray | null => {
  pattern.lastIndex = at;
  return pattern.exec(text);
};

/** Whether a word has a meaning of its own. */
export const isReserved = (word: string): boolean => (RESERVED as readonly string[]).includes(word);

/** Cuts a text into tokens, the last of kind `end`. Linear in its length. Throws a FaultError. */
export function lex(text: string): Token[] {
  const tokens: Token[] = [];
  const push = (kind: TokenKind, start: number, end: number, more: Partial<Token> = {}): void => {
    tokens.push({ kind, text: text.slice(start, end), value: 0, unit: undefined, start, end, ...more });
  };
  let at = 0;
  for (;;) {
    at += match(SPACE, text, at)?.[0].length ?? 0;
    if (at >= text.length) break;
    const number = match(NUMBER, text, at);
    if (number !== null) {
      const digits = number[0];
      const afterDigits = at + digits.length;
      const unit = readUnit(text, afterDigits);
      const value = Number(digits);
      if (!Number.isFinite(value)) fail(at, afterDigits, `found ${digits}, expected a number that fits`);
      push('number', at, unit?.end ?? afterDigits, { text: digits, value, unit: unit?.name });
      at = unit?.end ?? afterDigits;
      continue;
    }
    const word = match(WORD, text, at);
    if (word !== null) {
      push(isReserved(word[0]) ? 'word' : 'name', at, at + word[0].length);
      at += word[0].length;
      continue;
    }
    const symbol = match(SYMBOL, text, at);
    if (symbol !== null) {
      push('symbol', at, at + symbol[0].length);
      at += symbol[0].length;
      continue;
    }
    const odd = String.fromCodePoint(present(text.codePointAt(at)));
    fail(at, at + odd.length, `found '${odd}', which is not part of the notation`);
  }
  push('end', text.length, text.length);
  return tokens;
}

/** The unit that follows a number. `m/s2` must not swallow the beginning of a name, as in `2 m/speed`. */
function readUnit(text: string, at: number): { name: string; end: number } | undefined {
  const found = match(UNIT, text, at);
  if (found === null) return undefined;
  let name = present(found[1]);
  let end = at + found[0].length;
  if (name.includes('/') && /[A-Za-z0-9_]/.test(text[end] ?? '')) {
    if (name === '1/s') return undefined;
    end -= name.length - 1;
    name = 'm';
  }
  if (isReserved(name)) return undefined;
  if (!UNIT_NAMES.includes(name)) {
    fail(
      end - name.length,
      end,
      `unknown unit '${name}'${didYouMean(name, UNIT_NAMES) || `, expected one of ${UNIT_NAMES.join(' ')}`}`,
    );
  }
  return { name, end };
}
