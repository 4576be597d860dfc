import { type Document, isMap, isScalar, isSeq, LineCounter, type Node, parseDocument } from 'yaml';
import type { Diagnostic, Path } from './diagnostics.js';

/** Longest document we read, in UTF-16 units. A moveset of 60 states is about 40,000. */
export const MAX_TEXT = 2_000_000;

/** A text that is YAML 1.2 (or JSON, which is YAML), with what is needed to point into it. */
export interface Source {
  text: string;
  document: Document.Parsed;
  lines: LineCounter;
}

/** Reads a text as one YAML document. Never throws; every fault becomes a diagnostic with a place. */
export function parseSource(text: string): { source?: Source; diagnostics: Diagnostic[] } {
  const whole = (message: string): { diagnostics: Diagnostic[] } => ({
    diagnostics: [{ severity: 'error', message, path: [], line: 1, column: 1 }],
  });
  if (text.length > MAX_TEXT) {
    return whole(`found ${text.length} characters, expected at most ${MAX_TEXT}`);
  }
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
          column: before[before.length - 1]!.length + 1,
        },
      ],
    };
  }
  const lines = new LineCounter();
  let document: Document.Parsed;
  try {
    document = parseDocument(text, { lineCounter: lines, stringKeys: true, prettyErrors: false });
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
  let node: unknown = source.document.contents;
  let at = rangeStart(node) ?? 0;
  for (const [depth, step] of path.entries()) {
    let next: unknown;
    if (isMap(node)) {
      const pair = node.items.find((item) => isScalar(item.key) && String(item.key.value) === String(step));
      if (pair === undefined) break;
      next = pair.value;
      const keyAt = rangeStart(pair.key);
      at = (options.key && depth === path.length - 1 ? keyAt : rangeStart(next)) ?? keyAt ?? at;
    } else if (isSeq(node)) {
      next = node.items[Number(step)];
      if (next === undefined) break;
      at = rangeStart(next) ?? at;
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

/** The first control character that no text file holds, so that binary noise is refused before it is parsed. */
function oddCharacter(text: string): number | undefined {
  for (let i = 0; i < text.length; i++) {
    const c = text.charCodeAt(i);
    if ((c < 32 && c !== 9 && c !== 10 && c !== 13) || c === 0xfffd) return i;
  }
  return undefined;
}

const plainYamlMessage = (message: string): string => {
  const first = message.split('\n')[0]!.trim().replace(/\.$/, '');
  return `the YAML is broken here: ${first.charAt(0).toLowerCase()}${first.slice(1)}`;
};
