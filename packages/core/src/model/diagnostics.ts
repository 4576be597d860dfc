import { distance } from 'fastest-levenshtein';

/** Keys and indexes from the root of a document down to one value. */
export type Path = readonly (string | number)[];

/**
 * Something that is wrong with a document, at a place.
 * `line` and `column` count from 1; a whole-file fault is at 1:1.
 */
export interface Diagnostic {
  severity: 'error' | 'warning';
  /** What was found and what was expected, one sentence without a full stop. */
  message: string;
  path: Path;
  line: number;
  column: number;
}

/** True when nothing in the list forbids using the document. */
export const isUsable = (diagnostics: readonly Diagnostic[]): boolean =>
  !diagnostics.some((d) => d.severity === 'error');

/** What forbids using the document. */
export const errorsOf = (diagnostics: readonly Diagnostic[]): Diagnostic[] =>
  diagnostics.filter((d) => d.severity === 'error');

/** `file:line:column: message`, the form that terminals and editors turn into links. */
export const formatDiagnostic = (file: string, d: Diagnostic): string =>
  `${file}:${d.line}:${d.column}: ${d.severity === 'warning' ? 'warning: ' : ''}${d.message}`;

/** Names that are looked at for a suggestion, and how long one may be: comparing takes the product of two lengths. */
const LOOKED_AT = 200;
const MAX_COMPARED = 60;

/** The known name closest to a wrong one, or undefined when none of the first many is close enough to be meant. */
export function nearest(wrong: string, known: Iterable<string>): string | undefined {
  if (wrong.length > MAX_COMPARED) return undefined;
  let best: string | undefined;
  let bestDistance = Math.max(2, Math.floor(wrong.length / 3)) + 1;
  let looked = 0;
  for (const name of known) {
    if (++looked > LOOKED_AT) break;
    if (Math.abs(name.length - wrong.length) >= bestDistance) continue;
    const d = distance(wrong.toLowerCase(), name.toLowerCase());
    if (d < bestDistance) [best, bestDistance] = [name, d];
  }
  return best;
}

/** `, did you mean 'x'?` or nothing: the tail of a sentence about an unknown name. */
export function didYouMean(wrong: string, known: Iterable<string>): string {
  const name = nearest(wrong, known);
  return name === undefined ? '' : `, did you mean '${name}'?`;
}
