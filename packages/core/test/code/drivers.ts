import { execFileSync, spawnSync } from 'node:child_process';
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import ts from 'typescript';
import type { Language, Outline } from '@glenmark/core/code';
import { type Column, columnsOf, type Recorded, ZONES } from './record.js';

/** A moveset to print, and the run to hold its code to. */
export interface Case {
  outline: Outline;
  recorded: Recorded;
}

/** How a language reads and writes the values of columns, and is compiled and run. */
interface Driver {
  /** The text of a value in the code. */
  value: (column: Column, language: Language, outline: Outline) => string;
  set: (target: string, column: Column, typeName: (column: Column) => string) => string;
  put: (source: string, column: Column) => string;
  /** The file that plays all cases, given for each the lines that go before and after its tick. */
  program: (
    cases: readonly { outline: Outline; begin: string; before: string[]; after: string[] }[],
    language: Language,
  ) => string;
  main: string;
  /** Compiles and runs; `level` is how much to optimise, where a language has that: at 0 not, and types unchecked. */
  run: (folder: string, files: readonly string[], level: 0 | 2) => void;
}

const isTruth = (c: Column): boolean => c.what === 'member' && c.member.type.kind === 'truth';
const isEnumeration = (c: Column): boolean =>
  c.what === 'member' && ['leaf', 'way', 'stance'].includes(c.member.type.kind);
const isWhole = (c: Column): boolean =>
  c.what === 'zoneCount' ||
  ((c.what === 'anchor' || c.what === 'catch') && c.part === 'on') ||
  (c.what === 'member' && ['whole', 'anyLeaf', 'anyStance'].includes(c.member.type.kind));

const OWNER = { inputs: 'i', senses: 's', situation: 'c', working: '' };

/** Where a column is, for languages with members and brackets. */
const dotted =
  (first: number, pascal: boolean) =>
  (c: Column, language: Language, outline: Outline): string => {
    const naming = language.naming(outline);
    const cased = (name: string): string => (pascal ? name.charAt(0).toUpperCase() + name.slice(1) : name);
    const tetherAt = (t: number) => naming.tethers.find(({ tether: index }) => index === t)!;
    switch (c.what) {
      case 'member':
        return `${OWNER[c.member.owner]}.${naming.member(c.member)}`;
      case 'catch':
        return `s.${tetherAt(c.tether)[c.part]}`;
      case 'anchor':
        return `c.${tetherAt(c.tether).list}[${c.index + first}].${cased(c.part)}`;
      case 'zoneCount':
        return `s.${cased('zoneCount')}`;
      case 'zone':
        return `s.${cased('zones')}[${c.index + first}].${cased(c.part)}`;
    }
  };

const cpp: Driver = {
  value: dotted(0, false),
  set: (target, c) =>
    `${target} = ${isTruth(c) ? 'get() != 0.0' : isWhole(c) ? 'static_cast<int>(get())' : 'get()'};`,
  put: (source, c) => `put(${isEnumeration(c) ? `static_cast<double>(${source})` : source});`,
  program: (cases, language) => `#include <cstdio>
${cases.map(({ outline }) => `#include "${language.file(outline)}"`).join('\n')}
static FILE* from;
static FILE* into;
static double get() { double d; if (std::fread(&d, 8, 1, from) != 1) d = 0.0; return d; }
static void put(double d) { std::fwrite(&d, 8, 1, into); }
${cases
  .map(
    ({ outline, begin, before, after }, n) => `static void case${n}() {
  using namespace ${language.file(outline).replace(/\.hpp$/, '')};
  Situation c; Senses s; Inputs i;
  ${begin}
  for (double ticks = get(); ticks > 0.0; ticks--) {
    ${before.join('\n    ')}
    tick(c, s, i);
    ${after.join('\n    ')}
  }
}`,
  )
  .join('\n')}
int main() {
  from = std::fopen("given.bin", "rb");
  into = std::fopen("got.bin", "wb");
${cases.map((_, n) => `  case${n}();`).join('\n')}
  std::fclose(into);
}
`,
  main: 'main.cpp',
  run: (folder, _, level) => {
    execFileSync(
      'g++',
      [
        '-std=c++17',
        `-O${level}`,
        '-ffp-contract=off',
        '-Wall',
        '-Wextra',
        '-Werror',
        'main.cpp',
        '-o',
        'main',
      ],
      { cwd: folder, stdio: 'pipe', maxBuffer: 1e8 },
    );
    execFileSync('./main', { cwd: folder, stdio: 'pipe' });
  },
};

const csharp: Driver = {
  value: dotted(0, true),
  set: (target, c) => `${target} = ${isTruth(c) ? 'Get() != 0.0' : isWhole(c) ? '(int)Get()' : 'Get()'};`,
  put: (source, c) =>
    `into.Write(${isTruth(c) ? `${source} ? 1.0 : 0.0` : isEnumeration(c) ? `(double)(int)${source}` : `(double)${source}`});`,
  program: (cases, language) => `using System;
using System.IO;
static class Program {
  static BinaryReader from;
  static BinaryWriter into;
  static double Get() { return from.ReadDouble(); }
${cases
  .map(({ outline, begin, before, after }, n) => {
    const space = language.file(outline).replace(/\.cs$/, '');
    return `  static void Case${n}() {
    var c = new ${space}.Situation(); var s = new ${space}.Senses(); var i = new ${space}.Inputs();
    ${begin}
    for (double ticks = Get(); ticks > 0.0; ticks--) {
      ${before.join('\n      ')}
      ${space}.Machine.Tick(c, s, i);
      ${after.join('\n      ')}
    }
  }`;
  })
  .join('\n')}
  static void Main() {
    from = new BinaryReader(File.OpenRead("given.bin"));
    into = new BinaryWriter(File.Create("got.bin"));
${cases.map((_, n) => `    Case${n}();`).join('\n')}
    into.Close();
  }
}
`,
  main: 'Program.cs',
  run: (folder, files) => {
    const options = { cwd: folder, stdio: 'pipe', maxBuffer: 1e8 } as const;
    execFileSync('mcs', ['-warn:0', '-out:main.exe', 'Program.cs', ...files], options);
    execFileSync('mono', ['main.exe'], options);
  },
};

const lua: Driver = {
  value: dotted(1, false),
  set: (target, c) => `${target} = get()${isTruth(c) ? ' ~= 0.0' : ''}`,
  put: (source, c) => `put(${isTruth(c) ? `${source} and 1.0 or 0.0` : source})`,
  program: (cases, language) => `local from = io.open("given.bin", "rb"):read("a")
local into = io.open("got.bin", "wb")
local at = 1
local function get()
  local value
  value, at = string.unpack("<d", from, at)
  return value
end
local function put(value) into:write(string.pack("<d", value)) end
${cases
  .map(
    ({ outline, begin, before, after }) => `do
  local m = require("${language.file(outline).replace(/\.lua$/, '')}")
  local c, s, i = m.start(), m.senses(), m.inputs()
  for z = 1, ${ZONES} do s.zones[z] = { windX = 0.0, windY = 0.0, drag = 0.0 } end
  ${begin}
  for _ = 1, get() do
    ${before.join('\n    ')}
    m.tick(c, s, i)
    ${after.join('\n    ')}
  end
end`,
  )
  .join('\n')}
into:close()
`,
  main: 'main.lua',
  run: (folder) => void execFileSync('lua5.4', ['main.lua'], { cwd: folder, stdio: 'pipe', maxBuffer: 1e8 }),
};

const typescript: Driver = {
  value: dotted(0, false),
  set: (target, c) =>
    `${target} = ${isTruth(c) ? 'get() !== 0' : isEnumeration(c) ? 'get() as never' : 'get()'};`.replace(
      '].',
      ']!.',
    ),
  put: (source) => `put(Number(${source.replace('].', ']!.')}));`,
  program: (cases, language) => `import { readFileSync, writeFileSync } from 'node:fs';
${cases.map(({ outline }, n) => `import * as m${n} from './${language.file(outline).replace(/\.ts$/, '.js')}';`).join('\n')}
const from = readFileSync('given.bin');
const into: number[] = [];
let at = 0;
const get = (): number => from.readDoubleLE((at += 8) - 8);
const put = (value: number): void => void into.push(value);
${cases
  .map(
    ({ begin, before, after }, n) => `{
  const [c, s, i] = [m${n}.start(), m${n}.senses(), m${n}.inputs()];
  ${begin}
  for (let ticks = get(); ticks > 0; ticks--) {
    ${before.join('\n    ')}
    m${n}.tick(c, s, i);
    ${after.join('\n    ')}
  }
}`,
  )
  .join('\n')}
writeFileSync('got.bin', new Uint8Array(Float64Array.from(into).buffer));
`,
  main: 'main.ts',
  run: (folder, files, level) => {
    writeFileSync(join(folder, 'package.json'), '{ "type": "module" }');
    const options = { cwd: folder, stdio: 'pipe', maxBuffer: 1e8, encoding: 'utf8' } as const;
    const compilerOptions = {
      target: 'ES2022',
      module: 'nodenext',
      strict: true,
      noUncheckedIndexedAccess: true,
      noFallthroughCasesInSwitch: true,
      noUnusedLocals: true,
      types: ['node'],
      typeRoots: [join(ROOT, 'node_modules/@types')],
    };
    if (level > 0) {
      writeFileSync(join(folder, 'tsconfig.json'), JSON.stringify({ compilerOptions }));
      const compiled = spawnSync('node', [join(ROOT, 'node_modules/typescript/bin/tsc'), '-p', '.'], options);
      if (compiled.status !== 0) throw new Error(compiled.stdout);
    } else
      for (const file of [...files, 'main.ts'])
        writeFileSync(
          join(folder, file.replace(/ts$/, 'js')),
          ts.transpileModule(readFileSync(join(folder, file), 'utf8'), {
            compilerOptions: { target: ts.ScriptTarget.ES2022, module: ts.ModuleKind.ES2022 },
          }).outputText,
        );
    execFileSync('node', ['main.js'], options);
  },
};

const ROOT = fileURLToPath(new URL('../../../../', import.meta.url));

/** What a language needs to be compiled and run here, and the Debian packages that have it. */
const COMPILERS = JSON.parse(readFileSync(new URL('compilers.json', import.meta.url), 'utf8')) as Record<
  Language['id'],
  { programs: string[]; packages: string[] }
>;

const DRIVERS: Record<Language['id'], Driver> = { cpp, csharp, lua, typescript };

/** The packages that are missing for a language to be tested here; undefined when nothing is. */
export function missingFor(language: Language): string | undefined {
  const { programs, packages } = COMPILERS[language.id];
  const isHere = (program: string): boolean =>
    spawnSync(program, ['--help'], { stdio: 'ignore' }).error === undefined;
  return programs.every(isHere) ? undefined : packages.join(' ');
}

/** Prints, compiles and runs movesets in a language; gives by case and tick what came out. */
export function runCases(
  language: Language,
  cases: readonly Case[],
  folder: string,
  level: 0 | 2,
): number[][][] {
  const driver = DRIVERS[language.id];
  mkdirSync(folder, { recursive: true });
  const files = cases.map(({ outline }) => language.file(outline));
  cases.forEach(({ outline }, n) => writeFileSync(join(folder, files[n]!), language.print(outline)));
  const bound = cases.map(({ outline }) => {
    const { given, expected } = columnsOf(outline);
    const target = (c: Column): string => driver.value(c, language, outline);
    const facing: Column = {
      what: 'member',
      member: [...outline.members.fields.values()].find((m) => m.words === 'facing')!,
    };
    return {
      outline,
      begin: driver.set(target(facing), facing, String),
      before: given.map((c) => driver.set(target(c), c, String)),
      after: expected.map((c) => driver.put(target(c), c)),
    };
  });
  writeFileSync(join(folder, driver.main), driver.program(bound, language));
  writeFileSync(
    join(folder, 'given.bin'),
    new Uint8Array(
      Float64Array.from(
        cases.flatMap(({ recorded: { facing, given } }) => [facing, given.length, ...given.flat()]),
      ).buffer,
    ),
  );
  driver.run(folder, files, level);
  const bytes = readFileSync(join(folder, 'got.bin'));
  const got = new Float64Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength));
  let at = 0;
  return cases.map(({ recorded: { expected } }) =>
    expected.map((row) => Array.from(got.subarray(at, (at += row.length)))),
  );
}

/** The first value in which a run of generated code differs from the machine's; zero is zero whatever its sign. */
export function firstApart(
  { outline, recorded }: Case,
  got: readonly (readonly number[])[],
): string | undefined {
  const { expected: columns } = columnsOf(outline);
  for (const [tick, row] of recorded.expected.entries())
    for (const [i, value] of row.entries()) {
      const found = got[tick]?.[i];
      if (found === value || Number.isNaN(value)) continue;
      const column = columns[i]!;
      const name = column.what === 'member' ? column.member.words : JSON.stringify(column);
      return `${outline.machine.name}, tick ${tick}: ${name} is ${found}, the machine has ${value}`;
    }
  return undefined;
}
