import { isScalar } from 'yaml';
import { CATALOGUE, type Finding, levelOf, reasonPlaces } from '../findings/index.js';
import type { Machine } from '../machine/index.js';
import { type Diagnostic, type Path, type Source, type Stretch, stretchOf } from '../model/index.js';

/** Something wrong, as an editor underlines it. */
export interface Trouble extends Stretch {
  level: 'error' | 'warning' | 'note';
  /** The code of a finding; undefined for a fault of the text. */
  code: string | undefined;
  message: string;
  /** Places that are part of the reason. */
  related: (Stretch & { message: string })[];
  /** The finding itself, to act on. */
  finding: Finding | undefined;
}

/** The faults of a text: each from its place to the end of what stands on that line. */
export const faultsIn = (text: string, diagnostics: readonly Diagnostic[]): Trouble[] => {
  const lines = text.split('\n');
  const starts = startsOf(lines);
  return diagnostics.map(({ line, column, message, severity }): Trouble => {
    const at = Math.min(line, lines.length) - 1;
    const start = (starts[at] ?? 0) + column - 1;
    const end = (starts[at] ?? 0) + (lines[at] ?? '').replace(/\s+(#.*)?$/, '').length;
    return {
      start: Math.min(start, text.length),
      end: Math.min(Math.max(start, end), text.length),
      level: severity,
      code: undefined,
      message,
      related: [],
      finding: undefined,
    };
  });
};

/** Where each line begins. */
function startsOf(lines: readonly string[]): number[] {
  let at = 0;
  return lines.map((line) => (at += line.length + 1) - line.length - 1);
}

/** Findings that nobody accepts, at their places in the moveset, with the places of their reasons. */
export const findingsIn = (source: Source, machine: Machine, findings: readonly Finding[]): Trouble[] =>
  findings
    .filter(({ accepted }) => accepted === undefined)
    .map((finding): Trouble => ({
      ...placeOf(source, finding.path),
      level: levelOf(finding),
      code: finding.code,
      message: [
        finding.sentence,
        ...finding.reason,
        ...(finding.certainty === 'proved' ? [] : [`(${finding.certainty})`]),
        CATALOGUE[finding.code].repair,
      ].join('\n'),
      related: reasonPlaces(machine, finding).map(({ path, words }) => ({
        ...placeOf(source, path),
        message: words,
      })),
      finding,
    }));

/** Where a thing is shown: its value when that is a scalar, the first line of an item of a list, else its key. */
function placeOf(source: Source, path: Path): Stretch {
  if (path.length === 0) return { start: 0, end: 0 };
  const value = stretchOf(source, path);
  const key = typeof path.at(-1) === 'string' ? stretchOf(source, path, { key: true }) : undefined;
  if (value !== undefined && (key === undefined || isScalar(source.document.getIn(path, true))))
    return firstLine(source, value);
  return key ?? placeOf(source, path.slice(0, -1));
}

function firstLine({ text }: Source, { start, end }: Stretch): Stretch {
  const lineEnd = text.indexOf('\n', start);
  return { start, end: lineEnd < 0 ? end : Math.min(end, lineEnd) };
}
