import { type Diagnostic, diagnosticAt, didYouMean } from '../model/index.js';
import type { Machine } from '../machine/index.js';
import { type Course, fits, type World } from '../world/index.js';
import type { Place } from './play.js';
import type { Tape } from './tape.js';

/** Where a tape begins on a course; undefined when it names a spawn that the course does not have. */
export function startOf(
  { start, facing }: Pick<Tape, 'start' | 'facing'>,
  course: Course,
): Place | undefined {
  if (!('spawn' in start)) return { ...start, facing: facing ?? 1 };
  const spawn = course.spawns.find((s) => s.name === start.spawn);
  return spawn && { x: spawn.x, y: spawn.y, facing: facing ?? spawn.facing };
}

/** Where a tape begins, in words: `gate`, or `x 2.0 m, y 0.5 m`. */
export const startInWords = (start: Tape['start']): string =>
  'spawn' in start ? start.spawn : `x ${start.x.toFixed(1)} m, y ${start.y.toFixed(1)} m`;

/** What is wrong with where a tape begins: no such spawn, or no stance fits there. */
export function checkStart(tape: Tape, machine: Machine, world: World): Diagnostic[] {
  const { course } = world;
  const at = startOf(tape, course);
  const names = course.spawns.map((s) => s.name);
  if (at === undefined && 'spawn' in tape.start) {
    const { spawn } = tape.start;
    const expected = didYouMean(spawn, names) || `, expected one of ${names.join(', ')}`;
    const message = `the course '${course.name}' has no spawn '${spawn}'${expected}`;
    return [diagnosticAt(tape.source, ['spawn'], message)];
  }
  if (at === undefined || machine.stances.some((_, i) => fits(world, i, at.x, at.y))) return [];
  const where = 'spawn' in tape.start ? `the spawn '${tape.start.spawn}'` : startInWords(tape.start);
  const message = `no stance of '${machine.name}' fits at ${where} of '${course.name}', it is inside a solid`;
  return [diagnosticAt(tape.source, ['spawn' in tape.start ? 'spawn' : 'at'], message)];
}
