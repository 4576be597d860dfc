import { type Finding, merged, proveAll, tapeFindings } from '@glenmark/core/findings';
import { differencesBetween, findingsApart, type Replay, replayOn, wordsOf } from '@glenmark/core/history';
import { courseFor, loadCourse, loadMoveset, loadTape } from './load.js';

export interface DiffOptions {
  course: string[];
  tape: string[];
  format: 'text' | 'json';
}

/** `glenmark diff`: what changed between two movesets, in words and in what tapes do, and 1 when a tape runs otherwise. */
export function diff(
  before: string,
  after: string,
  options: DiffOptions,
): { output: string; warnings: string[]; exitCode: number } {
  const [old, now] = [loadMoveset(before, undefined), loadMoveset(after, undefined)];
  const courses = options.course.map(loadCourse);
  const tapes = options.tape
    .map(loadTape)
    .map((loaded) => ({ tape: loaded.tape, course: courseFor(loaded, courses).course }));
  const { list, renames } = differencesBetween(old.document, now.document);
  const replays = tapes.map((tape) => replayOn(old.machine, now.machine, tape, renames));
  const [found, finds] = [old.machine, now.machine].map((machine) =>
    merged(proveAll(machine).findings, tapeFindings(machine, tapes)),
  );
  const findings = findingsApart(found ?? [], finds ?? [], renames);
  return {
    output:
      options.format === 'json'
        ? JSON.stringify(
            { changes: list, tapes: replays.map(({ trails: _, ...told }) => told), findings },
            null,
            2,
          )
        : [
            `${old.machine.name} (${before}) and ${now.machine.name} (${after})`,
            ...section('what changed', list.flatMap(wordsOf), 'nothing'),
            ...section('what the tapes do', replays.flatMap(replayLines), 'none was given with --tape'),
            ...section('findings', findingLines(findings), 'none, before or after'),
          ].join('\n'),
    warnings: [...now.warnings, ...courses.flatMap((c) => c.warnings)],
    exitCode: replays.every(({ outcome }) => outcome === 'same') ? 0 : 1,
  };
}

const section = (title: string, lines: readonly string[], none: string): string[] => [
  '',
  title,
  ...(lines.length === 0 ? [none] : lines).map((line) => `  ${line}`),
];

const WORDS: Record<Replay['outcome'], string> = {
  same: 'same      ',
  other: 'OTHER     ',
  unplayable: 'UNPLAYABLE',
};

function replayLines({ tape, course, outcome, parting, expectations, wrong }: Replay): string[] {
  const indent = ' '.repeat(WORDS.same.length);
  return [
    `${WORDS[outcome]}  “${tape}” on ${course}${parting === undefined ? '' : `, from tick ${parting.tick} on, in ${parting.states.join(' and ')}`}`,
    ...(parting?.what ?? []).map((line) => `${indent}  ${line}`),
    ...expectations.map(({ text, isMet }) => `${indent}  ${isMet ? 'met now' : 'met no more'}: ${text}`),
    ...wrong.before.map((line) => `${indent}  before: ${line}`),
    ...wrong.after.map((line) => `${indent}  now: ${line}`),
  ];
}

const findingLines = ({ come, gone, kept }: ReturnType<typeof findingsApart>): string[] => {
  const line = (word: string, { code, certainty, sentence }: Finding): string =>
    `${word}  ${code} ${certainty}: ${sentence}`;
  return [
    ...come.map((f) => line('new ', f)),
    ...gone.map((f) => line('gone', f)),
    ...(kept === 0 ? [] : [`kept  ${kept}`]),
  ];
};
