import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import {
  accepting,
  CATALOGUE,
  createScouting,
  type Finding,
  merged,
  proveAll,
  proveOn,
  rateFindings,
  QUESTIONS,
  questionOf,
  type Repair,
  repairsOf,
  type Question,
  type Scouting,
  type ScoutingProgress,
  type ScoutingReport,
  staleAccepts,
  tapeFindings,
  toJUnit,
  toSarif,
  triedRepairs,
  type Undecided,
} from '@glenmark/core/findings';
import type { Machine } from '@glenmark/core/machine';
import { locate, slugOf, type Source } from '@glenmark/core/model';
import { runTape } from '@glenmark/core/run';
import { createPool, share } from '@glenmark/threads';
import { courseFor, failWith, loadCourse, loadMoveset, loadTape, UnwritableError } from './load.js';

/** From the surest to the least sure; `risky` adds what may only look risky, `tidy` what is only untidy. */
export const FAIL_ON = ['proved', 'witnessed', 'suspected', 'risky', 'tidy'] as const;

export interface CheckOptions {
  course: string[];
  tape: string[];
  format: 'text' | 'json' | 'sarif' | 'junit';
  /** New situations to scout for; none when left out. */
  scout?: number;
  /** Seconds that scouting may take at most. */
  time?: number;
  seed: number;
  workers: number;
  /** Scout from every place of a grid this wide too (metres). */
  grid?: number;
  failOn: (typeof FAIL_ON)[number];
  witnessDir?: string;
  /** Other tick rates at which the tapes are played too. */
  rates: number[];
  /** True once the user wants it to end: then it reports what it has found. */
  isInterrupted?: () => boolean;
}

/** Repairs that a check tries: each is checked and run as the moveset itself is. */
const MAX_TRIALS = 20;

/** `glenmark check`: the findings of a moveset, and 1 when there are any that count. */
export async function check(
  file: string,
  options: CheckOptions,
  progress: (report: ScoutingProgress) => void,
): Promise<{ output: string; warnings: string[]; exitCode: number }> {
  const { machine, source, text, warnings } = loadMoveset(file, undefined);
  const courses = options.course.map(loadCourse);
  const tapes = options.tape
    .map(loadTape)
    .map((loaded) => ({ ...loaded, course: courseFor(loaded, courses).course }));
  for (const { tape, course, file: tapeFile } of tapes) {
    const { session, diagnostics } = runTape(machine, course, tape);
    if (session === undefined) failWith(tapeFile, diagnostics);
  }
  const proved = proveAll(machine);
  const places = courses.map((c) => c.course);
  const isScouting = options.scout !== undefined && options.scout > 0;
  const atRate = (rate: number): Machine => loadMoveset(file, rate).machine;
  const known = merged(
    proved.findings,
    // A scouting does this itself.
    isScouting ? [] : proveOn(machine, places, proved.findings),
    tapeFindings(machine, tapes),
    rateFindings(machine, atRate, options.rates, tapes),
  );
  let report: ScoutingReport | undefined;
  if (isScouting) {
    const scouting = createScouting(
      machine,
      places,
      { findings: known, traps: proved.traps },
      {
        seed: options.seed,
        ...(options.grid === undefined ? {} : { grid: options.grid }),
        ...(options.workers > 1 ? { share } : {}),
      },
    );
    report = await scouted(
      scouting,
      options,
      text,
      courses.map((c) => c.text),
      progress,
    );
  }
  const findings = accepting(machine, merged(known, report?.findings ?? []));
  if (options.witnessDir !== undefined) writeWitnesses(options.witnessDir, findings);
  const stale = staleAccepts(machine, findings, report !== undefined);
  const notes = stale.map(
    (print) => `The accepted finding ${print} was not found in this check: it may be mended or renamed.`,
  );
  const isFailure = (f: Finding): boolean => counts(f, options.failOn);
  const scouts = report !== undefined;
  const played = {
    run: tapes.length > 0 || scouts,
    rates: options.rates.length > 0,
    scouting: scouts,
    course: courses.length > 0 && options.grid === undefined,
  };
  const { undecided } = proved;
  const trial = { text, machine, tapes, courses: places };
  let trials = 0;
  const repairs = (finding: Finding): Repair[] => {
    // Where the proofs themselves are too large, what a repair brings about is not decided either.
    const isTooLarge = undecided.some((u) => u.why === 'guards');
    if (finding.accepted !== undefined || trials >= MAX_TRIALS || isTooLarge) return [];
    trials += repairsOf(machine, finding).length;
    return triedRepairs(finding, trial);
  };
  const checked: Checked = { machine, findings, file, source, undecided, stale, scouting: report, repairs };
  const print = {
    text: () => toText(checked),
    json: () => toJson(checked),
    sarif: () =>
      JSON.stringify(
        toSarif(findings, { file, source }, [...undecided.map((u) => u.sentence), ...notes]),
        null,
        2,
      ),
    junit: () => toJUnit(findings, { file, source }, machine.name, { isFailure, played, undecided }),
  };
  return {
    output: print[options.format](),
    warnings: [
      ...warnings,
      ...notes,
      ...courses.flatMap((c) => c.warnings),
      ...(options.isInterrupted?.() === true ? ['Interrupted: this is what was found so far.'] : []),
    ],
    exitCode: findings.some(isFailure) ? 1 : 0,
  };
}

/** Takes a scouting to its end, with worker threads when there are to be several. */
async function scouted(
  scouting: Scouting,
  { scout = 0, time, workers, isInterrupted = () => false }: CheckOptions,
  moveset: string,
  courses: readonly string[],
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
    moveset,
    courses,
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

/** Whether a finding makes the command fail: what is untidy, and what may only look risky, when that is asked for. */
function counts({ code, certainty, accepted }: Finding, failOn: CheckOptions['failOn']): boolean {
  if (accepted !== undefined) return false;
  const question = questionOf(code);
  const isAsked = (level: CheckOptions['failOn']): boolean =>
    FAIL_ON.indexOf(level) <= FAIL_ON.indexOf(failOn);
  if (question === 'tidy') return isAsked('tidy');
  return isAsked(question === 'risky' && certainty === 'suspected' ? 'risky' : certainty);
}

/** A tape file for each finding that scouting has a witness of. */
function writeWitnesses(folder: string, findings: readonly Finding[]): void {
  try {
    mkdirSync(folder, { recursive: true });
    for (const { witness, fingerprint } of findings)
      if (witness?.text !== undefined)
        writeFileSync(join(folder, `${slugOf(fingerprint)}.yaml`), witness.text);
  } catch (error) {
    throw new UnwritableError(folder, error as NodeJS.ErrnoException);
  }
}

/** What a check comes to, for the two formats of our own. */
interface Checked {
  machine: Machine;
  findings: readonly Finding[];
  file: string;
  source: Source;
  undecided: readonly Undecided[];
  /** Accepted findings that were not found. */
  stale: readonly string[];
  scouting: ScoutingReport | undefined;
  /** The repairs of a finding that were tried and do what they say. */
  repairs: (finding: Finding) => Repair[];
}

const toJson = ({ findings, file, source, undecided, stale, scouting, repairs }: Checked): string =>
  JSON.stringify(
    {
      findings: findings.map((finding) => {
        const { path, accepted, ...reported } = finding;
        return {
          ...reported,
          place: { file, ...locate(source, path, { key: true }) },
          accepted: accepted ?? null,
          repairs: repairs(finding),
        };
      }),
      undecided,
      staleAccepts: stale,
      scouting:
        scouting === undefined
          ? null
          : { situations: scouting.situations, ticks: scouting.ticks, coverage: scouting.coverage },
    },
    null,
    2,
  );

/** The repair that can be made by machine, or what usually helps. */
const repairOf = ({ repairs }: Checked, finding: Finding): string => {
  const [repair] = repairs(finding);
  return repair === undefined ? CATALOGUE[finding.code].repair : `${repair.title}.`;
};

function toText(checked: Checked): string {
  const { machine, findings, file, source, undecided, scouting } = checked;
  const { name } = machine;
  const open = findings.filter((f) => f.accepted === undefined);
  const accepted = findings.filter((f) => f.accepted !== undefined);
  const lines = [
    open.length === 0
      ? `${name}: nothing found`
      : `${name}: ${open.length} finding${open.length === 1 ? '' : 's'}`,
  ];
  const tell = (finding: Finding, more: readonly string[]): void => {
    const { line, column } = locate(source, finding.path, { key: true });
    lines.push(`  ${finding.code.padEnd(5)}${finding.certainty.padEnd(11)}${finding.sentence}`);
    for (const text of more) lines.push(`${' '.repeat(18)}${text}`);
    lines.push(`${' '.repeat(18)}${file}:${line}:${column}`);
  };
  for (const question of Object.keys(QUESTIONS) as Question[]) {
    const group = open.filter((f) => questionOf(f.code) === question);
    if (group.length === 0) continue;
    lines.push('', QUESTIONS[question]);
    for (const finding of group) tell(finding, [...finding.reason, `Repair: ${repairOf(checked, finding)}`]);
  }
  if (accepted.length > 0) lines.push('', 'Accepted');
  for (const finding of accepted) tell(finding, [`Accepted: ${finding.accepted}`]);
  if (undecided.length > 0) lines.push('', 'Not decided', ...undecided.map((u) => `  ${u.sentence}`));
  if (scouting !== undefined) {
    const { states, crossings, ofStates, ofCrossings } = scouting.coverage;
    lines.push(
      '',
      `Scouted ${scouting.situations.toLocaleString('en')} situations in ${scouting.ticks.toLocaleString('en')} ticks: ${states.length} of ${ofStates} states and ${crossings.length} of ${ofCrossings} crossings were used.`,
    );
  }
  return lines.join('\n');
}
