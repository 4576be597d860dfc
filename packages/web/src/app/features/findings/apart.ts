import type { Finding } from '@glenmark/core/findings';
import { findingsApart } from '@glenmark/core/history';

/** Whether a finding comes of an edit, and not of a scouting that was made or read since. */
export const isOfEdits = ({ code, witness }: Pick<Finding, 'code' | 'witness'>): boolean =>
  code !== 'IN4' && witness?.text === undefined;

/** What came and what went between two lists of findings, and how many stayed; what scouting found is left aside. */
export const apart = (
  before: readonly Finding[],
  now: readonly Finding[],
): ReturnType<typeof findingsApart> => findingsApart(before.filter(isOfEdits), now.filter(isOfEdits));
