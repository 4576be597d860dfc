import type { Machine } from '../machine/index.js';
import { runTape, type Tape } from '../run/index.js';
import type { Course } from '../world/index.js';
import type { Finding } from './catalogue.js';
import { skeletonFindings } from './skeleton/index.js';
import { structuralFindings } from './structure.js';
import { tieFindings } from './ties.js';

/** A tape with the course it runs on. */
export interface TapeOnCourse {
  tape: Tape;
  course: Course;
}

/** All findings of a moveset: what is proved without running, then what its tapes show. Each fault once. */
export function findAll(machine: Machine, tapes: readonly TapeOnCourse[]): Finding[] {
  const structure = structuralFindings(machine);
  const findings = [...structure, ...skeletonFindings(machine, structure).findings];
  const seen = new Set(findings.map((f) => f.fingerprint));
  for (const { tape, course } of tapes) {
    const { session } = runTape(machine, course, tape);
    if (session === undefined) continue;
    for (const finding of tieFindings(machine, session.trace.records, tape.name)) {
      if (seen.has(finding.fingerprint)) continue;
      seen.add(finding.fingerprint);
      findings.push(finding);
    }
  }
  return findings;
}
