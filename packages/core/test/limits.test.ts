import { createScouting, proveAll } from '@glenmark/core/findings';
import { compileMoveset, readMoveset } from '@glenmark/core/machine';
import {
  beyondLimits,
  kindOf,
  LIMITS,
  nearest,
  parseSource,
  slugOf,
  sourceValue,
  utf8Length,
  withoutMark,
} from '@glenmark/core/model';
import { readTape } from '@glenmark/core/run';
import { readCourse } from '@glenmark/core/world';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

const HEAD = `glenmark: 1
kind: moveset
name: Limits
body: { stances: { upright: { shape: box, width: 1 m, height: 2 m } } }
`;
const LANES = 'lanes: [{ name: legs, initial: A, states: { A: {} } }]\n';
const range = (n: number, of: (i: number) => string, joint = ', '): string =>
  Array.from({ length: n }, (_, i) => of(i)).join(joint);
const messages = (text: string): string[] => readMoveset(text).diagnostics.map((d) => d.message);

describe('what a document may have', () => {
  it.each([
    ['dials', `dials: { ${range(1001, (i) => `d${i}: 1 m`)} }\n`, 'found 1001 dials, expected at most 1000'],
    ['timers', `timers: { ${range(301, (i) => `t${i}: { length: 1 s }`)} }\n`, 'found 301 timers'],
    ['controls', `controls: { ${range(101, (i) => `c${i}: { button: KeyA }`)} }\n`, 'found 101 controls'],
  ])('%s: too many are told at their place, and nothing else', (section, text, message) => {
    const { diagnostics } = readMoveset(HEAD + text + LANES);
    expect(diagnostics).toHaveLength(1);
    expect(diagnostics[0]).toMatchObject({ path: [section], line: 5 });
    expect(diagnostics[0]!.message).toContain(message);
  });

  it('counts states and crossings over all lanes and groups', () => {
    const lane = (name: string, states: number): string =>
      `{ name: ${name}, initial: ${name}, states: { ${name}: { initial: ${name}0, states: { ${range(states, (i) => `${name}${i}: {}`)} } } } }`;
    expect(messages(`${HEAD}lanes: [${lane('a', 499)}, ${lane('b', 499)}]\n`)).toEqual([]);
    expect(messages(`${HEAD}lanes: [${lane('a', 500)}, ${lane('b', 499)}]\n`)).toEqual([
      'found 1001 states in all lanes, expected at most 1000',
    ]);
    const crossings = (n: number): string =>
      `{ name: l${n}, initial: A, states: { A: {} }, crossings: [${range(n, () => '{ from: A, to: A, when: grounded, reenter: true }')}] }`;
    expect(messages(`${HEAD}lanes: [${crossings(2000)}, ${crossings(2001)}]\n`)).toEqual([
      'found 4001 crossings in all, expected at most 4000',
    ]);
  });

  it('groups stand in each other only so deep, and brackets too', () => {
    const deep = (n: number): string =>
      `${HEAD}lanes:\n  - name: legs\n    initial: g0\n    states:\n${range(
        n,
        (i) =>
          `${' '.repeat(6 + 4 * i)}g${i}:\n${' '.repeat(8 + 4 * i)}initial: g${i + 1}\n${' '.repeat(8 + 4 * i)}states:\n`,
        '',
      )}${' '.repeat(6 + 4 * n)}g${n}: {}\n`;
    expect(messages(deep(16))).toEqual([]);
    expect(messages(deep(17))).toEqual(['found 17 groups in each other, expected at most 16']);
    expect(messages(`note: ${'['.repeat(150_000)}`)).toEqual([
      'found more than 200 brackets in each other, expected fewer',
    ]);
  });

  it('of courses and tapes is limited as well', () => {
    const course = `glenmark: 1\nkind: course\nname: C\nsolids: []\nspawns: { ${range(501, (i) => `s${i}: { at: [0 m, 0 m] }`)} }\n`;
    expect(readCourse(course).diagnostics.map((d) => d.message)).toEqual([
      'found 501 spawns, expected at most 500',
    ]);
    const tape = `glenmark: 1\nkind: tape\nname: T\ncourse: C\nspawn: s\nticks: 9\nexpect: [${range(1001, () => '"grounded at 1"')}]\n`;
    expect(readTape(tape).diagnostics.map((d) => d.message)).toEqual([
      'found 1001 expectations, expected at most 1000',
    ]);
  });

  it('is counted to the letter of the table, whatever the document is', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 60 }), fc.integer({ min: 0, max: 60 }), (parts, path) => {
        const { source } = parseSource('a: 1');
        const stances = {
          s: { parts: Object.fromEntries(Array.from({ length: parts }, (_, i) => [`p${i}`, {}])) },
        };
        const found = beyondLimits('moveset', { body: { stances }, lanes: [] }, source!);
        expect(found.length).toBe(parts > 50 ? 1 : 0);
        const movers = [{ path: Array.from({ length: path * 5 }, () => 0) }];
        expect(beyondLimits('course', { movers }, source!).length).toBe(path * 5 > 200 ? 1 : 0);
      }),
    );
    for (const table of Object.values(LIMITS)) for (const { max } of table) expect(max).toBeGreaterThan(0);
  });
});

describe('odd texts', () => {
  it('the length of a text is counted in bytes of UTF-8', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'binary' }), (text) => {
        expect(utf8Length(text)).toBe(Buffer.byteLength(text));
      }),
    );
    const wide = `note: ${'ж'.repeat(1_000_001)}`;
    expect(messages(wide)).toEqual([`found ${Buffer.byteLength(wide)} bytes, expected at most 2000000`]);
  });

  it('half a character is told at its place; a whole one, and a byte order mark, are fine', () => {
    expect(readMoveset(`${HEAD}note: "a\ud83c"\n${LANES}`).diagnostics[0]).toMatchObject({
      line: 5,
      column: 9,
    });
    expect(messages(`${HEAD}note: "\u{1F3ED}"\n${LANES}`)).toEqual([]);
    expect(withoutMark('\uFEFFa\uFEFF')).toBe('a\uFEFF');
  });

  it('a key that stands twice is told at the second, wherever it is', () => {
    const { diagnostics } = readMoveset(`${HEAD}dials:\n  a: 1 m\n  b: 2 m\n  a: 3 m\n${LANES}`);
    expect(diagnostics).toMatchObject([{ line: 8, column: 3 }]);
    expect(diagnostics[0]!.message).toContain("the key 'a' is here for the second time");
  });

  it('the name __proto__ is refused at its place, never dropped', () => {
    for (const text of [`dials: { __proto__: 1 m }\n`, `timers: { a: { length: 1 s, __proto__: 2 } }\n`]) {
      const { diagnostics } = readMoveset(HEAD + text + LANES);
      expect(diagnostics).toHaveLength(1);
      expect(diagnostics[0]!.message).toContain("found the name '__proto__'");
      expect(diagnostics[0]!.line).toBe(5);
    }
  });

  it('quantities that are infinite are refused', () => {
    for (const value of ['1e308 m * 1e10', '1e999 m', '.inf', '-.inf', '1 m / 0'])
      expect([value, messages(`${HEAD}dials: { far: ${value} }\n${LANES}`).length]).toEqual([value, 1]);
  });

  it('a chain of dials is worked out, and a longer one is told at the dial where it is too long', () => {
    const chain = (n: number): string =>
      `dials: { ${range(n - 1, (i) => `d${i}: d${i + 1} * 1`)}, d${n - 1}: 2 m }\n`;
    expect(readMoveset(HEAD + chain(100) + LANES).machine!.dials[0]!.value).toBe(2);
    const { diagnostics } = readMoveset(HEAD + chain(1000) + LANES);
    expect(diagnostics[0]!.message).toContain('found a dial behind 100 others');
    expect(diagnostics[0]!.path).toEqual(['dials', 'd100']);
  });

  it('readers never throw, and what they accept they also compile', () => {
    const piece = fc.constantFrom(
      '{',
      '}',
      '[',
      ']',
      ': ',
      '- ',
      '\n',
      '  ',
      'a',
      '&a ',
      '*a',
      '"',
      "'",
      '!!',
      '|',
      '? ',
      '#',
      '1e999',
      '.inf',
      '__proto__',
    );
    fc.assert(
      fc.property(fc.array(piece, { maxLength: 60 }), (pieces) => {
        const text = pieces.join('');
        for (const read of [readMoveset, readCourse, readTape]) read(text);
        kindOf(text);
        const { source } = parseSource(text);
        if (source !== undefined) sourceValue(source);
      }),
      { numRuns: 2000 },
    );
    expect(compileMoveset).toBeTypeOf('function');
  });
});

describe('names', () => {
  it('of different letters have different short names, in any script', () => {
    expect(['Mill yard', 'Água', 'Водяная мельница', '水車', 'नाव', 'ΣΟΦΟΣ', 'Ĳssel 2'].map(slugOf)).toEqual([
      'mill-yard',
      'agua',
      'водяная-мельница',
      '水車',
      'नाव',
      'σοφος',
      'ijssel-2',
    ]);
    expect(slugOf('🪁')).not.toBe(slugOf('🌊'));
  });

  it('are short, the same when taken twice, and never empty', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme', maxLength: 300 }), (name) => {
        const slug = slugOf(name);
        expect(slug.length).toBeGreaterThan(0);
        expect(Array.from(slug).length).toBeLessThanOrEqual(100);
        expect(slugOf(slug)).toBe(slug);
      }),
    );
  });

  it('that are wrong are compared with a bounded number of others', () => {
    const many = Array.from({ length: 100_000 }, (_, i) => `name${i}`);
    let looked = 0;
    const counting = (function* () {
      for (const name of many) {
        looked++;
        yield name;
      }
    })();
    expect(nearest('nam1', counting)).toBe('name1');
    expect(looked).toBeLessThan(1000);
    expect(nearest('x'.repeat(1000), ['x'.repeat(999)])).toBeUndefined();
  });
});

describe('scouting from a grid', () => {
  it('of a vast course builds no more places than it can try', () => {
    const { machine } = readMoveset(HEAD + LANES);
    const { course } = readCourse(
      'glenmark: 1\nkind: course\nname: Vast\nsolids: [{ box: [[0 m, 0 m], [4000 m, 1 m]] }, { box: [[0 m, 900 m], [4000 m, 901 m]] }]\nspawns: { a: { at: [2 m, 1 m] } }\n',
    );
    const { findings, traps } = proveAll(machine!);
    const scouting = createScouting(machine!, [course!], { findings, traps }, { seed: 1, grid: 0.25 });
    expect(scouting).toBeDefined();
  });
});
