import { type Change, edit } from '@glenmark/core/model';

/** What a change does to the text: lines that go and lines that come, in order, with where they are. */
export interface Hunk {
  /** The number of the first line, from 1. */
  line: number;
  gone: string[];
  come: string[];
}

/** What some changes would do to a document, change by change. */
export function previewOf(text: string, changes: readonly Change[]): Hunk[] {
  // The document is written out once first, so that only the changes themselves are seen.
  let before = edit(text, []);
  return changes.flatMap((change) => {
    const after = edit(before, [change]);
    const hunk = hunkOf(before.split('\n'), after.split('\n'));
    before = after;
    return hunk ?? [];
  });
}

/** The lines between what two texts begin and end with alike. */
function hunkOf(before: readonly string[], after: readonly string[]): Hunk | undefined {
  const shorter = Math.min(before.length, after.length);
  let start = 0;
  while (start < shorter && before[start] === after[start]) start++;
  let end = 0;
  while (end < shorter - start && before[before.length - 1 - end] === after[after.length - 1 - end]) end++;
  const gone = before.slice(start, before.length - end);
  const come = after.slice(start, after.length - end);
  return gone.length + come.length === 0
    ? undefined
    : { line: start + 1, gone: gone.map((l) => l.trimEnd()), come: come.map((l) => l.trimEnd()) };
}
