import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  foldsOf,
  formatted,
  helpAt,
  newNameFault,
  openDocument,
  type OpenDocument,
  outlineOf,
  renamingFault,
  suggestionsAt,
} from '@glenmark/core/language';
import {
  declaredIn,
  findUses,
  type Machine,
  occurrenceAt,
  occurrencesIn,
  readMoveset,
  rename,
  usesIn,
} from '@glenmark/core/machine';
import { type Change, edit, parseSource } from '@glenmark/core/model';
import { readTape, tapeReferences } from '@glenmark/core/run';
import { parse, stringify } from 'yaml';
import { machineOf, sample, samplesIn } from '../helpers.js';

const ALL = [...samplesIn(''), ...samplesIn('mechanics/')];
const MOVESETS = [...ALL, ...samplesIn('kits/')].filter((file) => /^kind: moveset/m.test(sample(file)));
const TAPES = ALL.filter((file) => /^kind: tape/m.test(sample(file)));

const readBefore = new Map<string, OpenDocument>();

/** A sample as it is opened; once for all tests. */
function opened(file: string): OpenDocument {
  const document = readBefore.get(file) ?? openDocument(sample(file));
  readBefore.set(file, document);
  return document;
}
const machineIn = (file: string): Machine => opened(file).moveset!.machine;
const known = (file: string) => ({ ...opened(file).moveset!, findings: [] });

describe('the names of a moveset', () => {
  it.each(MOVESETS)('of %s stand where they are said to stand, each declared once', (file) => {
    const { source, moveset } = opened(file);
    const { machine } = moveset!;
    const all = occurrencesIn(source!, machine);
    for (const { name, start, end } of all) expect(source!.text.slice(start, end)).toBe(name);
    expect(all.filter(({ use }) => use === 'declared')).toHaveLength(declaredIn(machine).length);
    // The samples have neither escapes nor aliases, so every use can be pointed at.
    expect(all.filter(({ use }) => use !== 'declared')).toHaveLength(machine.references.length);
  });

  it.each(TAPES)('that %s uses stand where they are said to', (file) => {
    const { tape, file: document } = readTape(sample(file));
    const moveset = MOVESETS.find((each) => machineIn(each).name === document!.moveset);
    if (moveset === undefined) return;
    const uses = usesIn(tape!.source, tapeReferences(tape!, machineIn(moveset)));
    for (const { name, start, end } of uses) expect(tape!.source.text.slice(start, end)).toBe(name);
    expect(uses.filter(({ use }) => use === 'key')).toHaveLength(tape!.inputs.length);
  });

  it('are renamed although they stand in texts that are escaped, quoted or folded', () => {
    const text = sample('courier.yaml')
      .replace(
        'when: done(slideTime) or not held(tuck) }',
        'when: "done(slideTime) or\\u0020not held(tuck)" }',
      )
      .replace('enter: [start slideTime]', "enter: ['start slideTime']");
    const machine = machineOf(text);
    const renamed = readMoveset(renameIn(text, machine, 'slideTime', 'spell'));
    expect(renamed.diagnostics).toEqual([]);
    expect(findUses(renamed.machine!, 'timer', 'spell')).toHaveLength(3);
  });

  it('may be words that YAML has a meaning for: then they are quoted where they stand alone', () => {
    const text = sample('courier.yaml');
    const renamed = readMoveset(renameIn(text, machineIn('courier.yaml'), 'slideTime', 'null'));
    expect(renamed.diagnostics).toEqual([]);
    expect(renamed.machine!.timers[0]!.name).toBe('null');
  });
});

const renameIn = (text: string, machine: Machine, from: string, to: string): string => {
  const thing = declaredIn(machine).find(({ name }) => name === from)!;
  expect(newNameFault(machine, thing, to)).toBeUndefined();
  return rename(text, machine, thing.kind, from, to);
};

describe('a new name', () => {
  const machine = machineIn('courier.yaml');
  it.each([
    ['Trot', 'which is the name of something else already'],
    ['7up', 'expected a name: letters, digits and underscores'],
    ['toString', 'this one has a meaning of its own'],
  ])('%s is refused to a state, with a reason', (to, reason) => {
    expect(newNameFault(machine, { kind: 'state', name: 'Slide' }, to)).toContain(reason);
  });

  it('that is not refused leaves a moveset that loads, and one that is refused does not', () => {
    const words = ['grounded', 'within', 'deg', 'sqrt', 'gravity', 'axis', 'Fresh', 'null', 'hold'];
    const moveset = fc.constantFrom('courier.yaml', 'courier.yaml', 'marram.yaml', 'lock-keeper.yaml');
    fc.assert(
      fc.property(moveset, fc.nat(), fc.nat(), (file, one, other) => {
        const machine = machineIn(file);
        const things = declaredIn(machine);
        const names = [...words, ...things.map(({ name }) => name)];
        const [thing, to] = [things[one % things.length]!, names[other % names.length]!];
        fc.pre(thing.name !== to);
        const { diagnostics } = readMoveset(rename(sample(file), machine, thing.kind, thing.name, to));
        const isWrong = diagnostics.some(({ severity }) => severity === 'error');
        const fault = newNameFault(machine, thing, to);
        expect(fault !== undefined, `${file}: ${thing.kind} ${thing.name} as ${to}`).toBe(isWrong);
      }),
      { numRuns: 60, endOnFailure: true },
    );
  });

  it('is refused for what only a course declares', () => {
    expect(renamingFault('tag', 'moss')).toContain('is a tag of courses');
    expect(renamingFault('dial', 'gravity')).toContain('is a word of the format');
    expect(renamingFault('state', 'Slide')).toBeUndefined();
  });
});

describe('what is offered to somebody who writes', () => {
  it.each(['courier.yaml', 'marram.yaml', 'lock-keeper.yaml'])(
    'has every name of %s wherever it is used, once its first letter is there',
    (file) => {
      const { text, kind, source } = opened(file);
      const machine = machineIn(file);
      const used = occurrencesIn(source!, machine).filter(
        ({ use, kind, path }) =>
          use !== 'declared' && use !== 'key' && kind !== 'tag' && kind !== 'zone' && path[0] !== 'gameLog',
      );
      expect(used.length).toBeGreaterThan(20);
      for (const { name, start, kind: what } of used) {
        const written = text.slice(0, start + 1);
        const names = suggestionsAt({ text: written, kind }, machine, start + 1).map((s) => s.text);
        expect(
          names.some((each) => new RegExp(`\\b${name}\\b`).test(each)),
          `${what} ${name} in ${text.slice(text.lastIndexOf('\n', start) + 1, start + 1)}`,
        ).toBe(true);
      }
    },
  );

  /** What is offered at `^`. */
  const offered = (text: string, file = 'courier.yaml'): string[] =>
    suggestionsAt(
      { text: text.replace('^', ''), kind: file.includes('tape') ? 'tape' : 'moveset' },
      machineIn(file.replace('tape:', '')),
      text.indexOf('^'),
    ).map((s) => s.text);

  it('is the keys of the format, its values, the notation, the effects and the forms of expectations', () => {
    const lane = 'lanes:\n  - name: legs\n    ';
    expect(offered(`${lane}cr^`)).toEqual(['crossings: ']);
    expect(offered(`${lane}yields: [^`)).toEqual(['vx', 'vy', 'gravity', 'facing', 'stance']);
    expect(offered(`${lane}crossings:\n      - { from: Trot, re^`)).toEqual(['reenter: ']);
    expect(offered(`${lane}crossings:\n      - { from: Trot, reenter: ^`)).toEqual(['true', 'false']);
    expect(offered(`${lane}crossings:\n      - { from: Trot, when: pressed(^`)).toEqual([
      'gust',
      'hop',
      'tuck',
    ]);
    expect(offered(`${lane}crossings:\n      - { do: [start ^`)).toEqual(['slideTime']);
    expect(offered(`${lane}crossings:\n      - { do: [spend ^`)).toEqual(['gusts', 'hopsLeft']);
    expect(offered(`${lane}crossings:\n      - { do: [face ^`)).toEqual([
      'move',
      'left',
      'right',
      'turn',
      'away',
    ]);
    expect(offered(`${lane}crossings:\n      - { do: ["vy := hopSp^`)).toEqual(['hopSpeed']);
    // In a guard what holds or not comes first; behind a comparison any number may.
    expect(offered(`${lane}crossings:\n      - { from: Trot, when: held(hop) and gr^`)[0]).toBe('grounded');
    expect(offered(`${lane}crossings:\n      - { from: Trot, when: vy > gr^`)[0]).toBe('gravity');
    expect(offered('expect:\n  - p^', 'tape:courier.yaml')).toEqual(['peak ']);
    expect(offered('expect:\n  - never in Sli^', 'tape:courier.yaml')).toEqual(['Slide']);
    expect(offered('inputs:\n  ^', 'tape:courier.yaml')).toEqual(['move: ', 'hop: ', 'tuck: ', 'gust: ']);
    expect(offered('# lanes: ^')).toEqual([]);
  });
});

describe('help', () => {
  it.each(['courier.yaml', 'lock-keeper.yaml', 'mechanics/odds-and-ends.yaml'])(
    'is there for every name of %s, and says what kind of thing it is',
    (file) => {
      const document = opened(file);
      const all = occurrencesIn(document.source!, document.moveset!.machine);
      const seen = new Set<string>();
      for (const each of all) {
        if (seen.has(each.kind + each.name)) continue;
        seen.add(each.kind + each.name);
        const help = helpAt(document, known(file), each, each.start)!;
        expect(help.title.startsWith(`${each.name}: `)).toBe(true);
        expect(document.text.slice(help.start, help.end)).toBe(each.name);
      }
    },
  );

  const at = (text: string, into = 1) => {
    const document = opened('courier.yaml');
    const offset = document.text.indexOf(text) + into;
    const name = occurrenceAt(occurrencesIn(document.source!, document.moveset!.machine), offset);
    return helpAt(document, known('courier.yaml'), name, offset);
  };

  it('tells the figures of a state, the worth of a dial, what a fact means and what a key is for', () => {
    expect(at('Trot:')).toMatchObject({
      title: 'Trot: a state of legs',
      lines: [
        'on the ground',
        'Nothing found.',
        expect.stringMatching(/^Held, the axis gives 6\.2 m\/s in 0\.12 s; let go, it stops in 0\.08 s/),
      ],
    });
    expect(at('trotSpeed:')).toMatchObject({
      title: 'trotSpeed: a dial, a speed, in m/s',
      lines: ['6.2 m/s', 'from 2 m/s to 12 m/s', 'yard pace'],
    });
    expect(at('grounded }')!.title).toBe('grounded: a truth value');
    expect(at('yields:')!.lines[0]).toContain('channels that this lane leaves to others');
    expect(at('# follows the height', 3)).toBeUndefined();
  });
});

describe('the outline', () => {
  it.each(MOVESETS)('of %s has all that it declares', (file) => {
    const { source, kind, moveset } = opened(file);
    const flat = (entries: ReturnType<typeof outlineOf>): string[] =>
      entries.flatMap((entry) => [entry.name, ...flat(entry.entries)]);
    const names = flat(outlineOf(source!, kind!));
    const declared = declaredIn(moveset!.machine).map(({ name }) => name);
    const settings = moveset!.machine.settings.map(({ name }) => name);
    expect([...names].sort()).toEqual([...declared, ...settings].sort());
  });
});

describe('folds', () => {
  it.each(ALL)('of %s lie in each other or apart', (file) => {
    const folds = foldsOf(sample(file)).filter(({ isComment }) => !isComment);
    for (const a of folds)
      for (const b of folds)
        if (a !== b && a.first <= b.first && b.first <= a.last) expect(b.last).toBeLessThanOrEqual(a.last);
  });

  it('take comments over several lines together', () => {
    expect(foldsOf('# a\n# b\nx:\n  y: 1\n\n  z: 2\n')).toEqual([
      { first: 0, last: 1, isComment: true },
      { first: 2, last: 5, isComment: false },
    ]);
  });
});

describe('formatting', () => {
  const machineAt = (file: string): Machine | undefined => opened(file).moveset?.machine;

  it.each([...ALL, ...MOVESETS])('leaves %s as it is: the samples are formatted', (file) => {
    expect(formatted(sample(file), machineAt(file))).toBe(sample(file));
  });

  it.each(ALL)('of %s, however it was laid out, is done once and changes nothing that it means', (file) => {
    const value: unknown = parse(sample(file));
    fc.assert(
      fc.property(
        fc.record({
          indent: fc.integer({ min: 1, max: 7 }),
          indentSeq: fc.boolean(),
          lineWidth: fc.constantFrom(0, 40),
          defaultStringType: fc.constantFrom('PLAIN' as const, 'QUOTE_DOUBLE' as const),
          end: fc.constantFrom('\n', '\r\n'),
        }),
        ({ end, ...how }) => {
          const text = stringify(value, how).replaceAll('\n', end);
          const once = formatted(text, machineAt(file));
          expect(parse(once)).toEqual(value);
          expect(formatted(once, machineAt(file))).toBe(once);
        },
      ),
      { numRuns: 5, endOnFailure: true },
    );
  });

  it('prints the notation in its canonical form, and leaves what is broken alone', () => {
    const text = sample('courier.yaml').replace('speed > 3 m/s', '( speed>3   m/s )');
    expect(formatted(text, machineOf(text))).toBe(sample('courier.yaml'));
    expect(formatted('a: [', undefined)).toBe('a: [');
  });
});

describe('an edit', () => {
  it.each(MOVESETS)('of %s leaves every other line as it was', (file) => {
    const text = sample(file);
    const before = text.split('\n');
    const lanes = (parse(text) as { lanes: { states: Record<string, unknown> }[] }).lanes;
    const changes: Change[] = lanes.flatMap(({ states }, lane) =>
      Object.keys(states)
        .slice(0, 1)
        .map((state) => ({ path: ['lanes', lane, 'states', state, 'note'], value: 'seen' })),
    );
    for (const change of changes) {
      const after = edit(text, [change]).split('\n');
      const kept = new Set(after);
      // The state that has the note may have stood on one line.
      expect(before.filter((line) => !kept.has(line)).length).toBeLessThanOrEqual(1);
      expect(after.length - before.length).toBeLessThanOrEqual(1);
    }
  });
});

describe('a document that is half written', () => {
  it('is looked at without a fall, wherever it ends and whatever was struck out', () => {
    const texts = ['courier.yaml', 'mill-yard.yaml', 'culvert-slide.yaml'].map(sample);
    const machine = machineIn('courier.yaml');
    fc.assert(
      fc.property(
        fc.constantFrom(...texts),
        fc.nat(),
        fc.nat({ max: 30 }),
        fc.constantFrom('', '{', '"', ': ', '\n  ', '- ', '#', '['),
        (text, at, length, put) => {
          const from = at % text.length;
          const broken = text.slice(0, from) + put + text.slice(from + length);
          const before = openDocument(text);
          const document = openDocument(broken, before);
          expect(document.kind).toBeDefined();
          suggestionsAt(document, document.known ?? machine, from + put.length);
          helpAt(document, undefined, undefined, from);
          foldsOf(broken);
          if (document.source !== undefined) outlineOf(document.source, document.kind!);
          const again = formatted(broken, undefined);
          if (parseSource(broken).source !== undefined) expect(parse(again)).toEqual(parse(broken));
        },
      ),
      { numRuns: 150, endOnFailure: true },
    );
  });

  it('keeps the names that it had', () => {
    const before = opened('courier.yaml');
    const broken = openDocument('kind: moveset\nlanes: [', before);
    expect(broken.moveset).toBeUndefined();
    expect(broken.known).toBe(before.known);
    expect(openDocument('nothing of ours', undefined)).toMatchObject({ kind: undefined, known: undefined });
  });
});
