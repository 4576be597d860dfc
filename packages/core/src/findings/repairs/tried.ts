import { present } from '../../present.js';
import { edit } from '../../model/index.js';
import { type Machine, readMoveset } from '../../machine/index.js';
import { readTape, runTape, type Session } from '../../run/index.js';
import { createScout } from '../../scout/index.js';
import { type Course, readCourse } from '../../world/index.js';
import { questionOf } from '../catalogue/catalogue.js';
import { proveAll, type TapeOnCourse } from '../check.js';
import type { Finding } from '../sentences/finding.js';
import { signsIn } from '../witnessed/index.js';
import { type Repair, repairsOf } from './repairs.js';

/** What a repair is tried on. */
export interface Trial {
  /** The moveset's text, and the machine that it makes. */
  text: string;
  machine: Machine;
  tapes: readonly TapeOnCourse[];
  /** Where a tape of a witness, and a short scouting, are played. */
  courses: readonly Course[];
}

/** Situations in which what was asked for must happen. */
const SITUATIONS = 4000;

/**
 * The repairs of a finding that do what they say: each is applied to the text, and what comes of it is checked and run.
 * It must load; the finding must be gone and nothing else proved in its place; every expectation that a tape met is met;
 * no tape shows a fault that it did not show, nor does the witness; and what could not happen must happen in a run.
 */
export function triedRepairs(finding: Finding, trial: Trial): Repair[] {
  const candidates = repairsOf(trial.machine, finding);
  if (candidates.length === 0) return [];
  const before = facesOf(trial.machine);
  return candidates.filter(({ changes }) => {
    const { machine } = readMoveset(edit(trial.text, changes), { rate: trial.machine.rate });
    return machine !== undefined && isMended(finding, trial, machine, before);
  });
}

function isMended(finding: Finding, trial: Trial, mended: Machine, before: ReadonlySet<string>): boolean {
  const after = proveAll(mended).findings;
  if (after.some((f) => f.fingerprint === finding.fingerprint)) return false;
  if (after.some((f) => isGrave(f, finding) && !before.has(f.fingerprint))) return false;
  for (const { tape, course } of tapesOf(finding, trial)) {
    const [was, is] = [trial.machine, mended].map((m) => runTape(m, course, tape).session);
    if (was === undefined) continue;
    if (is === undefined || !keeps(was, is)) return false;
    const shown = new Set(signsIn(trial.machine, was.trace.records).map((s) => s.finding.fingerprint));
    const shows = signsIn(mended, is.trace.records).map((s) => s.finding.fingerprint);
    if (shows.includes(finding.fingerprint) || shows.some((print) => !shown.has(print))) return false;
  }
  return !finding.code.startsWith('IN') || happens(finding, mended, trial.courses);
}

/** What is found of a machine without a run; asked for with each of its findings. */
function facesOf(machine: Machine): Set<string> {
  let faces = known.get(machine);
  if (faces === undefined)
    known.set(machine, (faces = new Set(proveAll(machine).findings.map((f) => f.fingerprint))));
  return faces;
}

const known = new WeakMap<Machine, Set<string>>();

/**
 * Whether a finding speaks against a repair: what is proved, and for a lost write also that the launch may still be lost
 * in another way.
 */
const isGrave = (f: Finding, mended: Finding): boolean =>
  questionOf(f.code) !== 'tidy' &&
  (f.certainty === 'proved' || (mended.code === 'AG2' && (f.code === 'RK3' || f.code === 'AG2')));

/** Every expectation that was met is met. */
const keeps = (was: Session, is: Session): boolean =>
  was.expectations.every((e, i) => !e.passed || is.expectations[i]?.passed === true);

/** The tapes that a repair is played on: those given, and that of the finding's witness. */
function tapesOf({ witness }: Finding, { tapes, courses }: Trial): TapeOnCourse[] {
  if (witness?.text === undefined) return [...tapes];
  const { tape } = readTape(witness.text);
  const course = courses.find((c) => c.name === tape?.course) ?? courses[0];
  // What the witness expects is the fault itself.
  return tape === undefined || course === undefined
    ? [...tapes]
    : [...tapes, { tape: { ...tape, expect: [] }, course }];
}

/** Whether a short scouting comes to the state, or takes the crossing, that a finding was about. */
function happens(finding: Finding, machine: Machine, courses: readonly Course[]): boolean {
  const lane = machine.lanes.findIndex((l) => l.name === finding.lane);
  const isMeant = (crossing: number, to: number): boolean =>
    finding.code === 'IN5' && finding.crossing !== null
      ? crossing === finding.crossing.index
      : present(machine.states[to]).name === finding.state;
  return (courses.length > 0 ? courses : [plainCourse()]).some((course) => {
    const scout = createScout(machine, course, { seed: 1, full: SITUATIONS });
    if (scout.starts.length === 0) return false;
    let seen = 0;
    while (scout.progress().situations < SITUATIONS) {
      const before = scout.progress().situations;
      scout.round();
      const sightings = scout.sightingsFrom(seen);
      seen += sightings.length;
      if (
        sightings.some(({ event: e }) => e.kind === 'taken' && e.lane === lane && isMeant(e.crossing, e.to))
      )
        return true;
      if (scout.progress().situations === before) break;
    }
    return false;
  });
}

/** A floor with a step and a wall, for a moveset that no course was given with. */
function plainCourse(): Course {
  const { course } = readCourse(`glenmark: 1
kind: course
name: Plain
solids:
  - { box: [[-30 m, -1 m], [30 m, 0 m]] }
  - { box: [[4 m, 0 m], [7 m, 0.6 m]] }
  - { box: [[12 m, 0 m], [13 m, 8 m]] }
spawns: { start: { at: [0 m, 0 m] } }
`);
  return present(course);
}
