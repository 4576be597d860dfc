import {
  accepting,
  createScouting,
  type Finding,
  merged,
  proveAll,
  proveOn,
  rateFindings,
  type Repair,
  repairsOf,
  type Scouting,
  type ScoutingProgress,
  type ScoutingReport,
  staleAccepts,
  tapeFindings,
  triedRepairs,
  type Undecided,
} from '@glenmark/core/findings';
import { type Machine, readMoveset } from '@glenmark/core/machine';
import { isUsable, type Source } from '@glenmark/core/model';
import { checkRun } from '@glenmark/core/run';
import { buildWorld } from '@glenmark/core/world';
import { createPool, share } from '@glenmark/threads';
import type { Gathered } from './gather.js';
import { failWith } from './load.js';

/** How a moveset is checked. */
export interface CheckHow {
  /** New situations to scout for; none when left out. */
  scout?: number;
  /** Seconds that scouting may take at most. */
  time?: number;
  seed: number;
  workers: number;
  /** Scout from every place of a grid this wide too (metres). */
  grid?: number;
  /** Other tick rates at which the tapes are played too. */
  rates: number[];
  /** True once the user wants it to end: then it reports what it has found. */
  isInterrupted?: () => boolean;
}

/** What a check of a moveset came to. */
export interface Checked {
  file: string;
  source: Source;
  machine: Machine;
  findings: readonly Finding[];
  undecided: readonly Undecided[];
  /** Accepted findings that were not found. */
  stale: readonly string[];
  scouting: ScoutingReport | undefined;
  /** What was played, for what needs it. */
  played: Record<'run' | 'rates' | 'scouting' | 'course', boolean>;
  /** The repairs of a finding that were tried and do what they say. */
  repairs: (finding: Finding) => Repair[];
}

/** Repairs that a check tries: each is checked and run as the moveset itself is. */
const MAX_TRIALS = 20;

/** Checks a moveset: what is proved, what its tapes show, and what a scouting finds on its courses. */
export async function checkedOf(
  { file, moveset: { machine, source, text }, courses, tapes }: Gathered,
  how: CheckHow,
  progress: (report: ScoutingProgress) => void,
): Promise<Checked> {
  for (const course of new Set(tapes.map((each) => each.course))) {
    const world = buildWorld(course, machine.stances, machine.casts);
    for (const { tape, file: tapeFile } of tapes.filter((each) => each.course === course)) {
      const diagnostics = checkRun(machine, world, tape);
      if (!isUsable(diagnostics)) failWith(tapeFile, diagnostics);
    }
  }
  const proved = proveAll(machine);
  const places = courses.map((c) => c.course);
  const isScouting = how.scout !== undefined && how.scout > 0 && places.length > 0;
  const atRate = (rate: number): Machine | undefined => readMoveset(text, { rate }).machine;
  const known = merged(
    proved.findings,
    // A scouting does this itself.
    isScouting ? [] : proveOn(machine, places, proved.findings),
    tapeFindings(machine, tapes),
    rateFindings(machine, atRate, how.rates, tapes),
  );
  let report: ScoutingReport | undefined;
  if (isScouting) {
    const scouting = createScouting(
      machine,
      places,
      { findings: known, traps: proved.traps },
      {
        seed: how.seed,
        ...(how.grid === undefined ? {} : { grid: how.grid }),
        ...(how.workers > 1 ? { share } : {}),
      },
    );
    const texts = { moveset: text, courses: courses.map((c) => c.text) };
    report = await scouted(scouting, how, texts, progress);
  }
  const findings = accepting(machine, merged(known, report?.findings ?? []));
  const { undecided } = proved;
  const trial = { text, machine, tapes, courses: places };
  let trials = 0;
  return {
    file,
    source,
    machine,
    findings,
    undecided,
    stale: staleAccepts(machine, findings, report !== undefined),
    scouting: report,
    played: {
      run: tapes.length > 0 || isScouting,
      rates: how.rates.length > 0,
      scouting: isScouting,
      course: courses.length > 0 && how.grid === undefined,
    },
    repairs(finding) {
      // Where the proofs themselves are too large, what a repair brings about is not decided either.
      const isTooLarge = undecided.some((u) => u.why === 'guards');
      if (finding.accepted !== undefined || trials >= MAX_TRIALS || isTooLarge) return [];
      trials += repairsOf(machine, finding).length;
      return triedRepairs(finding, trial);
    },
  };
}

/** Takes a scouting to its end, with worker threads when there are to be several. */
async function scouted(
  scouting: Scouting,
  { scout = 0, time, workers, isInterrupted = () => false }: CheckHow,
  texts: { moveset: string; courses: readonly string[] },
  progress: (report: ScoutingProgress) => void,
): Promise<ScoutingReport> {
  const until = time === undefined ? Infinity : Date.now() + 1000 * time;
  const goesOn = (): boolean => Date.now() < until && !isInterrupted();
  const breathe = async (report: ScoutingProgress): Promise<void> => {
    progress(report);
    // An interrupt is heard only between two turns of the loop.
    await new Promise((resume) => setImmediate(resume));
  };
  const how = { situations: scout, goesOn, progress: breathe };
  if (workers === 1) {
    await scouting.advance(how);
    return scouting.report();
  }
  // This thread takes part, too.
  const pool = createPool({
    workers: workers - 1,
    ...texts,
    arenas: scouting.arenas,
    died: (reason) => process.stderr.write(`A scouting worker died and is replaced: ${reason}\n`),
  });
  try {
    await scouting.advance({ ...how, expand: pool.expand });
  } finally {
    await pool.close();
  }
  return scouting.report();
}
