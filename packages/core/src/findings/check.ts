import { present } from '../present.js';
import type { Machine } from '../machine/index.js';
import { runTape, type Tape, tooLowFor } from '../run/index.js';
import type { Course } from '../world/index.js';
import { sharedKeys } from './proved/bindings.js';
import { type Finding, createFinding } from './sentences/finding.js';
import { type Coverage, coverageOf, type Step } from './coverage.js';
import { shortProbes } from './proved/probes.js';
import { signsIn, witnessedBy } from './witnessed/index.js';
import { type SkeletonLimits, skeletonInSteps, type SkeletonReport } from './proved/skeleton/index.js';
import { stepsWithinBudget } from '../solver/index.js';
import { finished, type Steps } from '../steps.js';
import { reentries } from './proved/reentry.js';
import { joinWaiting } from './proved/waiting.js';
import { structureInSteps } from './proved/structure.js';
import { SHOWN_BY_RUNS } from './catalogue/help.js';
import type { Undecided } from './catalogue/undecided.js';
import { tidyInSteps } from './proved/tidy/index.js';

/** A tape with the course it runs on. */
export interface TapeOnCourse {
  tape: Tape;
  course: Course;
}

/** What is found without running anything. */
export type Proved = SkeletonReport;

/** All that is proved, or suspected, from the moveset alone, within a budget of work. */
export const proveAll = (machine: Machine, limits?: SkeletonLimits): Proved =>
  finished(proving(machine, limits));

/** The same in steps. */
export function* proving(machine: Machine, limits?: SkeletonLimits): Steps<Proved> {
  return (yield* stepsWithinBudget(provingWithin(machine, limits))).result;
}

function* provingWithin(machine: Machine, limits?: SkeletonLimits): Steps<Proved> {
  const known = yield* structureInSteps(machine);
  const skeleton = yield* skeletonInSteps(machine, known.findings, limits);
  const isKnown = ({ lane, why }: Undecided): boolean =>
    known.undecided.some((u) => u.lane === lane && u.why === why);
  const faults = joinWaiting(machine, [...known.findings, ...skeleton.findings]);
  const untidy = yield* tidyInSteps(machine);
  return {
    traps: skeleton.traps,
    undecided: [...known.undecided, ...skeleton.undecided.filter((u) => !isKnown(u))],
    findings: [
      ...faults,
      ...reentries(machine, faults),
      ...sharedKeys(machine),
      ...shortProbes(machine),
      ...untidy.filter((f) => !isReported(f, faults)),
    ],
  };
}

/** Whether what is never written or bound is reported already as the cause of a graver fault. */
const isReported = (finding: Finding, faults: readonly Finding[]): boolean =>
  (finding.code === 'TD2' || finding.code === 'TD3') &&
  faults.some((f) => causesOf(f).includes(finding.evidence.name));

/** The things that a fault gives as its cause: what never changes, and what is never as it is asked for. */
function causesOf({ evidence }: Finding): string[] {
  if (!('ways' in evidence)) return [];
  return evidence.ways.flatMap(({ hindrance }) => {
    if (hindrance.kind === 'shut') return hindrance.constants.map((c) => c.name);
    return hindrance.kind === 'blocked' ? hindrance.writers.map((w) => w.name) : [];
  });
}

/** What tapes show, and what they used. */
export interface Looked {
  findings: Finding[];
  coverage: Coverage;
}

/**
 * What tapes show: each fault once, at the first tape that shows it; and what they used. In steps of a tape each.
 */
export function* looking(machine: Machine, tapes: readonly TapeOnCourse[]): Steps<Looked> {
  const findings: Finding[] = [];
  const steps: Step[] = [];
  for (const { tape, course } of tapes) {
    const { session } = runTape(machine, course, tape);
    if (session === undefined) continue;
    for (const { taken } of session.trace.records)
      for (const { lane, crossing, from, to } of taken)
        steps.push({ lane, crossing: crossing.index, from, to });
    for (const sign of signsIn(machine, session.trace.records))
      if (!findings.some((f) => f.fingerprint === sign.finding.fingerprint))
        findings.push(witnessedBy(sign, { tape: tape.name }));
    yield;
  }
  return { findings, coverage: coverageOf(machine, steps) };
}

/** The faults that tapes show. */
export const tapeFindings = (machine: Machine, tapes: readonly TapeOnCourse[]): Finding[] =>
  finished(looking(machine, tapes)).findings;

/**
 * RK5: what a tape expects, and meets at the moveset's own rate, and no longer meets at another. `at` makes the machine
 * for a rate; one that cannot be made is left out.
 */
export function rateFindings(
  machine: Machine,
  at: (rate: number) => Machine | undefined,
  rates: readonly number[],
  tapes: readonly TapeOnCourse[],
): Finding[] {
  return tapes.flatMap(({ tape, course }) => {
    const own = runTape(machine, course, tape).session?.expectations ?? [];
    return rates.flatMap((rate): Finding[] => {
      const other = at(rate);
      // What such a rate cannot hold is another play, and says nothing of this one.
      if (other === undefined || tooLowFor(tape, other).length > 0) return [];
      const results = runTape(other, course, tape).session?.expectations ?? [];
      const failed = results.filter((r, i) => !r.passed && own[i]?.passed === true);
      const first = failed[0];
      if (first === undefined) return [];
      const lane = present(machine.lanes[0]);
      return [
        createFinding({
          code: 'RK5',
          certainty: 'witnessed',
          lane: lane.name,
          state: present(machine.states[lane.initial]).name,
          crossing: null,
          path: ['tickRate'],
          witness: { tape: tape.name, tick: first.tick },
          evidence: { tape: tape.name, own: machine.rate, rate, failed: failed.map((r) => r.text) },
        }),
      ];
    });
  });
}

/** All findings of a moveset: what is proved without running, then what its tapes show. Each fault once. */
export const findAll = (machine: Machine, tapes: readonly TapeOnCourse[]): Finding[] =>
  accepting(machine, merged(proveAll(machine).findings, tapeFindings(machine, tapes)));

/** Findings of several sources, each fault once: what happened in a run goes before what is only suspected. */
export function merged(...lists: readonly (readonly Finding[])[]): Finding[] {
  const found = new Map<string, Finding>();
  for (const finding of lists.flat()) {
    const before = found.get(finding.fingerprint);
    if (before === undefined || (before.certainty === 'suspected' && finding.certainty !== 'suspected'))
      found.set(finding.fingerprint, finding);
  }
  return [...found.values()];
}

/** Findings with the reasons for which the author accepts them. */
export const accepting = (machine: Machine, findings: readonly Finding[]): Finding[] =>
  findings.map((finding) => {
    const accepted = machine.accepted.find((a) => a.fingerprint === finding.fingerprint)?.reason;
    return accepted === undefined ? finding : { ...finding, accepted };
  });

/**
 * What the author accepts and was not found: it may have been mended, or renamed. What only a run can show is among them
 * only when there was scouting.
 */
export const staleAccepts = (machine: Machine, findings: readonly Finding[], isScouted: boolean): string[] =>
  machine.accepted
    .map((a) => a.fingerprint)
    .filter((print) => !findings.some((f) => f.fingerprint === print))
    .filter((print) => isScouted || !SHOWN_BY_RUNS.has(print.slice(0, print.indexOf('/'))));
