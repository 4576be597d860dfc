import {
  findAll,
  type Finding,
  locate,
  QUESTIONS,
  questionOf,
  type Question,
  runTape,
  type Source,
} from '@glenmark/core';
import { courseFor, failWith, loadCourse, loadMoveset, loadTape } from './load.js';

export interface CheckOptions {
  course: string[];
  tape: string[];
  format: 'text' | 'json';
}

/** `glenmark check`: the findings of a moveset, and 1 when there are any. */
export function check(
  file: string,
  options: CheckOptions,
): { output: string; warnings: string[]; exitCode: number } {
  const { machine, source, warnings } = loadMoveset(file, undefined);
  const courses = options.course.map(loadCourse);
  const tapes = options.tape
    .map(loadTape)
    .map((loaded) => ({ ...loaded, course: courseFor(loaded, courses).course }));
  for (const { tape, course, file: tapeFile } of tapes) {
    const { session, diagnostics } = runTape(machine, course, tape);
    if (session === undefined) failWith(tapeFile, diagnostics);
  }
  const findings = findAll(machine, tapes);
  const output =
    options.format === 'json' ? toJson(findings, file, source) : toText(findings, file, machine.name, source);
  return {
    output,
    warnings: [...warnings, ...courses.flatMap((c) => c.warnings)],
    exitCode: findings.length === 0 ? 0 : 1,
  };
}

const toJson = (findings: readonly Finding[], file: string, source: Source): string =>
  JSON.stringify(
    {
      findings: findings.map(
        ({ code, certainty, lane, state, crossing, sentence, reason, witness, path, fingerprint }) => ({
          code,
          certainty,
          lane,
          state,
          crossing,
          sentence,
          reason,
          witness,
          place: { file, ...locate(source, path, { key: true }) },
          fingerprint,
        }),
      ),
    },
    null,
    2,
  );

function toText(findings: readonly Finding[], file: string, name: string, source: Source): string {
  if (findings.length === 0) return `${name}: nothing found`;
  const lines = [`${name}: ${findings.length} finding${findings.length === 1 ? '' : 's'}`];
  for (const question of Object.keys(QUESTIONS) as Question[]) {
    const group = findings.filter((f) => questionOf(f.code) === question);
    if (group.length === 0) continue;
    lines.push('', QUESTIONS[question]);
    for (const finding of group) {
      const { line, column } = locate(source, finding.path, { key: true });
      lines.push(`  ${finding.code.padEnd(5)}${finding.certainty.padEnd(11)}${finding.sentence}`);
      for (const reason of finding.reason) lines.push(`${' '.repeat(18)}${reason}`);
      lines.push(`${' '.repeat(18)}${file}:${line}:${column}`);
    }
  }
  return lines.join('\n');
}
