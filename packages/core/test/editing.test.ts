import * as fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { parse } from 'yaml';
import { compileChanged, type Compiled, compileSpliced, readMoveset } from '@glenmark/core/machine';
import {
  type Change,
  changed,
  edit,
  locate,
  parseSource,
  type Path,
  splicedSource,
} from '@glenmark/core/model';
import { sample } from './helpers.js';

const FILES = ['courier.yaml', 'courier-draft.yaml', 'marram.yaml', 'mill-yard.yaml', 'culvert-slide.yaml'];
const MOVESETS = ['courier.yaml', 'courier-draft.yaml', 'marram.yaml', 'signal-kite.yaml'];

/** The paths of all that is not a mapping or a list. */
function leaves(value: unknown, path: Path = []): Path[] {
  if (typeof value !== 'object' || value === null) return [path];
  return Object.entries(value).flatMap(([key, inner]) =>
    leaves(inner, [...path, Array.isArray(value) ? Number(key) : key]),
  );
}

/** Texts that mean something to YAML, between all others. */
const ODD = [
  'a: b',
  '# no',
  'yes',
  '1',
  '1 m',
  ' lead',
  "it's",
  '"',
  '[x',
  '- a',
  'null',
  '',
  '{',
  '}, ]',
  'é — ½',
  '&a',
  '*a',
  '!t',
  '%',
  '@',
  '`',
  '| x',
  '~',
  '0x1F',
  '.5',
  'a #b',
  'a:',
  ', b',
];
const scalar = fc.oneof(
  fc.constantFrom(...ODD),
  fc.string({ maxLength: 12 }),
  fc.integer(),
  fc.double({ noNaN: true, noDefaultInfinity: true }),
  fc.boolean(),
);

describe('a scalar put into a text that is parsed already', () => {
  it.each(FILES)('%s reads as it does when all is written anew, and no other line changes', (file) => {
    const text = sample(file);
    const source = parseSource(text).source!;
    const paths = leaves(parse(text));
    const before = text.split('\n');
    fc.assert(
      fc.property(fc.constantFrom(...paths), scalar, (path, value) => {
        const changes = [{ path, value }];
        const quick = edit(text, changes, source);
        expect(parse(quick)).toEqual(parse(edit(text, changes)));
        const after = quick.split('\n');
        expect(after).toHaveLength(before.length);
        expect(after.filter((line, i) => line !== before[i]).length).toBeLessThanOrEqual(1);
      }),
      { numRuns: 60 },
    );
  });

  it('several at once are each at their place, in whatever order they are told', () => {
    const text = sample('courier.yaml');
    const source = parseSource(text).source!;
    const paths = leaves(parse(text));
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.nat({ max: paths.length - 1 }), { minLength: 2, maxLength: 6 }),
        fc.array(scalar, { minLength: 6, maxLength: 6 }),
        (at, values) => {
          const changes = at.map((n, i): Change => ({ path: paths[n]!, value: values[i]! }));
          expect(parse(edit(text, changes, source))).toEqual(parse(edit(text, changes)));
        },
      ),
    );
  });

  it('a crossing behind the last one likewise', () => {
    const text = sample('courier.yaml');
    const source = parseSource(text).source!;
    const list = (parse(text) as { lanes: { crossings: unknown[] }[] }).lanes[0]!.crossings;
    const path = ['lanes', 0, 'crossings', list.length];
    const words = fc.oneof(fc.constantFrom(...ODD), fc.string());
    const crossing = fc.record(
      { from: words, to: words, when: words, rank: fc.integer(), do: fc.array(words, { minLength: 1 }) },
      { requiredKeys: ['from', 'to'] },
    );
    fc.assert(
      fc.property(crossing, (value) => {
        const quick = edit(text, [{ path, value, insert: true }], source);
        expect(parse(quick)).toEqual(parse(edit(text, [{ path, value, insert: true }])));
        const lines = text.split('\n');
        expect(quick.split('\n').filter((line) => !lines.includes(line)).length).toBe(1);
      }),
    );
  });

  it('of another text than its source is not put in by its source', () => {
    const text = sample('courier.yaml');
    const other = `# one line more\n${text}`;
    const changes = [{ path: ['name'], value: 'Other' }];
    expect(edit(other, changes, parseSource(text).source!)).toBe(edit(other, changes));
  });
});

/** Changes as the application makes them: put, add, insert, take away, at any place of a moveset. */
function anyChange(text: string): fc.Arbitrary<Change> {
  const value = parse(text) as { lanes: { crossings?: unknown[]; states: Record<string, unknown> }[] };
  const paths = leaves(value);
  const lists = value.lanes.flatMap((lane, i) =>
    lane.crossings === undefined ? [] : [{ path: ['lanes', i, 'crossings'], length: lane.crossings.length }],
  );
  const states = value.lanes.flatMap((lane, i) =>
    Object.keys(lane.states).map((s) => ['lanes', i, 'states', s]),
  );
  const whens = lists.flatMap(({ path, length }) =>
    Array.from({ length }, (_, i): Path => [...path, i, 'when']),
  );
  const guards = fc.constantFrom(
    'grounded',
    'falling and grounded',
    'vx > 3 m/s',
    'nonsense',
    'held(hop) and',
    '1 m',
  );
  return fc.oneof(
    fc.record({ path: fc.constantFrom(...paths), value: scalar }),
    fc.record({ path: fc.constantFrom(...paths, ...states) }),
    fc.record({ path: fc.constantFrom(...whens), value: guards }),
    fc.tuple(fc.constantFrom(...lists), fc.nat(), guards).map(([list, n, when]) => ({
      path: [...list.path, n % (list.length + 1)],
      value: { from: '*', to: Object.keys(value.lanes[0]!.states)[0]!, when },
      insert: true,
    })),
    fc
      .constantFrom(...states)
      .map((path) => ({ path: [...path.slice(0, -1), 'Newcomer'], value: { stance: 'none' } })),
  );
}

describe.each(MOVESETS)('%s after a change', (file) => {
  const text = sample(file);
  const before = readMoveset(text);

  it('is the same value without its text as with it, and what it was is untouched', () => {
    fc.assert(
      fc.property(anyChange(text), (change) => {
        const value: unknown = parse(text);
        expect(changed(value, [change])).toEqual(parse(edit(text, [change])));
        expect(value).toEqual(parse(text));
      }),
      { numRuns: 40 },
    );
  });

  it('compiles without its text to what it does with it, and has the same faults', () => {
    fc.assert(
      fc.property(anyChange(text), (change) => {
        const quick = compileChanged(before, [change]);
        const whole = readMoveset(edit(text, [change]));
        const told = (c: typeof quick) => c.diagnostics.map((d) => [d.severity, d.path, d.message]).sort();
        expect(told(quick)).toEqual(told(whole));
        expect(quick.machine).toEqual(whole.machine);
      }),
      { numRuns: 30 },
    );
  });
});

/** Values that mean something to a moveset, so that it often loads after them. */
const meant = fc.oneof(
  fc.constantFrom(
    'grounded',
    'pressed(hop) and vy <= 2 m/s',
    'held(tuck) for 0.2 s',
    '3 m/s',
    '0.25 s',
    'Trot',
    'upright',
  ),
  fc.integer({ min: -3, max: 200 }),
  fc.boolean(),
  scalar,
);

describe.each(MOVESETS)('%s edited value by value', (file) => {
  const text = sample(file);
  const paths = leaves(parse(text));
  const edits = fc.array(fc.tuple(fc.nat(), meant), { minLength: 1, maxLength: 8 });

  it('has every place where it is when the text is read anew', () => {
    let spliced = 0;
    fc.assert(
      fc.property(edits, (list) => {
        let source = parseSource(text).source!;
        for (const [at, value] of list) {
          const change = { path: paths[at % paths.length]!, value };
          const after = splicedSource(source, [change]);
          if (after === undefined) continue;
          spliced++;
          expect(after.text).toBe(edit(source.text, [change], source));
          const anew = parseSource(after.text).source!;
          expect(after.lines.lineStarts).toEqual(anew.lines.lineStarts);
          for (const path of paths)
            for (const options of [{}, { key: true }, { offset: 1 }])
              expect(locate(after, path, options)).toEqual(locate(anew, path, options));
          source = after;
        }
      }),
      { numRuns: 20 },
    );
    expect(spliced).toBeGreaterThan(20);
  });

  it('compiles to what its text is read as, with the same faults at the same places', () => {
    let compiledSo = 0;
    fc.assert(
      fc.property(edits, (list) => {
        let now: Compiled = readMoveset(text);
        for (const [at, value] of list) {
          const change = { path: paths[at % paths.length]!, value };
          const after = compileSpliced(now, [change]);
          if (after === undefined) continue;
          compiledSo++;
          const whole = readMoveset(edit(now.source!.text, [change], now.source));
          expect(after.source!.text).toBe(whole.source!.text);
          expect(after.diagnostics).toEqual(whole.diagnostics);
          expect(after.file).toEqual(whole.file);
          expect(after.machine).toEqual(whole.machine);
          if (after.machine !== undefined) now = after;
        }
      }),
      { numRuns: 30 },
    );
    expect(compiledSo).toBeGreaterThan(20);
  });
});

it('an edit that takes another quoting, or more than a value, is left to a whole reading', () => {
  const source = parseSource(sample('courier.yaml')).source!;
  expect(splicedSource(source, [{ path: ['name'], value: 'Other' }])).toBeDefined();
  expect(splicedSource(source, [{ path: ['name'], value: 'a: b' }])).toBeUndefined();
  expect(splicedSource(source, [{ path: ['name'] }])).toBeUndefined();
  expect(
    splicedSource(source, [{ path: ['lanes', 0, 'crossings', 0], value: { from: 'Trot', to: 'Slide' } }]),
  ).toBeUndefined();
});
