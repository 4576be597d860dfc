import { present } from '../present.js';
import { type Document, isMap, isScalar, isSeq, Lexer, LineCounter, type Node, parseDocument } from 'yaml';
import type { Diagnostic, Path } from './diagnostics.js';

/** Longest document we read, in bytes of UTF-8. A moveset of 60 states is about 40,000. */
export const MAX_TEXT = 2_000_000;

/** Most lines of a document: reading YAML takes a time for each, however little stands in it. */
const MAX_LINES = 100_000;

/** The bytes of a text in UTF-8, without encoding it. */
export function utf8Length(text: string): number {
  let bytes = text.length;
  for (let i = 0; i < text.length; i++) {
    const c = text.charCodeAt(i);
    // Each half of a pair counts two: together they are four bytes.
    if (c > 0x7f) bytes += c > 0x7ff && (c < 0xd800 || c > 0xdfff) ? 2 : 1;
  }
  return bytes;
}

/** A text without the byte order mark that some editors put before it. */
export const withoutMark = (text: string): string => (text.startsWith('\uFEFF') ? text.slice(1) : text);

/** A piece of a text, from `start` up to `end`, and what stands there after. */
export interface Splice {
  start: number;
  end: number;
  text: string;
}

/** A text that is YAML 1.2 (or JSON, which is YAML), with what is needed to point into it. */
export interface Source {
  text: string;
  /** The document as it was parsed. Its places are those of `text` only through `rangeIn`. */
  document: Document.Parsed;
  lines: LineCounter;
  /** The edits since it was parsed, each as the splices that it made at once. */
  edits?: readonly (readonly Splice[])[];
}

/** Where a node of the document is in the text of its source; undefined for what was not parsed from a text. */
export function rangeIn({ edits }: Source, node: unknown): [start: number, end: number] | undefined {
  const range = (node as Node | null | undefined)?.range;
  if (range === null || range === undefined) return undefined;
  if (edits === undefined) return [range[0], range[1]];
  const place = (at: number): number => edits.reduce(placeAfter, at);
  return [place(range[0]), place(range[1])];
}

/** Where a place is after some splices: one at the start of a piece stays, one at its end goes with it. */
export const placeAfter = (at: number, splices: readonly Splice[]): number =>
  splices.reduce(
    (place, { start, end, text }) => (at >= end ? place + text.length - (end - start) : place),
    at,
  );

/** Reads a text as one YAML document. Never throws; every fault becomes a diagnostic with a place. */
export function parseSource(text: string): { source?: Source; diagnostics: Diagnostic[] } {
  const whole = (message: string): { diagnostics: Diagnostic[] } => ({
    diagnostics: [{ severity: 'error', message, path: [], line: 1, column: 1 }],
  });
  if (text.length > MAX_TEXT || utf8Length(text) > MAX_TEXT) {
    return whole(`found ${utf8Length(text)} bytes, expected at most ${MAX_TEXT}`);
  }
  const count = countLines(text);
  if (count > MAX_LINES) return whole(`found ${count} lines, expected at most ${MAX_LINES}`);
  const odd = oddCharacter(text);
  if (odd !== undefined) {
    const before = text.slice(0, odd).split('\n');
    const code = text.charCodeAt(odd).toString(16).toUpperCase().padStart(4, '0');
    const message = `found the unprintable character U+${code}, expected text`;
    return {
      diagnostics: [
        {
          severity: 'error',
          message,
          path: [],
          line: before.length,
          column: present(before[before.length - 1]).length + 1,
        },
      ],
    };
  }
  const excess = text.length > QUICK ? excessOf(text) : undefined;
  if (excess !== undefined) return whole(excess);
  const lines = new LineCounter();
  let document: Document.Parsed;
  try {
    // That keys are unique is looked at below: the library compares each with each.
    document = parseDocument(text, {
      lineCounter: lines,
      stringKeys: true,
      prettyErrors: false,
      uniqueKeys: false,
    });
  } catch (error) {
    return whole(`this is not readable as YAML: ${(error as Error).message}`);
  }
  const diagnostics = document.errors.slice(0, 20).map((error): Diagnostic => {
    const { line, col } = lines.linePos(error.pos[0]);
    return {
      severity: 'error',
      message: plainYamlMessage(error.message),
      path: [],
      line: Math.max(line, 1),
      column: Math.max(col, 1),
    };
  });
  if (diagnostics.length > 0) return { diagnostics };
  const repeated = repeatedKey(document);
  if (repeated !== undefined) {
    const { line, col } = lines.linePos(repeated.at);
    const message = `the key '${repeated.key}' is here for the second time, expected each key once`;
    return { diagnostics: [{ severity: 'error', message, path: [], line, column: col }] };
  }
  if (document.contents === null) return whole('found nothing, expected a document');
  return { source: { text, document, lines }, diagnostics: [] };
}

/** The plain value of a source, or a diagnostic when its aliases unfold beyond reason. */
export function sourceValue(source: Source): { value?: unknown; diagnostics: Diagnostic[] } {
  try {
    return { value: source.document.toJS({ maxAliasCount: 100 }), diagnostics: [] };
  } catch (error) {
    const message = `found aliases that unfold too far, expected a plain document: ${(error as Error).message}`;
    return { diagnostics: [{ severity: 'error', message, path: [], line: 1, column: 1 }] };
  }
}

/** Where in the text a path's value (or, with `key`, its key) begins; `offset` counts into a scalar. */
export function locate(
  source: Source,
  path: Path,
  options: { key?: boolean; offset?: number } = {},
): { line: number; column: number } {
  const startOf = (inner: unknown): number | undefined => rangeIn(source, inner)?.[0];
  let node: unknown = source.document.contents;
  let at = startOf(node) ?? 0;
  for (const [depth, step] of path.entries()) {
    let next: unknown;
    if (isMap(node)) {
      const pair = node.items.find((item) => isScalar(item.key) && String(item.key.value) === String(step));
      if (pair === undefined) break;
      next = pair.value;
      const keyAt = startOf(pair.key);
      at = (options.key && depth === path.length - 1 ? keyAt : startOf(next)) ?? keyAt ?? at;
    } else if (isSeq(node)) {
      next = node.items[Number(step)];
      if (next === undefined) break;
      at = startOf(next) ?? at;
    } else break;
    node = next;
    if (options.offset !== undefined && depth === path.length - 1 && isScalar(node)) {
      const quoted = node.type === 'QUOTE_DOUBLE' || node.type === 'QUOTE_SINGLE';
      at += options.offset + (quoted ? 1 : 0);
    }
  }
  const { line, col } = source.lines.linePos(Math.min(at, source.text.length));
  return { line: Math.max(line, 1), column: Math.max(col, 1) };
}

/** A diagnostic at a path of a source. */
export function diagnosticAt(
  source: Source,
  path: Path,
  message: string,
  options: { key?: boolean; offset?: number; severity?: 'error' | 'warning' } = {},
): Diagnostic {
  return { severity: options.severity ?? 'error', message, path, ...locate(source, path, options) };
}

const rangeStart = (node: unknown): number | undefined => (node as Node | null | undefined)?.range?.[0];

/** The first character that no text file holds, so that binary noise is refused before it is parsed. */
function oddCharacter(text: string): number | undefined {
  for (let i = 0; i < text.length; i++) {
    const c = text.charCodeAt(i);
    if ((c < 32 && c !== 9 && c !== 10 && c !== 13) || c === 0xfffd) return i;
    if (c < 0xd800 || c > 0xdfff) continue;
    // One half of a pair without the other is no character.
    const next = text.charCodeAt(i + 1);
    if (c > 0xdbff || !(next >= 0xdc00 && next <= 0xdfff)) return i;
    i++;
  }
  return undefined;
}

/** Texts up to this length are parsed without a look at what they are made of. */
const QUICK = 100_000;
/** Most tokens of YAML in a document, and most brackets in each other. */
const MAX_TOKENS = 800_000;
const MAX_BRACKETS = 200;

/** What a text has too much of to be parsed in a short time. */
function excessOf(text: string): string | undefined {
  let tokens = 0;
  let depth = 0;
  for (const token of new Lexer().lex(text)) {
    if (++tokens > MAX_TOKENS) return `found more than ${MAX_TOKENS} pieces of YAML, expected fewer`;
    if (token === '[' || token === '{') depth++;
    else if (token === ']' || token === '}') depth--;
    if (depth > MAX_BRACKETS) return `found more than ${MAX_BRACKETS} brackets in each other, expected fewer`;
  }
  return undefined;
}

/** The first key that stands twice in one mapping. */
function repeatedKey(document: Document.Parsed): { key: string; at: number } | undefined {
  const waiting: unknown[] = [document.contents];
  let first: { key: string; at: number } | undefined;
  for (let node = waiting.pop(); node !== undefined; node = waiting.pop()) {
    if (isSeq(node)) for (const item of node.items) waiting.push(item);
    if (!isMap(node)) continue;
    const keys = new Set<string>();
    for (const { key, value } of node.items) {
      if (value !== null && value !== undefined) waiting.push(value);
      if (!isScalar(key)) continue;
      const name = String(key.value);
      const at = rangeStart(key) ?? 0;
      if (keys.has(name) && at < (first?.at ?? Infinity)) first = { key: name, at };
      keys.add(name);
    }
  }
  return first;
}

function countLines(text: string): number {
  let count = 1;
  for (let at = text.indexOf('\n'); at >= 0; at = text.indexOf('\n', at + 1)) count++;
  return count;
}

const plainYamlMessage = (message: string): string => {
  const first = present(message.split('\n')[0]).trim().replace(/\.$/, '');
  if (/call stack/i.test(first))
    return 'it is nested too deeply here, expected a document as one would write it';
  return `the YAML is broken here: ${first.charAt(0).toLowerCase()}${first.slice(1)}`;
};
