import type { Member, Type } from '../members.js';
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

/** A number that no compiler takes for a whole one; what has no end is written as the language has it. */
export const decimal =
  (infinity: string) =>
  (value: number): string => {
    if (!Number.isFinite(value)) return `${value < 0 ? '-' : ''}${infinity}`;
    const text = String(value);
    return /[.e]/.test(text) ? text : `${text}.0`;
  };

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
const leafMember = ({ members, leafPlace }: Outline, lane: number): Member => {
  const member = members.fields.get(leafPlace + lane);
  if (member === undefined) throw new RangeError(`there is no lane ${lane}`);
  return member;
};

/** The name of a type: of an enumeration its own, of the others what the language calls them. */
export const typeNames =
  (naming: Naming, plain: { truth: string; number: string; whole: string }) =>
  (type: Type): string => {
    switch (type.kind) {
      case 'truth':
      case 'number':
        return plain[type.kind];
      case 'leaf':
      case 'way':
      case 'stance':
        return naming.enumerationOf(type).name;
      default:
        return plain.whole;
    }
  };

/** The dials as constants, between the lines that open and close their list; nothing where there are none. */
export function dialLines(
  { constants }: Outline,
  naming: Naming,
  comment: string,
  {
    open,
    line,
    close,
  }: { open: readonly string[]; line: (name: string, value: number) => string; close: readonly string[] },
): string[] {
  if (constants.list.length === 0) return [];
  return [
    `${comment} The dials that stand in the moveset's rules as they are.`,
    ...open,
    ...constants.list.map(
      ({ name, value, unit }) =>
        `${line(naming.constant(name), value)}${unit === '' ? '' : ` ${comment} ${unit}`}`,
    ),
    ...close,
  ];
}

/** What a function for the tag of a lane's state needs: its note, the lane's state, the time in it where that is asked. */
export interface TagFunction {
  name: string;
  note: string;
  /** The member that has the state, and the ticks in it, as the language writes them; `c` is the situation. */
  state: string;
  elapsed: string | undefined;
  cases: { enumerator: string; rules: { until: number; tag: string }[] }[];
}

/** For each lane with tags, what a function for them needs. */
export const tagFunctions = (
  outline: Outline,
  naming: Naming,
  { one, enumerator }: { one: string; enumerator: (type: Type, value: number) => string },
): TagFunction[] =>
  naming.tags.map(({ name, lane, since, states }) => ({
    name,
    note: `The tag of the state that ${outline.machine.lanes[lane]?.name ?? ''} is in, for the animation.`,
    state: `c.${naming.member(leafMember(outline, lane))}`,
    elapsed: states.some((s) => s.tags.length > 1)
      ? `${naming.filled('c.{ticks}')} - ${one} - c.${naming.member(since)}`
      : undefined,
    cases: states.map(({ state, tags }) => ({
      enumerator: enumerator({ kind: 'leaf', lane }, state),
      // The last tag stays.
      rules: tags.map(({ tag, until }, i) => ({ tag, until: i === tags.length - 1 ? Infinity : until })),
    })),
  }));
