import type { Member, Owner, Type } from '../members.js';
import { pascal } from '../names.js';
import type { Outline } from '../outline.js';
import { blowLines, braces, tagLines } from './braces.js';
import { FIRST, helperFunctions } from './helpers.js';
import {
  decimal,
  dialLines,
  type Language,
  noteLines,
  preface,
  sections,
  tagFunctions,
  typeNames,
} from './language.js';
import { type Naming, namingOf } from './naming.js';
import { createPrinter, type Helper, indented, OWNERS, type Printer, type Syntax } from './printer.js';

/** C# 8 (and earlier): one file with a namespace. */
export const csharp: Language = {
  id: 'csharp',
  title: 'C#',
  file: ({ machine }) => `${pascal(machine.name)}.cs`,
  print: printCsharp,
  naming: namesIn,
  usage: ({ machine }) => {
    const space = pascal(machine.name);
    return [
      `var body = new ${space}.Situation(); // one for each character`,
      `var senses = new ${space}.Senses();`,
      `var inputs = new ${space}.Inputs();`,
      '',
      '// in every tick: fill in senses and inputs, then',
      `${space}.Machine.Tick(body, senses, inputs);`,
      '// move the character by body.Vx and body.Vy, and write back what is left of them',
    ];
  },
  compile: undefined,
};

const RESERVED = new Set(
  `abstract as base bool break byte case catch char checked class const continue decimal default delegate do double else
  enum event explicit extern false finally fixed float for foreach goto if implicit in int interface internal is lock
  long namespace new null object operator out override params private protected public readonly ref return sbyte sealed
  short sizeof stackalloc static string struct switch this throw true try typeof uint ulong unchecked unsafe ushort
  using virtual void volatile while c s i w dt Equals GetHashCode GetType ToString MemberwiseClone Copy Tick`.split(
    /\s+/,
  ),
);

const TYPES = ['Inputs', 'Senses', 'Situation', 'Working', 'Zone', 'Anchor', 'Machine', 'Dials', 'Math'];

const NAMES: Record<Owner, string> = { situation: 'c', senses: 's', inputs: 'i', working: 'w' };
const PARAMETERS: Record<Owner, string> = {
  situation: 'Situation c',
  senses: 'Senses s',
  inputs: 'Inputs i',
  working: 'ref Working w',
};
const ARGUMENTS: Record<Owner, string> = { ...NAMES, working: 'ref w' };

const literal = decimal('double.PositiveInfinity');

function namesIn(outline: Outline): Naming {
  return namingOf(outline, {
    member: pascal,
    procedure: pascal,
    enumerator: pascal,
    constant: pascal,
    reserved: RESERVED,
    types: TYPES,
    keepsApart: true,
  });
}

function printCsharp(outline: Outline): string {
  const { machine, used, procedures, steps } = outline;
  const naming = namesIn(outline);
  const typeName = typeNames(naming, { truth: 'bool', number: 'double', whole: 'int' });
  const syntax = syntaxOf(naming, typeName);
  const printer = createPrinter(outline, syntax);
  const functions = procedures.map(({ name, note, body, needs }) => [
    ...noteLines('//', note),
    `static void ${naming.procedure(name)}(${OWNERS.filter((o) => needs.has(o))
      .map((o) => PARAMETERS[o])
      .join(', ')})`,
    '{',
    ...indented(printer.procedure({ body })),
    '}',
  ]);
  const field = (m: Member): string => {
    const { kind } = m.type;
    // What begins with the default of its type need not say so.
    const isPlain = m.owner === 'working' || (m.initial === 0 && kind !== 'leaf' && kind !== 'stance');
    return `public ${typeName(m.type)} ${naming.member(m)}${isPlain ? '' : ` = ${printer.initial(m)}`};${m.note === '' ? '' : ` // ${m.note}`}`;
  };
  const type = (head: string, note: string, lines: readonly string[]): string[] => [
    ...noteLines('//', note),
    head,
    '{',
    ...indented(lines),
    '}',
  ];
  const machineLines = [
    [`const double dt = 1.0 / ${literal(machine.rate)}; // s; every tick is as long`],
    ...tagFunctions(outline, naming, { one: '1.0', enumerator: syntax.enumerator }).map((tag) => [
      `// ${tag.note}`,
      `public static string ${tag.name}(Situation c)`,
      '{',
      ...indented(tagLines(tag, { declare: 'double', literal, none: '""' })),
      '}',
    ]),
    [
      '// One tick. Afterwards the body is to be moved by Vx and Vy.',
      'public static void Tick(Situation c, Senses s, Inputs i)',
      '{',
      ...indented([
        'var w = new Working();',
        ...steps.map(
          ({ name, needs }) =>
            `${naming.procedure(name)}(${OWNERS.filter((o) => needs.has(o))
              .map((o) => ARGUMENTS[o])
              .join(', ')});`,
        ),
      ]),
      '}',
    ],
    ...functions,
    ...helpers(printer, naming),
  ];
  const pieces = [
    dialLines(outline, naming, '//', {
      open: ['public static class Dials', '{'],
      line: (name, value) => `  public const double ${name} = ${literal(value)};`,
      close: ['}'],
    }),
    ...naming.enumerations.map(({ name, note, values }) =>
      type(
        `public enum ${name}`,
        note,
        values.map((v) => `${v.name} = ${v.value},`),
      ),
    ),
    type('public sealed class Inputs', 'What the controls say in this tick.', used.inputs.map(field)),
    type('public struct Zone', 'Wind and drag of a zone that the body is in.', [
      'public double WindX; // m/s2',
      'public double WindY; // m/s2, upward',
      'public double Drag; // 1/s',
    ]),
    naming.tethers.length === 0
      ? []
      : type('public struct Anchor', 'Where a tether holds.', [
          'public double X; // m',
          'public double Y; // m, upward',
          'public int On; // the mover that it is on, -1 none',
        ]),
    type(
      'public sealed class Senses',
      'What the game finds out before a tick, where the last move has left the body.',
      [
        ...used.senses.map(field),
        ...naming.tethers.flatMap((t) => [
          `public double ${t.x}; // m; where the tether ${t.name} would take hold`,
          `public double ${t.y}; // m, upward`,
          `public int ${t.on} = -1; // the mover that this place is on, -1 none`,
        ]),
        'public readonly Zone[] Zones = new Zone[8]; // those with wind or drag that the body is in',
        'public int ZoneCount;',
      ],
    ),
    type('public sealed class Situation', 'All that changes of a character.', [
      ...used.situation.map(field),
      ...naming.tethers.map(
        (t) =>
          `public Anchor[] ${t.list} = new Anchor[${t.most + 1}]; // the oldest first; the game moves those on a mover`,
      ),
      '',
      '// To save it, or to go back.',
      'public Situation Copy()',
      '{',
      ...indented([
        'var copy = (Situation)MemberwiseClone();',
        ...naming.tethers.map((t) => `copy.${t.list} = (Anchor[])${t.list}.Clone();`),
        'return copy;',
      ]),
      '}',
    ]),
    type(
      'struct Working',
      'What a tick needs while it works; nothing of it is kept.',
      used.working.map((m) => field(m)),
    ),
    type('public static class Machine', '', sections(machineLines).trimEnd().split('\n')),
  ];
  return sections([
    preface(outline, '//'),
    ['using System;'],
    [`namespace ${pascal(machine.name)}`, '{', ...indented(sections(pieces).trimEnd().split('\n')), '}'],
  ]);
}

const helperName = (helper: string): string => helper.charAt(0).toUpperCase() + helper.slice(1);

const syntaxOf = (naming: Naming, typeName: (type: Type) => string): Syntax => ({
  ...braces('int'),
  member: (m) => `${NAMES[m.owner]}.${naming.member(m)}`,
  local: naming.local,
  constant: (dial) => `Dials.${naming.constant(dial)}`,
  procedure: naming.procedure,
  owners: ARGUMENTS,
  enumerator: (type, value) => `${naming.enumerationOf(type).name}.${naming.enumerator(type, value)}`,
  asNumber: (_, text) => `(int)${text}`,
  fromNumber: (type, text) => `(${typeName(type)})${text}`,
  literal,
  call: (name, args) =>
    `${LIBRARY[name] ?? helperName(name)}(${[...(FIRST[name] ?? []), ...args].join(', ')})`,
  declare: (type, name, value) => `${typeName(type)} ${name} = ${value}`,
  equal: '==',
  differs: '!=',
  blow: blowLines({
    count: 's.ZoneCount',
    zone: 'Zone zone = s.Zones[z];',
    parts: ['zone.WindX', 'zone.WindY', 'zone.Drag'],
    declare: 'double',
    decay: 'Decay',
    int: 'int',
  }),
  cast: (i) => naming.tethers.filter(({ tether }) => tether === i).map((t) => `${t.hold}(c, s);`),
  release: (i) =>
    naming.tethers.filter(({ tether }) => tether === i).map((t) => `c.${naming.member(t.count)} = 0.0;`),
});

/** Those that the library has. */
const LIBRARY: Partial<Record<Helper, string>> = {
  abs: 'Math.Abs',
  floor: 'Math.Floor',
  ceil: 'Math.Ceiling',
  sqrt: 'Math.Sqrt',
};

/** The helpers that the code calls, each as a method. */
function helpers(printer: Printer, naming: Naming): string[][] {
  const type = { number: 'double', truth: 'bool', nothing: 'void' };
  const parameter = { number: 'double', situation: 'Situation', senses: 'Senses' };
  return helperFunctions(
    printer,
    naming,
    {
      head: (name, { result, params }) =>
        `static ${type[result]} ${name}(${params.map(([param, of]) => `${parameter[of]} ${param}`).join(', ')})`,
      name: helperName,
      num: 'double',
      const: 'double',
      int: 'int',
      abs: 'Math.Abs',
      floor: 'Math.Floor',
      sqrt: 'Math.Sqrt',
      index: (count) => `(int)${count}`,
      filled: naming.filled,
    },
    helperName,
  );
}
