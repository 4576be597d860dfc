import type { Scouting } from '@glenmark/contract';
import { isExhausted, legsOf } from '@glenmark/core/findings';
import type { LegJob } from './jobs.js';

/** A leg that is done. */
export interface LegDone {
  leg: number;
  shard: number;
  situations: number;
}

/** A scouting that workers share. */
export type SharedScouting = Scouting & { shared: NonNullable<Scouting['shared']> };

export const isShared = (scouting: Scouting): scouting is SharedScouting => scouting.shared !== undefined;

/** How many shards a scouting has, and how many legs at most. */
export function planOf({ courses, situations, shared }: SharedScouting): { shards: number; legs: number[] } {
  const shards = courses.length * shared.parts;
  return { shards, legs: legsOf(situations, shards) };
}

/** What all jobs of a scouting have in common; after it was stopped or begun anew they are others. */
export const jobOf = ({ id, createdAt, begun, shared }: SharedScouting) => ({
  scouting: id,
  createdAt,
  begun,
  turn: shared.turn,
});

/** Whether a job is one of a scouting as it stands, and not of an earlier try, turn, or scouting of that id. */
export const isJobOf = (job: ReturnType<typeof jobOf>, scouting: SharedScouting): boolean => {
  const { scouting: id, createdAt, begun, turn } = jobOf(scouting);
  return job.scouting === id && job.createdAt === createdAt && job.begun === begun && job.turn === turn;
};

/** How many legs all shards have done. */
export function legsDone(done: readonly LegDone[], shards: number): number {
  let legs = 0;
  while (done.filter(({ leg }) => leg === legs).length === shards) legs++;
  return legs;
}

/**
 * What is to be done next of a scouting: what is missing of the leg that it is in, or the report when there is nothing left
 * to search. Whoever asks gets the same answer, so it does no harm when several do.
 */
export function nextJobs(scouting: SharedScouting, done: readonly LegDone[]): LegJob[] {
  const of = jobOf(scouting);
  const { shards, legs } = planOf(scouting);
  const leg = legsDone(done, shards);
  const last = done.filter((d) => d.leg === leg - 1);
  const asked = legs[leg];
  if (asked === undefined || (leg > 0 && isExhausted(last, legs[leg - 1]!))) return [{ ...of, report: true }];
  const here = new Set(done.filter((d) => d.leg === leg).map(({ shard }) => shard));
  return Array.from({ length: shards }, (_, shard) => shard)
    .filter((shard) => !here.has(shard))
    .map((shard) => ({ ...of, leg, shard }));
}
