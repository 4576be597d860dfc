import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { type Finding, questionOf, type ScoutingProgress, toJUnit, toSarif } from '@glenmark/core/findings';
import { slugOf } from '@glenmark/core/model';
import { type Baseline, readBaseline } from './baseline.js';
import { type Checked, checkedOf, type CheckHow } from './checked.js';
import { checkedData, checkedText, counted, type IsKnown } from './check-report.js';
import { gather } from './gather.js';
import { UnreadableError, UnwritableError } from './load.js';

/** From the surest to the least sure; `risky` adds what may only look risky, `tidy` what is only untidy. */
export const FAIL_ON = ['proved', 'witnessed', 'suspected', 'risky', 'tidy'] as const;

export interface CheckOptions extends CheckHow {
  course: string[];
  tape: string[];
  format: 'text' | 'json' | 'sarif' | 'junit';
  failOn: (typeof FAIL_ON)[number];
  witnessDir?: string;
  /** The JSON of an earlier check: what is in it does not make this one fail. */
  baseline?: string;
}

/** `glenmark check`: the findings of movesets, and 1 when there are any that count. */
export async function check(
  files: readonly string[],
  options: CheckOptions,
  progress: (report: ScoutingProgress) => void,
): Promise<{ output: string; warnings: string[]; exitCode: number }> {
  const baseline = options.baseline === undefined ? undefined : readBaseline(options.baseline);
  const { sets, isSeveral, warnings } = gather({ ...options, files });
  if ((options.scout ?? 0) > 0 && sets.every((set) => set.courses.length === 0))
    throw new UnreadableError(['--scout needs a course: give one with --course']);
  const all: Checked[] = [];
  for (const set of sets) all.push(await checkedOf(set, options, progress));
  const told = all.map((checked): Told => {
    const isKnown: IsKnown = baseline && ((f) => baseline.has(checked.machine.name, f));
    const isFailure = (f: Finding): boolean => isKnown?.(f) !== true && counts(f, options.failOn);
    return { checked, isKnown, isFailure, notes: notesOf(checked, baseline) };
  });
  if (options.witnessDir !== undefined) writeWitnesses(options.witnessDir, all);
  return {
    output: printed(told, options.format, isSeveral),
    warnings: [
      ...warnings,
      ...told.flatMap((t) => t.notes),
      ...(options.isInterrupted?.() === true ? ['Interrupted: this is what was found so far.'] : []),
    ],
    exitCode: told.some(({ checked, isFailure }) => checked.findings.some(isFailure)) ? 1 : 0,
  };
}

/** A checked moveset, with what is to be told of it. */
interface Told {
  checked: Checked;
  isKnown: IsKnown;
  isFailure: (finding: Finding) => boolean;
  notes: string[];
}

function printed(told: readonly Told[], format: CheckOptions['format'], isSeveral: boolean): string {
  switch (format) {
    case 'text': {
      const texts = told.map(({ checked, isKnown }) => checkedText(checked, isKnown));
      return (isSeveral ? [...texts, summaryText(told)] : texts).join('\n\n');
    }
    case 'json': {
      const data = told.map(({ checked, isKnown }) => checkedData(checked, isKnown));
      return JSON.stringify(isSeveral ? { movesets: data, summary: summaryOf(told) } : data[0], null, 2);
    }
    case 'sarif':
      return JSON.stringify(
        toSarif(
          told.map(({ checked: { findings, file, source, undecided }, isKnown, notes }) => ({
            findings,
            file,
            source,
            notes: [...undecided.map((u) => u.sentence), ...notes],
            ...(isKnown === undefined ? {} : { isKnown }),
          })),
        ),
        null,
        2,
      );
    case 'junit':
      return toJUnit(
        told.map(({ checked: { findings, file, source, machine, undecided, played }, isFailure }) => ({
          name: machine.name,
          findings,
          file,
          source,
          how: { isFailure, played, undecided },
        })),
      );
  }
}

/** What is noticed beside the findings of a moveset. */
function notesOf({ machine, findings, stale }: Checked, baseline: Baseline | undefined): string[] {
  const gone = baseline?.goneFrom(machine.name, findings) ?? 0;
  return [
    ...stale.map(
      (print) => `The accepted finding ${print} was not found in this check: it may be mended or renamed.`,
    ),
    ...(gone === 0
      ? []
      : [`${machine.name}: ${counted(gone, 'finding')} of the baseline not found any more.`]),
  ];
}

/** All movesets together. */
function summaryOf(told: readonly Told[]): Record<'movesets' | 'findings' | 'known' | 'failures', number> {
  const open = told.flatMap(({ checked, isKnown, isFailure }) =>
    checked.findings
      .filter((f) => f.accepted === undefined)
      .map((f) => ({ isKnown: isKnown?.(f) === true, isFailure: isFailure(f) })),
  );
  return {
    movesets: told.length,
    findings: open.length,
    known: open.filter((f) => f.isKnown).length,
    failures: open.filter((f) => f.isFailure).length,
  };
}

function summaryText(told: readonly Told[]): string {
  const { movesets, findings, known, failures } = summaryOf(told);
  const parts = [
    counted(findings, 'finding'),
    ...(known === 0 ? [] : [`${known} known from the baseline`]),
    ...(failures === 0 ? [] : [`${failures} ${failures === 1 ? 'counts' : 'count'}`]),
  ];
  return `${counted(movesets, 'moveset')} checked: ${parts.join(', ')}.`;
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

/** A tape file for each finding that scouting has a witness of; with several movesets a folder for each. */
function writeWitnesses(folder: string, all: readonly Checked[]): void {
  for (const { machine, findings } of all) {
    const own = all.length === 1 ? folder : join(folder, slugOf(machine.name));
    try {
      mkdirSync(own, { recursive: true });
      for (const { witness, fingerprint } of findings)
        if (witness?.text !== undefined)
          writeFileSync(join(own, `${slugOf(fingerprint)}.yaml`), witness.text);
    } catch (error) {
      throw new UnwritableError(own, error as NodeJS.ErrnoException);
    }
  }
}
