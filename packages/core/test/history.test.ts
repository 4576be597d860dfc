import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { differencesBetween, replayOn, takenBack, wordsOf } from '@glenmark/core/history';
import { readMoveset, rename } from '@glenmark/core/machine';
import { arranged, edit, type MovesetFile } from '@glenmark/core/model';
import { readTape } from '@glenmark/core/run';
import { readCourse } from '@glenmark/core/world';
import { sample } from './helpers.js';
import { randomCase } from './random-moveset.js';

const SAMPLES = ['marram.yaml', 'courier.yaml', 'signal-kite.yaml', 'lock-keeper.yaml'];
const fileOf = (text: string): MovesetFile => readMoveset(text).file!;
const told = (before: string, after: string): string[] =>
  differencesBetween(fileOf(before), fileOf(after)).list.flatMap(wordsOf);

const courier = sample('courier.yaml');
const own = readMoveset(courier);
const states = own.machine!.states.filter((s) => s.members.length === 0);

describe('what changed, in words', () => {
  it.each(SAMPLES)('is nothing between %s and itself, however its text is laid out', (name) => {
    const text = sample(name);
    expect(told(text, text)).toEqual([]);
    expect(told(text, JSON.stringify(fileOf(text)))).toEqual([]);
  });

  it('is a value by its field', () => {
    expect(told(courier, edit(courier, [{ path: ['gravity'], value: '20 m/s2' }]))).toEqual([
      `gravity: ${own.file!.gravity} → 20 m/s2`,
    ]);
    const dial = own.machine!.dials[0]!;
    const path = typeof own.file!.dials![dial.name] === 'object' ? [...dial.path, 'value'] : dial.path;
    const [line, ...others] = told(courier, edit(courier, [{ path, value: '99 m/s' }]));
    expect(line).toMatch(new RegExp(`^dial ${dial.name}: .* → 99 m/s$`));
    expect(others).toEqual([]);
    expect(told(courier, edit(courier, [{ path: ['integration'], value: 'explicit' }]))).toEqual([
      'integration: left out → explicit',
    ]);
  });

  it('is the new name alone, for every state that is renamed everywhere', () => {
    for (const { name, lane } of states) {
      const after = rename(courier, own.machine!, 'state', name, 'Otherwise');
      expect(told(courier, after)).toEqual([
        `state ${name} in ${own.machine!.lanes[lane]!.name} is now called Otherwise`,
      ]);
    }
  });

  it('tells a crossing that came, one that went, and the other way about', () => {
    const crossings = own.file!.lanes[0]!.crossings!;
    crossings.forEach((_, i) => {
      const without = edit(courier, [{ path: ['lanes', 0, 'crossings', i], value: undefined }]);
      const [gone, came] = [told(courier, without), told(without, courier)];
      expect(gone[0]).toMatch(/^crossing .* → .* in \w+ is gone/);
      expect(came[0]).toMatch(/^new crossing .* → .* in \w+/);
      expect([gone.length, came.length]).toEqual([1, 1]);
    });
  });

  it('tells a crossing that leads elsewhere now as the same one', () => {
    const { to } = own.file!.lanes[0]!.crossings![0]!;
    const other = states.find((s) => s.name !== to && s.lane === 0)!.name;
    const after = edit(courier, [{ path: ['lanes', 0, 'crossings', 0, 'to'], value: other }]);
    expect(told(courier, after)).toEqual([
      expect.stringMatching(new RegExp(`^crossing .* → ${other} in \\w+, to: ${to} → ${other}$`)),
    ]);
  });

  it('tells that two crossings out of a state changed places, which decides between equals', () => {
    const text = (first: string, second: string): string => `glenmark: 1
kind: moveset
name: Order
controls: { hop: { button: [Space] } }
body: { stances: { tall: { shape: capsule, width: 0.7 m, height: 1.7 m } } }
lanes:
  - name: legs
    initial: A
    states: { A: {}, B: {}, C: {} }
    crossings:
      - { from: A, to: ${first}, when: pressed(hop) }
      - { from: "*", to: A, when: elapsed > 1 s }
      - { from: A, to: ${second}, when: pressed(hop) }
`;
    expect(told(text('B', 'C'), text('C', 'B'))).toEqual([
      'state A in legs, order of its crossings to: B, C → C, B',
    ]);
  });

  it('is never nothing when something was changed, and what comes one way goes the other', () => {
    fc.assert(
      fc.property(randomCase, randomCase, ({ moveset: a }, { moveset: b }) => {
        const [one, other] = [readMoveset(a).file, readMoveset(b).file];
        fc.pre(one !== undefined && other !== undefined);
        const there = differencesBetween(one!, other!).list;
        const back = differencesBetween(other!, one!).list;
        expect(there.length > 0).toBe(JSON.stringify(one) !== JSON.stringify(other));
        const named = (list: typeof there, what: string): string[] =>
          list
            .filter((d) => d.what === what && d.kind !== 'crossing')
            .map((d) => `${d.kind} ${d.name}`)
            .sort();
        expect(named(there, 'new')).toEqual(named(back, 'gone'));
      }),
      { numRuns: 60, endOnFailure: true },
    );
  });
});

describe('what changed in behaviour', () => {
  const tape = readTape(sample('yard-crossing.yaml')).tape!;
  const course = readCourse(sample('mill-yard.yaml')).course!;
  const replayed = (after: string) => {
    const later = readMoveset(after);
    const { renames } = differencesBetween(own.file!, later.file!);
    return replayOn(own.machine!, later.machine!, { tape, course }, renames);
  };

  it('is nothing between a moveset and itself, or one where every state has another name', () => {
    expect(replayed(courier)).toMatchObject({ outcome: 'same', parting: undefined, expectations: [] });
    for (const { name } of states) {
      const renamed = rename(courier, own.machine!, 'state', name, 'Otherwise');
      expect(replayed(renamed).parting).toBeUndefined();
    }
  });

  it('is nothing when a state that nothing leads to comes first', () => {
    const path = ['lanes', 0, 'states'];
    const { states: before } = own.file!.lanes[0]!;
    const after = edit(courier, [{ path, value: { Nowhere: {}, ...before } }]);
    expect(replayed(after)).toMatchObject({ outcome: 'same' });
  });

  it('is told at the first tick, with the states there and what differs', () => {
    const { outcome, parting } = replayed(edit(courier, [{ path: ['gravity'], value: '5 m/s2' }]));
    expect(outcome).toBe('other');
    expect(parting!.states).toHaveLength(own.machine!.lanes.length);
    expect(parting!.what.join()).toMatch(/v?y: /);
  });

  it('is told as expectations that are met no more', () => {
    const after = edit(courier, [{ path: ['gravity'], value: '400 m/s2' }]);
    const { expectations } = replayed(after);
    expect(expectations.length).toBeGreaterThan(0);
    expect(expectations.every((e) => !e.isMet)).toBe(true);
  });

  it('is told as a tape that can be played no more, and why', () => {
    const [control] = own.machine!.controls;
    const after = courier.replace(new RegExp(`\\b${control!.name}\\b`, 'g'), 'elsewhere');
    const { outcome, wrong } = replayed(after);
    expect(outcome).toBe('unplayable');
    expect(wrong.before).toEqual([]);
    expect(wrong.after.join()).toContain(control!.name);
  });

  it('at another tick rate is told by what is apart for more than a tick', () => {
    const after = edit(courier, [
      { path: ['tickRate'], value: 120 },
      { path: ['gravity'], value: '5 m/s2' },
    ]);
    const { outcome, parting } = replayed(after);
    expect(outcome).toBe('other');
    expect(parting!.what.join()).toMatch(/ m apart|: \w+ and \w+/);
  });
});

describe('a difference that is taken back', () => {
  const sampleLanes = readMoveset(sample('marram.yaml')).file!.lanes;
  const valueAt = (file: unknown, path: readonly (string | number)[]): unknown =>
    path.reduce((at, step) => (at as Record<string | number, unknown>)[step], file);
  /** What is left to tell once the first difference is taken back. */
  const taken = (before: string, after: string): string[] => {
    const { file, machine } = readMoveset(after);
    const { list, old } = differencesBetween(fileOf(before), file!);
    return told(before, takenBack(list[0]!, old, { text: after, file: file!, machine: machine! })!);
  };
  const back = (after: string, which: number): string | undefined => {
    const { file, machine } = readMoveset(after);
    const { list, old } = differencesBetween(own.file!, file!);
    return takenBack(list[which]!, old, { text: after, file: file!, machine: machine! });
  };

  it('leaves nothing of it, whatever was edited', () => {
    const crossings = own.file!.lanes[0]!.crossings!;
    const [state] = states.filter((s) => s.lane === 0);
    const edits: string[] = [
      edit(courier, [{ path: ['gravity'], value: '20 m/s2' }]),
      edit(courier, [{ path: ['integration'], value: 'explicit' }]),
      edit(courier, [{ path: [...state!.path, 'motion', 'drag'], value: '1 1/s' }]),
      edit(courier, [{ path: ['variables', 'idle'], value: { flag: false } }]),
      ...own.machine!.dials.map(({ path }) => edit(courier, [{ path, value: '3 m/s' }])),
      ...states.map(({ name }) => rename(courier, own.machine!, 'state', name, 'Otherwise')),
      ...crossings.map((_, i) => edit(courier, [{ path: ['lanes', 0, 'crossings', i] }])),
      ...crossings.map((_, i) =>
        edit(courier, [{ path: ['lanes', 0, 'crossings', i, 'when'], value: 'grounded' }]),
      ),
    ].filter((text) => readMoveset(text).machine !== undefined && told(courier, text).length > 0);
    expect(edits.length).toBeGreaterThan(20);
    for (const text of edits) expect(told(courier, back(text, 0)!)).toEqual([]);
  });

  it('leaves the order of lanes, and of crossings out of a state, as it was, and every comment', () => {
    const after = courier.replace(/^lanes:$/m, '# a remark on lanes\nlanes:');
    const { file } = readMoveset(after);
    const count = file!.lanes[0]!.crossings!.length;
    const reversed = Array.from({ length: count }, (_, i) => count - 1 - i);
    const otherwise = [
      arranged(after, ['lanes', 0, 'crossings'], reversed),
      arranged(sample('marram.yaml'), ['lanes'], [...sampleLanes.keys()].reverse()),
    ];
    const [crossings, lanes] = otherwise as [string, string];
    // All of them, one after the other: each is taken back by itself.
    let text = crossings;
    for (let left = told(courier, text).length; left > 0; left--) text = back(text, 0)!;
    expect(told(courier, text)).toEqual([]);
    expect(text).toContain('# a remark on lanes');
    expect(taken(sample('marram.yaml'), lanes)).toEqual([]);
  });

  it('leaves a state in the group that it was in, unless that is gone', () => {
    const marram = sample('marram.yaml');
    const groups = readMoveset(marram).machine!.states.filter((s) => s.members.length > 0);
    let tried = 0;
    for (const { path, members } of groups) {
      const { states: all } = readMoveset(marram).machine!;
      for (const member of members.slice(1)) {
        const { name, path: from } = all[member]!;
        const value = valueAt(readMoveset(marram).file!, from);
        const after = edit(marram, [{ path: from }, { path: [...path.slice(0, -1), name], value }]);
        if (readMoveset(after).machine === undefined) continue;
        expect(told(marram, after).join()).toContain('group');
        expect(taken(marram, after)).toEqual([]);
        tried++;
      }
    }
    expect(tried).toBeGreaterThan(0);
  });

  it('leaves all others as they are', () => {
    const after = edit(courier, [
      { path: ['gravity'], value: '20 m/s2' },
      { path: ['variables', 'idle'], value: { flag: false } },
      { path: ['lanes', 0, 'crossings', 0, 'rank'], value: 7 },
    ]);
    const all = told(courier, after);
    expect(all).toHaveLength(3);
    for (const which of [0, 1, 2])
      expect(told(courier, back(after, which)!)).toEqual(all.filter((_, i) => i !== which));
  });
});
