import type { Member, Owner, Type } from '../members.js';
import { camel, pascal, snake } from '../names.js';
import type { Outline } from '../outline.js';
import { blowLines, braces, tagLines } from './braces.js';
import { FIRST, helperFunctions } from './helpers.js';
import {
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

/** TypeScript 5: one module. */
export const typescript: Language = {
  id: 'typescript',
  title: 'TypeScript',
  file: ({ machine }) => `${fileName(machine.name)}.ts`,
  print: printTypescript,
  naming: namesIn,
  usage: ({ machine }) => [
    `import { inputs, senses, start, tick } from './${fileName(machine.name)}.js';`,
    '',
    'const body = start(); // one for each character',
    'const sensed = senses();',
    'const controls = inputs();',
    '',
    '// in every tick: fill in senses and inputs, then',
    'tick(body, sensed, controls);',
    '// move the character by body.vx and body.vy, and write back what is left of them',
  ],
  compile: undefined,
};

const fileName = (name: string): string => snake(name).replaceAll('_', '-');

const RESERVED = new Set(
  `abstract any as async await boolean break case catch class const continue debugger declare default delete do else
  enum export extends false finally for from function get if implements import in infer instanceof interface is keyof
  let module namespace never new null number object of package private protected public readonly require return set
  static string super switch symbol this throw true try type typeof undefined unique unknown var void while with yield
  eval arguments c s i w dt dials inputs senses start tick`.split(/\s+/),
);

const TYPES = ['Inputs', 'Senses', 'Situation', 'Zone', 'Anchor', 'Math'];

const NAMES: Record<Owner, string> = { situation: 'c', senses: 's', inputs: 'i', working: 'w' };
const PARAMETERS: Partial<Record<Owner, string>> = {
  situation: 'c: Situation',
  senses: 's: Senses',
  inputs: 'i: Inputs',
};
/** What a tick works with is the module's own: it makes nothing new in a tick. */
const ARGUMENTS: Partial<Record<Owner, string>> = { situation: 'c', senses: 's', inputs: 'i' };

const literal = (value: number): string => String(value);

function namesIn(outline: Outline): Naming {
  return namingOf(outline, {
    member: camel,
    procedure: camel,
    enumerator: pascal,
    constant: camel,
    reserved: RESERVED,
    types: TYPES,
  });
}

function printTypescript(outline: Outline): string {
  const { machine, used, procedures, steps } = outline;
  const naming = namesIn(outline);
  const typeName = typeNames(naming, { truth: 'boolean', number: 'number', whole: 'number' });
  const syntax = syntaxOf(naming, typeName);
  const printer = createPrinter(outline, syntax);
  const functions = procedures.map(({ name, note, body, needs }) => [
    ...noteLines('//', note),
    `function ${naming.procedure(name)}(${OWNERS.flatMap((o) => (needs.has(o) ? (PARAMETERS[o] ?? []) : [])).join(', ')}): void {`,
    ...indented(printer.procedure({ body })),
    '}',
  ]);
  const noted = (line: string, note: string): string => `${line}${note === '' ? '' : ` // ${note}`}`;
  const field = (m: Member): string => noted(`${naming.member(m)}: ${typeName(m.type)};`, m.note);
  const initial = (m: Member): string => `${naming.member(m)}: ${printer.initial(m)},`;
  const shape = (name: string, note: string, lines: readonly string[]): string[] => [
    ...noteLines('//', note),
    `export interface ${name} {`,
    ...indented(lines),
    '}',
  ];
  const making = (name: string, type: string, note: string, lines: readonly string[]): string[] => [
    ...noteLines('//', note),
    `export const ${name} = (): ${type} => ({`,
    ...indented(lines),
    '});',
  ];
  return sections([
    preface(outline, '//'),
    [`const dt = 1 / ${machine.rate}; // s; every tick is as long`],
    dialLines(outline, naming, '//', {
      open: ['export const dials = {'],
      line: (name, value) => `  ${name}: ${literal(value)},`,
      close: ['};'],
    }),
    ...naming.enumerations.map(({ name, note, values }) => [
      ...noteLines('//', note),
      `export const ${name} = {`,
      ...indented(values.map((v) => `${v.name}: ${v.value},`)),
      '} as const;',
      `export type ${name} = (typeof ${name})[keyof typeof ${name}];`,
    ]),
    shape('Inputs', 'What the controls say in this tick.', used.inputs.map(field)),
    shape('Zone', 'Wind and drag of a zone that the body is in.', [
      'windX: number; // m/s2',
      'windY: number; // m/s2, upward',
      'drag: number; // 1/s',
    ]),
    naming.tethers.length === 0
      ? []
      : shape('Anchor', 'Where a tether holds.', [
          'x: number; // m',
          'y: number; // m, upward',
          'on: number; // the mover that it is on, -1 none',
        ]),
    shape('Senses', 'What the game finds out before a tick, where the last move has left the body.', [
      ...used.senses.map(field),
      ...naming.tethers.flatMap((t) => [
        `${t.x}: number; // m; where the tether ${t.name} would take hold`,
        `${t.y}: number; // m, upward`,
        `${t.on}: number; // the mover that this place is on, -1 none`,
      ]),
      'zones: Zone[]; // those with wind or drag that the body is in: so many as zoneCount says',
      'zoneCount: number;',
    ]),
    shape('Situation', 'All that changes of a character: copy it to save it, or to go back.', [
      ...used.situation.map(field),
      ...naming.tethers.map(
        (t) => `${t.list}: Anchor[]; // the oldest first; the game moves those on a mover`,
      ),
    ]),
    making('inputs', 'Inputs', 'Nothing is pressed.', used.inputs.map(initial)),
    making('senses', 'Senses', 'Nothing is sensed.', [
      ...used.senses.map(initial),
      ...naming.tethers.flatMap((t) => [`${t.x}: 0,`, `${t.y}: 0,`, `${t.on}: -1,`]),
      'zones: Array.from({ length: 8 }, () => ({ windX: 0, windY: 0, drag: 0 })),',
      'zoneCount: 0,',
    ]),
    making('start', 'Situation', 'A character before its first tick.', [
      ...used.situation.map(initial),
      ...naming.tethers.map(
        (t) => `${t.list}: Array.from({ length: ${t.most + 1} }, () => ({ x: 0, y: 0, on: -1 })),`,
      ),
    ]),
    ...tagFunctions(outline, naming, { one: '1', enumerator: syntax.enumerator }).map((tag) => [
      `// ${tag.note}`,
      `export function ${tag.name}(c: Situation): string {`,
      ...indented(tagLines(tag, { declare: 'const', literal, none: "''" })),
      '}',
    ]),
    [
      '// One tick. Afterwards the body is to be moved by vx and vy.',
      'export function tick(c: Situation, s: Senses, i: Inputs): void {',
      ...indented(
        steps.map(
          ({ name, needs }) =>
            `${naming.procedure(name)}(${OWNERS.flatMap((o) => (needs.has(o) ? (ARGUMENTS[o] ?? []) : [])).join(', ')});`,
        ),
      ),
      '}',
    ],
    [
      '// What a tick needs while it works; nothing of it is kept.',
      `const w: { ${used.working.map((m) => `${naming.member(m)}: ${typeName(m.type)}`).join('; ')} } = {`,
      ...indented(used.working.map(initial)),
      '};',
    ],
    ...functions,
    ...helpers(printer, naming),
  ]);
}

const syntaxOf = (naming: Naming, typeName: (type: Type) => string): Syntax => ({
  ...braces('let'),
  member: (m) => `${NAMES[m.owner]}.${naming.member(m)}`,
  local: naming.local,
  constant: (dial) => `dials.${naming.constant(dial)}`,
  procedure: naming.procedure,
  owners: ARGUMENTS,
  enumerator: (type, value) => `${naming.enumerationOf(type).name}.${naming.enumerator(type, value)}`,
  asNumber: (_, text) => text,
  fromNumber: (type, text) => `${text} as ${typeName(type)}`,
  literal,
  call: (name, args) => `${LIBRARY[name] ?? name}(${[...(FIRST[name] ?? []), ...args].join(', ')})`,
  declare: (type, name, value, isConstant) =>
    isConstant ? `const ${name} = ${value}` : `let ${name}: ${typeName(type)} = ${value}`,
  equal: '===',
  differs: '!==',
  blow: blowLines({
    count: 's.zoneCount',
    zone: 'const zone = s.zones[z]!;',
    parts: ['zone.windX', 'zone.windY', 'zone.drag'],
    declare: 'const',
    decay: 'decay',
    int: 'let',
  }).map(strict),
  cast: (i) => naming.tethers.filter(({ tether }) => tether === i).map((t) => `${t.hold}(c, s);`),
  release: (i) =>
    naming.tethers.filter(({ tether }) => tether === i).map((t) => `c.${naming.member(t.count)} = 0;`),
});

/** A line with the comparisons, numbers and look-ups of this language. */
function strict(line: string): string {
  return line
    .replaceAll(' == ', ' === ')
    .replaceAll(' != ', ' !== ')
    .replace(/\b(\d+)\.0\b/g, '$1')
    .replaceAll('].', ']!.');
}

/** Those that the language has. */
const LIBRARY: Partial<Record<Helper, string>> = {
  abs: 'Math.abs',
  floor: 'Math.floor',
  ceil: 'Math.ceil',
  sqrt: 'Math.sqrt',
  min: 'Math.min',
  max: 'Math.max',
};

/** The helpers that the code calls, each as a function. */
function helpers(printer: Printer, naming: Naming): string[][] {
  const type = { number: 'number', truth: 'boolean', nothing: 'void' };
  const parameter = { number: 'number', situation: 'Situation', senses: 'Senses' };
  return helperFunctions(
    printer,
    naming,
    {
      head: (name, { result, params }) =>
        `function ${name}(${params.map(([param, of]) => `${param}: ${parameter[of]}`).join(', ')}): ${type[result]}`,
      name: (helper) => LIBRARY[helper as Helper] ?? helper,
      num: 'let',
      const: 'const',
      int: 'let',
      abs: 'Math.abs',
      floor: 'Math.floor',
      sqrt: 'Math.sqrt',
      index: (count) => count,
      filled: (line) => strict(naming.filled(line)),
    },
    (name) => name,
  ).filter(([head]) => head === undefined || !/function Math\./.test(head));
}
