import type { Member } from '../members.js';
import type { Outline } from '../outline.js';
import type { Naming } from './naming.js';

/** A language that movesets are printed in. */
export interface Language {
  id: 'cpp' | 'csharp' | 'lua' | 'typescript';
  title: string;
  /** The name of the file. */
  file: (outline: Outline) => string;
  /** The file: it needs nothing beside itself. */
  print: (outline: Outline) => string;
  /** The names in the file. */
  naming: (outline: Outline) => Naming;
  /** How a game calls it, as lines of the language. */
  usage: (outline: Outline) => string[];
  /** What to tell the compiler, or undefined where nothing need be told. */
  compile: string | undefined;
}

/** Pieces of a file, with an empty line between them; empty pieces are left out. */
export const sections = (pieces: readonly (readonly string[])[]): string =>
  `${pieces
    .filter((lines) => lines.length > 0)
    .map((lines) => lines.join('\n'))
    .join('\n\n')}\n`;

/** A note as comment lines before what it is about. */
export const noteLines = (comment: string, note: string): string[] =>
  note === '' ? [] : [`${comment} ${note}`];

/** What a file begins with: what it is, and who made it. */
export const preface = ({ machine, constants }: Outline, comment: string): string[] => [
  `${comment} ${machine.name}: what it decides in a tick, ${machine.rate} times a second.`,
  `${comment} Made by Glenmark from the moveset of that name: change that, not this file.`,
  `${comment} A number at the beginning of a comment is a line of the moveset.`,
  ...(constants.workedIn.length === 0
    ? []
    : [`${comment} Worked into other numbers, so to be turned there: ${constants.workedIn.join(', ')}.`]),
];

/** The lane's state as a member of the situation. */
export const leafMember = ({ members, leafPlace }: Outline, lane: number): Member => {
  const member = members.fields.get(leafPlace + lane);
  if (member === undefined) throw new RangeError(`there is no lane ${lane}`);
  return member;
};

/** For each state with tags the conditions, on the ticks in it, and the tag; the last one holds always. */
export const tagRules = (
  tags: Naming['tags'][number]['states'][number]['tags'],
): { until: number; tag: string }[] =>
  tags.map(({ tag, until }, i) => ({ tag, until: i === tags.length - 1 ? Infinity : until }));
