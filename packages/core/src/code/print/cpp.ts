import type { Member, Owner, Type } from '../members.js';
import { camel, pascal, snake } from '../names.js';
import type { Outline } from '../outline.js';
import { blowLines, braces, tagLines } from './braces.js';
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
import { FIRST, helperFunctions, type HelperSyntax } from './helpers.js';

/** C++17: one header, all of it inline in a namespace. */
export const cpp: Language = {
  id: 'cpp',
  title: 'C++',
  file: ({ machine }) => `${snake(machine.name)}.hpp`,
  print: printCpp,
  naming: namesIn,
  usage: ({ machine }) => {
    const space = snake(machine.name);
    return [
      `#include "${space}.hpp"`,
      '',
      `${space}::Situation body; // one for each character`,
      `${space}::Senses senses;`,
      `${space}::Inputs inputs;`,
      '',
      '// in every tick: fill in senses and inputs, then',
      `${space}::tick(body, senses, inputs);`,
      '// move the character by body.vx and body.vy, and write back what is left of them',
    ];
  },
  compile: 'g++ -std=c++17 -O2 -ffp-contract=off',
};

const RESERVED = new Set(
  `alignas alignof and and_eq asm auto bitand bitor bool break case catch char class compl concept const constexpr
  continue co_await co_return co_yield decltype default delete do double dynamic_cast else enum explicit export extern
  false float for friend goto if inline int long mutable namespace new noexcept not not_eq nullptr operator or or_eq
  private protected public register reinterpret_cast requires return short signed sizeof static static_assert
  static_cast struct switch template this thread_local throw true try typedef typeid typename union unsigned using
  virtual void volatile wchar_t while xor xor_eq c s in w dt dials detail`.split(/\s+/),
);

const TYPES = ['Inputs', 'Senses', 'Situation', 'Working', 'Zone', 'Anchor'];

const literal = decimal('std::numeric_limits<double>::infinity()');

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

const NAMES: Record<Owner, string> = { situation: 'c', senses: 's', inputs: 'in', working: 'w' };
const PARAMETERS: Record<Owner, string> = {
  situation: 'Situation& c',
  senses: 'const Senses& s',
  inputs: 'const Inputs& in',
  working: 'Working& w',
};

function printCpp(outline: Outline): string {
  const { machine, used, procedures, steps } = outline;
  const naming = namesIn(outline);
  const typeName = typeNames(naming, { truth: 'bool', number: 'double', whole: 'int' });
  const syntax = syntaxOf(naming, typeName);
  const printer = createPrinter(outline, syntax);
  const functions = procedures.map(({ name, note, body, needs }) => [
    ...noteLines('//', note),
    `inline void ${naming.procedure(name)}(${OWNERS.filter((o) => needs.has(o))
      .map((o) => PARAMETERS[o])
      .join(', ')}) {`,
    ...indented(printer.procedure({ body })),
    '}',
  ]);
  const field = (m: Member): string =>
    `${typeName(m.type)} ${naming.member(m)} = ${printer.initial(m)};${m.note === '' ? '' : ` // ${m.note}`}`;
  const struct = (name: string, note: string, lines: readonly string[]): string[] => [
    ...noteLines('//', note),
    `struct ${name} {`,
    ...indented(lines),
    '};',
  ];
  const isNeeded = (owner: Owner): boolean => steps.some(({ needs }) => needs.has(owner));
  const space = snake(machine.name);
  return sections([
    [
      ...preface(outline, '//'),
      '// For the same numbers to the last bit compile without contraction: -ffp-contract=off, or /fp:precise.',
      '#pragma once',
    ],
    ['#include <cmath>', '#include <limits>'],
    [`namespace ${space} {`],
    [`constexpr double dt = 1.0 / ${literal(machine.rate)}; // s; every tick is as long`],
    dialLines(outline, naming, '//', {
      open: ['namespace dials {'],
      line: (name, value) => `constexpr double ${name} = ${literal(value)};`,
      close: ['} // namespace dials'],
    }),
    ...naming.enumerations.map(({ name, note, values }) => [
      ...noteLines('//', note),
      `enum class ${name} {`,
      ...indented(values.map((v) => `${v.name} = ${v.value},`)),
      '};',
    ]),
    struct('Inputs', 'What the controls say in this tick.', used.inputs.map(field)),
    struct('Zone', 'Wind and drag of a zone that the body is in.', [
      'double windX = 0.0; // m/s2',
      'double windY = 0.0; // m/s2, upward',
      'double drag = 0.0; // 1/s',
    ]),
    naming.tethers.length === 0
      ? []
      : struct('Anchor', 'Where a tether holds.', [
          'double x = 0.0; // m',
          'double y = 0.0; // m, upward',
          'int on = -1; // the mover that it is on, -1 none',
        ]),
    struct('Senses', 'What the game finds out before a tick, where the last move has left the body.', [
      ...used.senses.map(field),
      ...naming.tethers.flatMap((t) => [
        `double ${t.x} = 0.0; // m; where the tether ${t.name} would take hold`,
        `double ${t.y} = 0.0; // m, upward`,
        `int ${t.on} = -1; // the mover that this place is on, -1 none`,
      ]),
      'Zone zones[8]; // those with wind or drag that the body is in',
      'int zoneCount = 0;',
    ]),
    struct('Situation', 'All that changes of a character: copy it to save it, or to go back.', [
      ...used.situation.map(field),
      ...naming.tethers.map(
        (t) => `Anchor ${t.list}[${t.most + 1}]; // the oldest first; the game moves those on a mover`,
      ),
    ]),
    ['namespace detail {'],
    struct('Working', 'What a tick needs while it works; nothing of it is kept.', used.working.map(field)),
    ...helpers(printer, naming),
    ...functions,
    ['} // namespace detail'],
    ...tagFunctions(outline, naming, { one: '1.0', enumerator: syntax.enumerator }).map((tag) => [
      `// ${tag.note}`,
      `inline const char* ${tag.name}(const Situation& c) {`,
      ...indented(tagLines(tag, { declare: 'const double', literal, none: '""' })),
      '}',
    ]),
    [
      '// One tick. Afterwards the body is to be moved by vx and vy.',
      `inline void tick(Situation& c, const Senses&${isNeeded('senses') ? ' s' : ''}, const Inputs&${isNeeded('inputs') ? ' in' : ''}) {`,
      ...indented([
        'detail::Working w;',
        ...steps.map(
          ({ name, needs }) =>
            `detail::${naming.procedure(name)}(${OWNERS.filter((o) => needs.has(o))
              .map((o) => NAMES[o])
              .join(', ')});`,
        ),
      ]),
      '}',
    ],
    [`} // namespace ${space}`],
  ]);
}

const syntaxOf = (naming: Naming, typeName: (type: Type) => string): Syntax => ({
  ...braces('int'),
  member: (m) => `${NAMES[m.owner]}.${naming.member(m)}`,
  local: naming.local,
  constant: (dial) => `dials::${naming.constant(dial)}`,
  procedure: naming.procedure,
  owners: NAMES,
  enumerator: (type, value) => `${naming.enumerationOf(type).name}::${naming.enumerator(type, value)}`,
  asNumber: (_, text) => `static_cast<int>(${text})`,
  fromNumber: (type, text) => `static_cast<${typeName(type)}>(${text})`,
  literal,
  call: (name, args) => `${LIBRARY[name] ?? name}(${[...(FIRST[name] ?? []), ...args].join(', ')})`,
  declare: (type, name, value, isConstant) =>
    `${isConstant ? 'const ' : ''}${typeName(type)} ${name} = ${value}`,
  equal: '==',
  differs: '!=',
  blow: blowLines({
    count: 's.zoneCount',
    zone: 'const Zone& zone = s.zones[z];',
    parts: ['zone.windX', 'zone.windY', 'zone.drag'],
    declare: 'const double',
    decay: 'decay',
    int: 'int',
  }),
  cast: (i) => naming.tethers.filter(({ tether }) => tether === i).map((t) => `${t.hold}(c, s);`),
  release: (i) =>
    naming.tethers.filter(({ tether }) => tether === i).map((t) => `c.${naming.member(t.count)} = 0.0;`),
});
/** Those that the standard has. */
const LIBRARY: Partial<Record<Helper, string>> = {
  abs: 'std::fabs',
  floor: 'std::floor',
  ceil: 'std::ceil',
  sqrt: 'std::sqrt',
};

/** The helpers that the code calls, each as a function. */
function helpers(printer: Printer, naming: Naming): string[][] {
  const type = { number: 'double', truth: 'bool', nothing: 'void' };
  const parameter = { number: 'double', situation: 'const Situation&', senses: 'const Senses&' };
  const syntax: HelperSyntax = {
    head: (name, { result, params }) =>
      `inline ${type[result]} ${name}(${params
        // What takes hold changes the situation.
        .map(
          ([param, of]) =>
            `${result === 'nothing' && of === 'situation' ? 'Situation&' : parameter[of]} ${param}`,
        )
        .join(', ')})`,
    name: (helper) => helper,
    num: 'double',
    const: 'const double',
    int: 'int',
    abs: 'std::fabs',
    floor: 'std::floor',
    sqrt: 'std::sqrt',
    index: (count) => `static_cast<int>(${count})`,
    filled: naming.filled,
  };
  const part = (name: string): string => name;
  return helperFunctions(printer, naming, syntax, part);
}
