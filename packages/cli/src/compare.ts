import { writeFileSync } from 'node:fs';
import { didYouMean, slugOf } from '@glenmark/core/model';
import {
  type ColumnApart,
  compareLog,
  type LogComparison,
  play,
  readGameLog,
  reasonsOf,
  startOf,
  tapeText,
} from '@glenmark/core/run';
import { buildWorld } from '@glenmark/core/world';
import { failWith, loadCourse, loadMoveset, textOf, UnreadableError, UnwritableError } from './load.js';

export interface CompareOptions {
  course: string;
  log: string;
  spawn?: string;
  tape?: string;
  format: 'text' | 'json';
}

/** `glenmark compare`: a log of the game against the model that has the same inputs; 1 when they part. */
export function compare(
  file: string,
  options: CompareOptions,
): { output: string; warnings: string[]; exitCode: number } {
  const { machine, warnings } = loadMoveset(file, undefined);
  const { course, warnings: more } = loadCourse(options.course);
  const { log, diagnostics } = readGameLog(machine, textOf(options.log));
  if (log === undefined) return failWith(options.log, diagnostics);
  const spawns = course.spawns.map((s) => s.name);
  const spawn = options.spawn ?? spawns[0] ?? '';
  const at = startOf({ start: { spawn }, facing: undefined }, course);
  if (at === undefined)
    throw new UnreadableError([
      `${options.course}: no spawn is called '${spawn}'${didYouMean(spawn, spawns) || `, expected one of ${spawns.join(', ')}`}`,
    ]);
  const world = buildWorld(course, machine.stances, machine.casts);
  const trace = play(machine, world, at, log.inputs);
  const comparison = compareLog(trace, log);
  if (options.tape !== undefined)
    write(
      options.tape,
      tapeText(machine, {
        name: slugOf(`${machine.name} from the game`),
        moveset: machine.name,
        course: course.name,
        start: { spawn },
        inputs: log.inputs,
        expect: [],
        note: `The inputs of a log of the game, ${log.inputs.length} ticks.`,
      }),
    );
  const { first } = comparison;
  const reasons = reasonsOf(trace, world, comparison);
  const notes = [
    ...(log.unread.length === 0 ? [] : [`Not read, for they are nothing here: ${log.unread.join(', ')}.`]),
    ...(log.resting.length === 0 ? [] : [`Not in the log, so at rest: ${log.resting.join(', ')}.`]),
    ...(trace.stopped === undefined
      ? []
      : [`The model's run stopped after ${comparison.ticks} ticks: ${trace.stopped}`]),
  ];
  return {
    output:
      options.format === 'json'
        ? JSON.stringify({ ...comparison, reasons, notes }, undefined, 2)
        : asText(comparison, reasons, notes),
    warnings: [...warnings, ...more],
    exitCode: first === undefined ? 0 : 1,
  };
}

function write(file: string, text: string): void {
  try {
    writeFileSync(file, text);
  } catch (error) {
    throw new UnwritableError(file, error as NodeJS.ErrnoException);
  }
}

function asText(
  { columns, first, ticks }: LogComparison,
  reasons: readonly string[],
  notes: readonly string[],
): string {
  const width = Math.max(...columns.map((c) => labelOf(c).length));
  return [
    ...columns.map((c) => `${labelOf(c).padEnd(width)}  ${verdictOf(c)}`),
    ...notes,
    first === undefined
      ? `No divergence in ${ticks} ticks.`
      : `They part in tick ${first.tick}, in ${first.columns.join(' and ')}.`,
    ...reasons.map((reason) => `  ${reason}`),
  ].join('\n');
}

const labelOf = ({ is, name }: ColumnApart): string => (is === name ? is : `${is} (${name})`);

function verdictOf({ first, most, within, unit, count }: ColumnApart): string {
  const off = (value: number): string => `${Number(value.toPrecision(3))}${unit === '' ? '' : ` ${unit}`}`;
  if (first === undefined) return most === undefined ? 'the same' : `the same, within ${off(most.off)}`;
  const more = count === 1 ? 'only there' : `${count} ticks in all`;
  const furthest = most === undefined ? '' : `, at most ${off(most.off)} in tick ${most.tick}`;
  const allowed = within === undefined || within === 0 ? '' : `, allowed ${off(within)}`;
  return `PARTS in tick ${first.tick}: game ${first.game}, model ${first.model}${allowed} (${more}${furthest})`;
}
