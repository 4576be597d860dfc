import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readMoveset } from '@glenmark/core/machine';
import {
  type Diagnostic,
  edit,
  formatDiagnostic,
  kindOf,
  movedKey,
  parseSource,
  readFile,
  renameKey,
  slugOf,
  sourceValue,
} from '@glenmark/core/model';
import { readTape } from '@glenmark/core/run';
import { readCourse } from '@glenmark/core/world';
import { sample } from './helpers.js';

const MOVESETS = ['signal-kite.yaml', 'courier.yaml', 'courier-draft.yaml'];

/** The first fault of a moveset text, as the command line prints it. */
const firstFault = (text: string): string => {
  const { diagnostics, machine } = readMoveset(text);
  expect(machine).toBeUndefined();
  return formatDiagnostic('m', diagnostics[0]!);
};

describe('reading', () => {
  it.each(MOVESETS)('%s loads without a fault, also as JSON', (file) => {
    // The draft warns of a timer that nothing starts: that is one of its faults.
    const errors = (list: readonly Diagnostic[]): Diagnostic[] => list.filter((d) => d.severity === 'error');
    const { machine, file: data, diagnostics } = readMoveset(sample(file));
    expect(errors(diagnostics)).toEqual([]);
    const again = readMoveset(JSON.stringify(data));
    expect(errors(again.diagnostics)).toEqual([]);
    expect(again.machine!.states.map((s) => s.name)).toEqual(machine!.states.map((s) => s.name));
  });

  const courier = sample('courier.yaml');
  it.each([
    [
      'an unknown key',
      courier.replace('tickRate: 60', 'tickrate: 60'),
      /^m:6:1: unknown key 'tickrate', did you mean 'tickRate'\?/,
    ],
    ['a wrong unit', courier.replace('value: 9 m/s,', 'value: 9 m/z,'), /^m:14:\d+: /],
    ['a wrong dimension', courier.replace('value: 9 m/s,', 'value: 9 m,'), /a length|a speed/],
    [
      'a state that is missing',
      courier.replace('to: Slide', 'to: Slied'),
      /no state of the lane 'legs' is called 'Slied', did you mean 'Slide'\?/,
    ],
    [
      'a cyclic dial',
      courier.replace(
        'hopHeight: { value: 2.1 m, min: 0.5 m, max: 4 m, step: 0.05 m }',
        'hopHeight: hopSpeed * 1 s',
      ),
      /depends on itself/,
    ],
    ['broken YAML', courier.replace('lanes:', 'lanes: ]['), /^m:\d+:\d+: the YAML is broken here/],
    [
      'a newer format',
      courier.replace('glenmark: 1', 'glenmark: 2'),
      /^m:2:11: this file is of format version 2/,
    ],
    ['another kind', sample('mill-yard.yaml'), /found a course, expected a moveset/],
    ['nothing', '', /found nothing/],
    ['plain prose', 'the quick brown fox', /expected a moveset/],
    ['binary noise', 'glenmark: 1\nkind: \u0000\u0001', /^m:2:7: found the unprintable character U\+0000/],
    ['too much', 'a'.repeat(20_000_000), /found 20000000 bytes/],
    [
      'aliases that explode',
      `a: &a [x,x,x,x,x,x,x,x,x]\nb: &b [*a,*a,*a,*a,*a,*a,*a,*a,*a]\nc: &c [*b,*b,*b,*b,*b,*b,*b,*b,*b]\nd: [*c,*c,*c,*c,*c,*c,*c,*c,*c]`,
      /alias/,
    ],
    [
      'a duplicate key',
      courier.replace('tickRate: 60', 'tickRate: 60\ntickRate: 30'),
      /the key 'tickRate' is here for the second time/,
    ],
    [
      'an event for a state',
      courier.replace('enter: [start slideTime]', 'enter: [start slidTime]'),
      /no timer is called 'slidTime', did you mean 'slideTime'/,
    ],
  ])('%s gives an error at its place', (_, text, message) => {
    expect(firstFault(text)).toMatch(message);
  });

  it('reports all faults at once, in the order of the file', () => {
    const text = courier
      .replace('to: Slide', 'to: Slied')
      .replace('value: 9 m/s,', 'value: 9 q,')
      .replace('pressed(gust)', 'pressed(gost)');
    const { diagnostics } = readMoveset(text);
    expect(diagnostics.length).toBeGreaterThanOrEqual(3);
    const lines = diagnostics.map((d) => d.line);
    expect(lines).toEqual([...lines].sort((a, b) => a - b));
  });

  it('points into a guard, not only at its line', () => {
    const line = courier.split('\n').findIndex((l) => l.includes('pressed(tuck) and grounded')) + 1;
    const column = courier.split('\n')[line - 1]!.indexOf('speed > 3') + 1;
    const { diagnostics } = readMoveset(courier.replace('grounded and speed > 3', 'grounded and sped > 3'));
    expect(diagnostics[0]).toMatchObject({ line, column });
  });

  it('a spawn inside a solid loads with a warning at its line', () => {
    const { course, diagnostics } = readCourse(
      'glenmark: 1\nkind: course\nname: C\nsolids:\n  - { name: quay, box: [[0 m, 0 m], [4 m, 4 m]] }\nspawns:\n  on: { at: [2 m, 4 m] }\n  in: { at: [2 m, 3 m] }\n',
    );
    expect(course?.spawns.map((s) => s.name)).toEqual(['on', 'in']);
    expect(diagnostics).toMatchObject([
      {
        severity: 'warning',
        line: 8,
        message: expect.stringMatching(/'in' is inside the solid 'quay'/) as string,
      },
    ]);
  });

  it('an outline of a million corners is refused at its line, and soon', { timeout: 60_000 }, () => {
    const corners = Array.from({ length: 1_000_000 }, () => '[0 m,0 m]').join(',');
    const { course, diagnostics } = readCourse(
      `glenmark: 1\nkind: course\nname: C\nsolids:\n  - { points: [${corners}] }\nspawns: { a: { at: [0 m, 9 m] } }`,
    );
    expect(course).toBeUndefined();
    expect(diagnostics[0]).toMatchObject({ severity: 'error' });
    const fewer = corners.slice(0, 20_000 * 10 - 1);
    const again = readCourse(
      `glenmark: 1\nkind: course\nname: C\nsolids:\n  - { points: [${fewer}] }\nspawns: { a: { at: [0 m, 9 m] } }`,
    );
    expect(again.diagnostics[0]).toMatchObject({
      line: 5,
      message: 'found 20000 corners of one outline, expected at most 1000',
    });
  });

  it.each([
    [
      'a solid that is not convex',
      'solids: [{ points: [[0 m, 0 m], [4 m, 0 m], [1 m, 1 m], [0 m, 4 m]] }]',
      /not convex/,
    ],
    ['a solid without area', 'solids: [{ box: [[0 m, 0 m], [0 m, 4 m]] }]', /without area/],
    [
      'a corner in seconds',
      'solids: [{ box: [[0 s, 0 m], [1 m, 4 m]] }]',
      /a length of time, expected a length/,
    ],
    [
      'a pentagram',
      'solids: [{ points: [[0 m, 3 m], [2 m, -3 m], [-3 m, 1 m], [3 m, 1 m], [-2 m, -3 m]] }]',
      /not convex/,
    ],
  ])('%s is refused', (_, solids, message) => {
    const { course, diagnostics } = readCourse(
      `glenmark: 1\nkind: course\nname: C\n${solids}\nspawns: { a: { at: [0 m, 9 m] } }`,
    );
    expect(course).toBeUndefined();
    expect(diagnostics[0]!.message).toMatch(message);
  });

  it.each([
    ['20 for 11x', /expected a span/],
    ['20 for 0', /at least one/],
    ['20 for 999', /end by the tape/],
    ['1 for 2 at 700', /expected -1 to 1/],
  ])('a tape span %s is refused', (span, message) => {
    const { diagnostics } = readTape(
      `glenmark: 1\nkind: tape\nname: T\ncourse: c\nspawn: s\nticks: 60\ninputs: { hop: ["${span}"] }`,
    );
    expect(diagnostics[0]!.message).toMatch(message);
  });

  it('knows the kind that a text says it is', () => {
    expect(kindOf(sample('mill-yard.yaml'))).toBe('course');
    expect(kindOf('kind: nonsense')).toBeUndefined();
    expect(slugOf('Mill  yard – Öst!')).toBe('mill-yard-ost');
  });
});

describe('editing', () => {
  const courier = sample('courier.yaml');

  it('changes what it is told to and keeps every comment', () => {
    const path = ['lanes', 0, 'crossings', 1, 'when'];
    const after = edit(courier, [{ path, value: 'pressed(tuck)' }]);
    expect(after.match(/#.*/g)).toEqual(courier.match(/#.*/g));
    const changed = after.split('\n').filter((line, i) => line !== edit(courier, []).split('\n')[i]);
    expect(changed).toHaveLength(1);
    expect(readFile('moveset', after).file!.lanes[0]!.crossings![1]!.when).toBe('pressed(tuck)');
  });

  it('inserts and removes again without a trace', () => {
    const base = edit(courier, []);
    const path = ['lanes', 0, 'crossings', 2];
    const inserted = edit(base, [{ path, value: { from: 'Slide', to: 'Gust' }, insert: true }]);
    expect(inserted).toContain('- { from: Slide, to: Gust }');
    expect(edit(inserted, [{ path }])).toBe(base);
  });

  it('renames a key in place', () => {
    const after = renameKey(courier, ['lanes', 0, 'states', 'Slide'], 'Skid');
    expect(Object.keys(readFile('moveset', after).file!.lanes[0]!.states)).toEqual([
      'Trot',
      'Aloft',
      'Skid',
      'Gust',
    ]);
  });
});

describe('a key moved among its siblings', () => {
  it('stands where it was put, with all the others in their order and its own lines with it', () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.stringMatching(/^[a-z]{1,6}$/), { minLength: 2, maxLength: 7 }),
        fc.nat(),
        fc.nat(),
        (names, from, to) => {
          const at = from % names.length;
          const by = (to % names.length) - at;
          const text = `list:\n${names.map((n) => `  ${n}:\n    # about ${n}\n    own: ${n}`).join('\n')}\nend: 1\n`;
          const moved = movedKey(text, ['list', names[at]!], by);
          const expected = names.filter((_, i) => i !== at);
          expected.splice(at + by, 0, names[at]!);
          const value = sourceValue(parseSource(moved!).source!).value as { list: object; end: number };
          expect(Object.keys(value.list)).toEqual(expected);
          expect(value.end).toBe(1);
          for (const name of names) expect(moved).toContain(`    # about ${name}\n    own: ${name}`);
        },
      ),
      { numRuns: 60 },
    );
    expect(movedKey('list: { a: 1, b: 2 }', ['list', 'a'], -1)).toBeUndefined();
    expect(movedKey('list: { a: 1, b: 2 }', ['list', 'b'], 1)).toBeUndefined();
  });
});
