import type { Scouting } from '@glenmark/contract';
import { type Finding, legsOf, NO_COVERAGE } from '@glenmark/core/findings';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  isJobOf,
  jobOf,
  type LegDone,
  nextJobs,
  type SharedScouting,
} from '../src/scouting/shared/next-jobs.js';
import { type Shown, standing } from '../src/scouting/shared/standing.js';

const scoutingOf = (plan: { courses: string[]; parts: number; situations: number }): SharedScouting => ({
  id: 'courier-1',
  moveset: 'courier',
  revision: 1,
  courses: plan.courses,
  situations: plan.situations,
  seed: 1,
  createdAt: '2026-11-01T08:00:00.000Z',
  state: 'running',
  begun: 1,
  findings: [],
  coverage: NO_COVERAGE,
  done: 0,
  ticks: 0,
  seconds: 0,
  course: '',
  notes: [],
  problem: null,
  shared: {
    parts: plan.parts,
    courseRevisions: plan.courses.map(() => 1),
    turn: 0,
    startedAt: null,
    leg: 0,
    legs: 0,
    shards: [],
    workers: [],
  },
});

const plans = fc.record({
  courses: fc.integer({ min: 1, max: 3 }).map((n) => ['mill-yard', 'tide-mill', 'weir'].slice(0, n)),
  parts: fc.integer({ min: 1, max: 5 }),
  situations: fc.integer({ min: 1000, max: 400_000 }),
});

describe('what is to be done next of a shared scouting', () => {
  it('is each part of each leg once, a leg after the one before it, and the report in the end', () => {
    fc.assert(
      fc.property(plans, fc.infiniteStream(fc.nat(1000)), (plan, choices) => {
        const scouting = scoutingOf(plan);
        const shards = plan.courses.length * plan.parts;
        const done: LegDone[] = [];
        const choose = (below: number): number => choices.next().value! % below;
        for (;;) {
          const jobs = nextJobs(scouting, done);
          // Whoever read the legs in another order, or asks twice, comes to the same.
          expect(nextJobs(scouting, [...done].reverse())).toEqual(jobs);
          for (const job of jobs) expect(isJobOf(job, scouting)).toBe(true);
          if (jobs.some((job) => 'report' in job)) {
            expect(jobs.length).toBe(1);
            break;
          }
          const legs = new Set(jobs.map((job) => ('leg' in job ? job.leg : -1)));
          expect(legs.size).toBe(1);
          // Any of them is done first.
          const job = jobs[choose(jobs.length)]!;
          if (!('leg' in job)) throw new Error('a report before its time');
          for (let leg = 0; leg < job.leg; leg++)
            expect(done.filter((d) => d.leg === leg).length).toBe(shards);
          expect(done.some((d) => d.leg === job.leg && d.shard === job.shard)).toBe(false);
          done.push({
            leg: job.leg,
            shard: job.shard,
            situations: legsOf(plan.situations, shards)[job.leg]!,
          });
        }
        expect(done.length).toBe(shards * legsOf(plan.situations, shards).length);
      }),
    );
  });

  it('is the report as soon as a leg finds hardly anything new', () => {
    fc.assert(
      fc.property(plans, (plan) => {
        const scouting = scoutingOf(plan);
        const shards = plan.courses.length * plan.parts;
        const done = Array.from({ length: shards }, (_, shard): LegDone => ({
          leg: 0,
          shard,
          situations: 1,
        }));
        expect(nextJobs(scouting, done)).toEqual([{ ...jobOf(scouting), report: true }]);
      }),
    );
  });

  it('is nothing of an earlier scouting, try, or turn', () => {
    const scouting = scoutingOf({ courses: ['mill-yard'], parts: 2, situations: 9000 });
    const [job] = nextJobs(scouting, []);
    for (const other of [
      { ...scouting, id: 'courier-2' },
      { ...scouting, createdAt: '2026-11-02T08:00:00.000Z' },
      { ...scouting, begun: 2 },
      { ...scouting, shared: { ...scouting.shared, turn: 1 } },
    ])
      expect(isJobOf(job!, other)).toBe(false);
  });
});

describe('how a shared scouting stands', () => {
  const shown = fc.record({
    situations: fc.nat(5000),
    ticks: fc.nat(9000),
    findings: fc.array(
      fc.constantFrom('a', 'b', 'c').map((fingerprint) => ({ fingerprint }) as Finding),
      { maxLength: 3 },
    ),
  });

  it('counts what is done and what workers are at, each once, and tells each fault once', () => {
    fc.assert(
      fc.property(plans, fc.array(shown, { maxLength: 12 }), fc.array(shown), (plan, legs, more) => {
        const scouting = scoutingOf(plan);
        const shards = plan.courses.length * plan.parts;
        const at = (i: number) => ({ leg: Math.floor(i / shards), shard: i % shards });
        const done = legs.map((part, i): Shown => ({ ...part, ...at(i), coverage: NO_COVERAGE }));
        const doing = more.map(({ situations, ticks }, i) => ({
          ...{ scouting: scouting.id, job: `${i}`, situations, ticks, perSecond: 10 },
          ...at(i),
        }));
        const workers = doing.map((one, i) => ({ id: `${i}`, name: `w${i}`, threads: 1, doing: [one] }));
        const stands: Scouting = standing(scouting, { done, workers, time: new Date() });
        // A worker says a little longer that it is at a leg that is done.
        const counted = [...done, ...doing.slice(done.length)];
        expect(stands.done).toBe(counted.reduce((sum, { situations }) => sum + situations, 0));
        expect(stands.ticks).toBe(counted.reduce((sum, { ticks }) => sum + ticks, 0));
        const told = stands.findings.map(({ fingerprint }) => fingerprint);
        expect([...told].sort()).toEqual(
          [...new Set(done.flatMap((d) => d.findings.map((f) => f.fingerprint)))].sort(),
        );
        const { leg, shards: parts, workers: there } = stands.shared!;
        expect(leg).toBe(Math.floor(done.length / shards));
        expect(parts.length).toBe(shards);
        expect(parts.reduce((sum, { found }) => sum + found, 0)).toBe(
          done.reduce((sum, { findings }) => sum + findings.length, 0),
        );
        expect(there.map(({ shards }) => shards)).toEqual(
          doing.map(({ shard }, i) => (i < done.length ? [] : [shard])),
        );
      }),
    );
  });

  it('has gone on for as long as the clock of the database says, whatever this machine takes the time for', () => {
    const { shared, ...scouting } = scoutingOf({ courses: ['mill-yard'], parts: 1, situations: 9000 });
    const at = (startedAt: string | null): number =>
      standing(
        { ...scouting, shared: { ...shared, startedAt } },
        { done: [], workers: [], time: new Date('2031-01-01T00:01:30.500Z') },
      ).seconds;
    expect(at('2031-01-01T00:00:00.000Z')).toBe(90.5);
    expect(at(null)).toBe(0);
  });
});
