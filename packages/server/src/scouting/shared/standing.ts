import type { Scouting, Shared, WorkerState } from '@glenmark/contract';
import { type Coverage, type Finding, NO_COVERAGE } from '@glenmark/core/findings';
import { legsDone, planOf, type SharedScouting } from './next-jobs.js';
import type { WorkerRow } from './records.js';

/** A leg that is done, with what is shown of it. */
export interface Shown {
  leg: number;
  shard: number;
  situations: number;
  ticks: number;
  findings: Finding[];
  coverage: Coverage;
}

/** How a scouting stands, by what its shards found and what workers are at; `time` is by the clock of the database. */
export function standing(
  scouting: SharedScouting,
  { done, workers, time }: { done: readonly Shown[]; workers: readonly WorkerRow[]; time: Date },
): Scouting {
  const { legs, shards } = planOf(scouting);
  // A worker may say a moment longer that it is at a leg that it is done with.
  const isDone = (at: { leg: number; shard: number }): boolean =>
    done.some((d) => d.leg === at.leg && d.shard === at.shard);
  const doing = workers
    .flatMap(({ doing }) => doing)
    .filter((d) => d.scouting === scouting.id && d.leg >= 0 && !isDone(d));
  const sum = (of: 'situations' | 'ticks'): number =>
    [...done, ...doing].reduce((total, part) => total + part[of], 0);
  const findings: Finding[] = [];
  for (const finding of done.flatMap((d) => d.findings))
    if (!findings.some((f) => f.fingerprint === finding.fingerprint)) findings.push(finding);
  const { startedAt } = scouting.shared;
  return {
    ...scouting,
    findings,
    coverage: done.reduce((all, { coverage }) => joined(all, coverage), NO_COVERAGE),
    done: sum('situations'),
    ticks: sum('ticks'),
    seconds: startedAt === null ? 0 : (time.getTime() - Date.parse(startedAt)) / 1000,
    shared: {
      ...scouting.shared,
      leg: legsDone(done, shards),
      legs: legs.length,
      shards: shardsShown(scouting, done, doing),
      workers: workers.map((worker) => {
        const own = worker.doing.filter((d) => d.scouting === scouting.id);
        return {
          ...stateOf(worker),
          shards: own.filter((d) => d.leg >= 0 && !isDone(d)).map(({ shard }) => shard),
          reports: own.some(({ leg }) => leg < 0),
        };
      }),
    },
  };
}

/** What each shard searched and found: in legs that are done, and in those that workers are at. */
export const shardsShown = (
  scouting: SharedScouting,
  done: readonly Shown[],
  doing: readonly { shard: number; situations: number }[] = [],
): Shared['shards'] =>
  Array.from({ length: planOf(scouting).shards }, (_, shard) => {
    const own = done.filter((d) => d.shard === shard);
    const now = doing.find((d) => d.shard === shard)?.situations ?? 0;
    const { courses, shared } = scouting;
    return {
      course: courses[Math.floor(shard / shared.parts)]!,
      part: shard % shared.parts,
      situations: own.reduce((total, d) => total + d.situations, now),
      found: own.reduce((total, d) => total + d.findings.length, 0),
    };
  });

/** A worker as it is shown. */
export const stateOf = ({ name, threads, doing }: WorkerRow): WorkerState => ({
  name,
  threads,
  busy: doing.length,
  perSecond: doing.reduce((total, d) => total + d.perSecond, 0),
});

/** What was used in either of two searches. */
function joined(one: Coverage, other: Coverage): Coverage {
  const union = <T>(a: readonly T[], b: readonly T[]): T[] => {
    const known = new Set(a.map((item) => JSON.stringify(item)));
    return [...a, ...b.filter((item) => !known.has(JSON.stringify(item)))];
  };
  return {
    states: union(one.states, other.states),
    crossings: union(one.crossings, other.crossings),
    ofStates: Math.max(one.ofStates, other.ofStates),
    ofCrossings: Math.max(one.ofCrossings, other.ofCrossings),
  };
}
