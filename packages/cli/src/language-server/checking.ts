import type { Finding, Repair } from '@glenmark/core/findings';

/** A moveset to be checked, with what is played on it. */
export interface CheckAsked {
  uri: string;
  text: string;
  tapes: { uri: string; text: string; course: string }[];
}

/** An expectation that a tape misses: which one of its list, where that is known, and what was seen. */
export interface Missed {
  uri: string;
  index: number;
  tick: number;
  seen: string | undefined;
}

/** What a check says, in two messages: first what was found, later what would mend it. */
export type CheckAnswer = { uri: string; text: string } & (
  { findings: Finding[]; missed: Missed[] } | { repairs: { fingerprint: string; repairs: Repair[] }[] }
);
