import { readFileSync, statSync } from 'node:fs';
import { type Machine, readMoveset } from '@glenmark/core/machine';
import {
  type Diagnostic,
  formatDiagnostic,
  MAX_TEXT,
  type MovesetFile,
  type Source,
  withoutMark,
} from '@glenmark/core/model';
import { readTape, type Tape } from '@glenmark/core/run';
import { type Course, readCourse } from '@glenmark/core/world';
import { isNamed } from './matching.js';

/** Input that cannot be used; `lines` go to standard error as they are, and the exit code is 2. */
export class UnreadableError extends Error {
  readonly lines: string[];

  constructor(lines: string[]) {
    super(lines.join('\n'));
    this.lines = lines;
  }
}

/** Output that could not be written; reported as a sentence, and the exit code is 2. */
export class UnwritableError extends UnreadableError {
  constructor(where: string, error: NodeJS.ErrnoException) {
    super([`${where} cannot be written: ${reasonOf(error)}`]);
  }
}

const REASONS: Record<string, string> = {
  ENOENT: 'there is no such folder',
  EEXIST: 'there is a file of that name',
  ENOTDIR: 'a part of the path is a file',
  EACCES: 'this user may not write there',
  EROFS: 'the disk can only be read',
  ENOSPC: 'the disk is full',
};

const reasonOf = ({ code, message }: NodeJS.ErrnoException): string => REASONS[code ?? ''] ?? message;

export const failWith = (file: string, diagnostics: readonly Diagnostic[]): never => {
  throw new UnreadableError(diagnostics.map((d) => formatDiagnostic(file, d)));
};

/** The text of a file, or of standard input for `-`, refused before it is read when it is no document of ours. */
export function textOf(file: string): string {
  const whole = (message: string): Diagnostic[] => [
    { severity: 'error', message, path: [], line: 1, column: 1 },
  ];
  try {
    if (file === '-') return withoutMark(readFileSync(0, 'utf8'));
    const stats = statSync(file);
    // Reading one of these may wait for ever, or never end.
    if (stats.isFIFO())
      failWith(file, whole('found a named pipe, expected a file; give - to read standard input'));
    if (stats.isCharacterDevice() || stats.isBlockDevice() || stats.isSocket())
      failWith(file, whole('found a device, expected a file; give - to read standard input'));
    if (stats.size > MAX_TEXT)
      failWith(file, whole(`found ${stats.size} bytes, expected at most ${MAX_TEXT}`));
    return withoutMark(readFileSync(file, 'utf8'));
  } catch (error) {
    if (error instanceof UnreadableError) throw error;
    const code = (error as NodeJS.ErrnoException).code;
    const what =
      code === 'ENOENT'
        ? 'there is no such file'
        : code === 'EISDIR'
          ? 'found a folder, expected a file'
          : (error as Error).message;
    return failWith(file, whole(what));
  }
}

export interface LoadedMoveset {
  machine: Machine;
  document: MovesetFile;
  source: Source;
  text: string;
  warnings: string[];
}

/** A moveset ready to run, with what is worth knowing of it, as lines for standard error. */
export function loadMoveset(file: string, rate: number | undefined): LoadedMoveset {
  const text = textOf(file);
  const { machine, file: document, source, diagnostics } = readMoveset(text, { rate });
  if (machine === undefined || document === undefined || source === undefined)
    return failWith(file, diagnostics);
  return { machine, document, source, text, warnings: diagnostics.map((d) => formatDiagnostic(file, d)) };
}

export interface LoadedCourse {
  file: string;
  course: Course;
  text: string;
  warnings: string[];
}

export function loadCourse(file: string): LoadedCourse {
  const text = textOf(file);
  const { course, diagnostics } = readCourse(text);
  if (course === undefined) return failWith(file, diagnostics);
  return { file, course, text, warnings: diagnostics.map((d) => formatDiagnostic(file, d)) };
}

export interface LoadedTape {
  file: string;
  tape: Tape;
  /** The moveset that it is made for, if it says so. */
  moveset: string | undefined;
}

export function loadTape(file: string): LoadedTape {
  const { tape, file: document, diagnostics } = readTape(textOf(file));
  return tape === undefined || document === undefined
    ? failWith(file, diagnostics)
    : { file, tape, moveset: document.moveset };
}

/** The course that a tape names, by the course's name or its file's. */
export function courseFor(tape: LoadedTape, courses: readonly LoadedCourse[]): LoadedCourse {
  const found = courses.find(({ course: { name }, file }) => isNamed({ file, name }, tape.tape.course));
  if (found !== undefined) return found;
  const given =
    courses.length === 0
      ? 'none was given with --course'
      : `given were ${courses.map((c) => c.course.name).join(', ')}`;
  return failWith(tape.file, [
    {
      severity: 'error',
      message: `this tape runs on the course '${tape.tape.course}', ${given}`,
      path: ['course'],
      line: 1,
      column: 1,
    },
  ]);
}
