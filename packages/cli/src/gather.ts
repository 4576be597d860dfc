import { statSync } from 'node:fs';
import { isAbsolute, join } from 'node:path';
import { kindOf } from '@glenmark/core/model';
import type { Tape } from '@glenmark/core/run';
import type { Course } from '@glenmark/core/world';
import { globSync, isDynamicPattern } from 'tinyglobby';
import {
  courseFor,
  type LoadedCourse,
  type LoadedMoveset,
  type LoadedTape,
  loadCourse,
  loadMoveset,
  loadTape,
  textOf,
  UnreadableError,
} from './load.js';
import { ownersAmong } from './matching.js';

/** A moveset with the tapes that are played on it, and the courses of these and of `--course`. */
export interface Gathered {
  file: string;
  moveset: LoadedMoveset;
  courses: LoadedCourse[];
  tapes: { file: string; tape: Tape; course: Course }[];
}

/** What was asked for: movesets, folders and patterns, and further courses and tapes. */
export interface GatherAsked {
  files: readonly string[];
  course: readonly string[];
  tape: readonly string[];
  rate?: number | undefined;
}

/** All that was gathered. `isSeveral` is told of a folder, a pattern, or more than one file. */
export interface Gathering {
  sets: Gathered[];
  isSeveral: boolean;
  warnings: string[];
}

const isFolder = (path: string): boolean => statSync(path, { throwIfNoEntry: false })?.isDirectory() === true;
const isThere = (path: string): boolean => statSync(path, { throwIfNoEntry: false }) !== undefined;

/**
 * Loads what was asked for. One moveset is played on the tapes that are given with it. Of folders, patterns and several
 * files each moveset has the tapes among them that name it. All that cannot be read is told of at once.
 */
export function gather(asked: GatherAsked): Gathering {
  const [first = '', ...others] = asked.files;
  const isOne = others.length === 0 && !isFolder(first) && (isThere(first) || !isDynamicPattern(first));
  return isOne ? gatheredOne(first, asked) : gatheredSeveral(asked);
}

function gatheredOne(file: string, { course, tape, rate }: GatherAsked): Gathering {
  const moveset = loadMoveset(file, rate);
  const courses = course.map(loadCourse);
  const tapes = tape.map(loadTape).map((loaded) => onCourse(loaded, courses));
  return {
    sets: [{ file, moveset, courses, tapes }],
    isSeveral: false,
    warnings: [...moveset.warnings, ...courses.flatMap((c) => c.warnings)],
  };
}

const onCourse = (loaded: LoadedTape, courses: readonly LoadedCourse[]): Gathered['tapes'][number] => ({
  ...loaded,
  course: courseFor(loaded, courses).course,
});

function gatheredSeveral({ files, course, tape, rate }: GatherAsked): Gathering {
  const faults: string[] = [];
  /** What something gives; nothing, with its faults kept, when it cannot be read. */
  const tried = <T>(load: () => T): T[] => {
    try {
      return [load()];
    } catch (error) {
      if (!(error instanceof UnreadableError)) throw error;
      faults.push(...error.lines);
      return [];
    }
  };
  const found = files.flatMap((file) => tried(() => filesAt(file)).flat());
  const documents = [...new Map(found.map((f) => [f.file, f])).values()].flatMap(({ file, isNamed }) =>
    tried(() => ({ file, kind: kindIn(file, isNamed) })),
  );
  const of = (kind: string): string[] => documents.filter((d) => d.kind === kind).map((d) => d.file);
  const given = course.flatMap((file) => tried(() => loadCourse(file)));
  const courses = [...given, ...of('course').flatMap((file) => tried(() => loadCourse(file)))];
  const tapes = [...of('tape'), ...tape].flatMap((file) => tried(() => loadTape(file)));
  const movesets = of('moveset').flatMap((file) =>
    tried(() => {
      const moveset = loadMoveset(file, rate);
      return { file, name: moveset.machine.name, moveset };
    }),
  );
  const ownersOf = new Map(tapes.map((tape) => [tape, ownersAmong(movesets, tape)]));
  const sets = movesets.map((own): Gathered => {
    const { file, moveset } = own;
    const ownTapes = tapes
      .filter((t) => ownersOf.get(t)?.includes(own) === true)
      .flatMap((t) => tried(() => onCourse(t, courses)));
    const used = courses.filter((c) => given.includes(c) || ownTapes.some((t) => t.course === c.course));
    return { file, moveset, courses: used, tapes: ownTapes };
  });
  if (faults.length > 0) throw new UnreadableError(faults);
  if (sets.length === 0) throw new UnreadableError([`There is no moveset in ${files.join(', ')}.`]);
  const left = tapes.filter((t) => ownersOf.get(t)?.length === 0);
  const strange = documents.filter((d) => d.kind === undefined).length;
  return {
    sets,
    isSeveral: true,
    warnings: [
      ...sets.flatMap((set) => set.moveset.warnings),
      ...courses.flatMap((c) => c.warnings),
      ...left.map(({ file, moveset }) =>
        moveset === undefined
          ? `${file}: not played, for it names no moveset`
          : `${file}: not played, for its moveset '${moveset}' is not among these`,
      ),
      ...(strange === 0
        ? []
        : [`${strange} ${strange === 1 ? 'file' : 'files'} left out: no documents of Glenmark`]),
    ],
  };
}

/** The files at a path, in a folder or of a pattern, in the order of their names. `isNamed` tells of one that was asked for itself. */
function filesAt(path: string): { file: string; isNamed: boolean }[] {
  if (path === '-' || (isThere(path) && !isFolder(path))) return [{ file: path, isNamed: true }];
  if (!isFolder(path) && !isDynamicPattern(path)) return [{ file: path, isNamed: true }];
  const how = { ignore: ['**/node_modules/**'], expandDirectories: false };
  const files = isFolder(path)
    ? globSync('**/*.{yaml,yml,json}', { ...how, cwd: path }).map((file) => join(path, file))
    : globSync(path, { ...how, absolute: isAbsolute(path) });
  if (files.length === 0)
    throw new UnreadableError([
      isFolder(path) ? `There is no document in the folder ${path}.` : `No file matches ${path}.`,
    ]);
  return files.sort().map((file) => ({ file, isNamed: false }));
}

/**
 * The kind of a document. Undefined for a file that nobody named and that is none of ours; one that says it is ours, or
 * was named, is taken for a moveset, so that what is wrong with it is told.
 */
function kindIn(file: string, isNamed: boolean): 'moveset' | 'course' | 'tape' | undefined {
  if (file === '-') return 'moveset';
  const text = textOf(file);
  return kindOf(text) ?? (isNamed || /^\s*["{]?\s*"?glenmark"?\s*:/m.test(text) ? 'moveset' : undefined);
}
