import type { Coverage, Finding, ScoutingReport } from '@glenmark/core/findings';

/** What is searched: the texts as they were when it was begun, and how. */
export interface SharedPlan {
  moveset: string;
  courses: string[];
  seed: number;
  grid: number | undefined;
  parts: number;
  situations: number;
}

/** What a thread is asked: the next leg of a shard, or the report when there are no more. */
export type LegQuestion = {
  /** Names the scouting and how often it was begun: with another key everything is read anew. */
  key: string;
  plan: SharedPlan;
  /** What all shards found in the legs that the thread does not know yet, packed. */
  results: Uint8Array[][];
} & ({ kind: 'leg'; shard: number } | { kind: 'report' });

/** What is shown of a leg while its scouting runs. */
export interface ShownOfLeg {
  findings: Finding[];
  coverage: Coverage;
}

/** What a thread says; `legs` is how many it knows by then. */
export type LegAnswer =
  | { kind: 'progress'; situations: number; ticks: number }
  | { kind: 'leg'; legs: number; result: Uint8Array; shown: ShownOfLeg; situations: number; ticks: number }
  | { kind: 'report'; legs: number; report: ScoutingReport }
  | { kind: 'stopped'; legs: number }
  | { kind: 'failed'; reason: string };
