import type { Finding } from '@glenmark/core/findings';

/** Whether a finding comes of an edit, and not of a scouting that was made or read since. */
export const isOfEdits = ({ code, witness }: Pick<Finding, 'code' | 'witness'>): boolean =>
  code !== 'IN4' && witness?.text === undefined;

/** What came and what went between two lists of findings, and how many stayed; what scouting found is left aside. */
export function apart(
  before: readonly Finding[],
  now: readonly Finding[],
): { come: Finding[]; gone: Finding[]; kept: number } {
  const missing = (list: readonly Finding[], from: readonly Finding[]): Finding[] => {
    const known = new Set(from.map((f) => f.fingerprint));
    return list.filter((f) => !known.has(f.fingerprint));
  };
  const [a, b] = [before.filter(isOfEdits), now.filter(isOfEdits)];
  const come = missing(b, a);
  return { come, gone: missing(a, b), kept: b.length - come.length };
}
