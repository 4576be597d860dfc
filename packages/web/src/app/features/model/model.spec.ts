import { proveAll, structuralFindings } from '@glenmark/core/findings';
import { type Machine, readMoveset } from '@glenmark/core/machine';
import { edit } from '@glenmark/core/model';
import {
  addCrossing,
  addState,
  duplicateState,
  plain,
  removeState,
  setEffects,
} from '../../shared/document/edits';
import { buildGrid } from './grid-data';
import { addableFields, motionFields } from './motion-fields';
import { shortText } from './short-guard';

const TEXT = `glenmark: 1
kind: moveset
name: Small
controls:
  hop: { button: [Space] }
body:
  stances:
    upright: { shape: box, width: 1 m, height: 2 m }
lanes:
  - name: legs
    initial: A
    states:
      A: { motion: { drive: { to: 2 m/s, gain: 2 * 5 m/s2 } } }
      G:
        initial: B
        states:
          B: {}
          C: {}
    crossings:
      - { from: A, to: G, when: pressed(hop), rank: 2 } # the way in
      - { from: [A, G], to: C, when: grounded and airborne }
      - { from: G, to: A, when: not held(hop) }
`;

function load(text: string): Machine {
  const { machine, diagnostics } = readMoveset(text);
  expect(diagnostics).toEqual([]);
  return machine!;
}

describe('the grid', () => {
  const machine = load(TEXT);
  const grid = buildGrid(machine, 0, structuralFindings(machine));

  it('has a row and a column for every state and group, in file order', () => {
    expect(grid.heads.map((h) => h.name)).toEqual(['A', 'G', 'B', 'C']);
    expect(grid.rows.map((r) => r.name)).toEqual(['A', 'G', 'B', 'C']);
    expect(grid.rows.map((r) => r.depth)).toEqual([0, 0, 1, 1]);
  });

  it('shows a crossing from a list in each of its rows, and a guard that can never hold as such', () => {
    const cell = (from: string, to: string) =>
      grid.rows.find((r) => r.name === from)!.cells.find((c) => c.to === to)!;
    expect(cell('A', 'G').chips).toMatchObject([{ text: 'hop', rank: 2, never: false }]);
    expect(cell('A', 'C').chips).toMatchObject([{ text: 'ground · aloft', never: true }]);
    expect(cell('G', 'C').chips).toHaveLength(1);
    expect(cell('B', 'C').chips).toEqual([]);
    expect(cell('B', 'B').self).toBe(true);
  });

  it('joins what ties in a row, from the first column to the last', () => {
    const text = TEXT.replace('when: grounded and airborne', 'when: pressed(hop), rank: 2');
    const tied = load(text);
    const { rows } = buildGrid(tied, 0, proveAll(tied).findings);
    const joined = rows.map((row) => row.cells.filter((c) => c.joined).map((c) => c.to));
    expect(joined).toEqual([['G', 'B', 'C'], [], [], []]);
    expect(rows[0]!.cells.map((c) => c.chips.map((chip) => chip.tie))).toEqual([[], [true], [], [true]]);
    expect(grid.rows.flatMap((row) => row.cells).some((c) => c.joined)).toBe(false);
  });

  it('shows a crossing that always loses as one that can never be taken', () => {
    const text = TEXT.replace('when: grounded and airborne', 'when: pressed(hop) and vx > 0, rank: 1');
    const shadowed = load(text);
    const rows = buildGrid(shadowed, 0, structuralFindings(shadowed)).rows;
    const cell = rows.find((r) => r.name === 'A')!.cells.find((c) => c.to === 'C')!;
    // From A it loses to the way in; from the group it may still be taken.
    expect(cell.chips).toMatchObject([{ never: false }]);
    const alone = load(text.replace('from: [A, G], to: C', 'from: A, to: C'));
    const chip = buildGrid(alone, 0, structuralFindings(alone))
      .rows.find((r) => r.name === 'A')!
      .cells.find((c) => c.to === 'C')!.chips[0];
    expect(chip).toMatchObject({ never: true });
  });

  it('counts ways through groups, and marks what nobody can enter', () => {
    expect(grid.rows.map((r) => r.waysOut)).toEqual([2, 2, 2, 1]);
    expect(grid.heads.find((h) => h.name === 'C')).toMatchObject({ closed: true });
    expect(grid.heads.find((h) => h.name === 'A')).toMatchObject({ start: true, closed: false });
  });
});

describe('edits', () => {
  it('add a crossing, and a state', () => {
    const { machine, file } = readMoveset(TEXT);
    const after = edit(TEXT, addCrossing(machine!, file!, 0, { from: 'B', to: 'A', when: 'held(hop)' }));
    expect(after).toContain('- { from: B, to: A, when: held(hop) }');
    expect(load(edit(after, addState(machine!, 0, 'D'))).states.map((s) => s.name)).toEqual([
      'A',
      'G',
      'B',
      'C',
      'D',
    ]);
  });

  it('remove a state with the crossings that need it, and keep the rest', () => {
    const machine = load(TEXT);
    const after = load(edit(TEXT, removeState(machine, machine.states.find((s) => s.name === 'C')!.index)));
    expect(after.lanes[0]!.crossings).toHaveLength(2);
    expect(after.states.map((s) => s.name)).toEqual(['A', 'G', 'B']);
  });

  it('write effects from one line, and nothing from an empty one', () => {
    expect(setEffects(['x'], ' vy := 3 m/s ;; spend n ')).toEqual([
      { path: ['x'], value: ['vy := 3 m/s', 'spend n'] },
    ]);
    expect(setEffects(['x'], ' ')).toEqual([{ path: ['x'], value: undefined }]);
    expect([plain('1.5'), plain('true'), plain('1 m')]).toEqual([1.5, true, '1 m']);
  });
});

describe('the sheet', () => {
  it('lists the motion a state sets, with what an expression comes to', () => {
    const { machine, file } = readMoveset(TEXT);
    const fields = motionFields(machine!, machine!.states[0]!, file!.lanes[0]!.states['A']!.motion);
    expect(fields.map((f) => [f.label, f.text, f.hint])).toEqual([
      ['drive to', '2 m/s', ''],
      ['gain', '2 * 5 m/s2', '10 m/s2'],
    ]);
  });

  it('offers only fields that load when they are added', () => {
    const { machine, file } = readMoveset(TEXT);
    const state = machine!.states[0]!;
    const offered = addableFields(file!.lanes[0]!.states['A']!.motion);
    expect(offered.length).toBeGreaterThan(5);
    for (const field of offered)
      load(edit(TEXT, [{ path: [...state.path, 'motion', ...field.steps], value: field.value }]));
  });
});

describe('guards in a few words', () => {
  it.each([
    ['pressed(tuck) and speed > 3 m/s', 'tuck · speed > 3 m/s'],
    ['done(slideTime) or not held(tuck)', 'slideTime up / no tuck'],
    ['not grounded for 0.08 s', 'no ground'],
    ['elapsed >= 0.18 s', '0.18 s'],
    ['vy <= 0 m/s', 'vy ≤ 0 m/s'],
    ['pressed(hop) within 0.1 s and not fits(upright)', 'hop · no room'],
    ['held(grip) and catches(winch)', 'hold grip · winch catches'],
    ['not inside(water) and probe(brow)', 'no inside water · brow'],
    ['a b', 'a b'],
  ])('%s', (guard, short) => {
    expect(shortText(guard)).toBe(short);
  });
});

describe('a duplicated state', () => {
  it('has the ways out of the first, and loads', () => {
    const { machine, file } = readMoveset(TWO);
    const text = edit(TWO, duplicateState(machine!, file!, 0, 'Third'));
    const after = readMoveset(text).machine!;
    expect(after.states.map((s) => s.name)).toEqual(['First', 'Second', 'Third']);
    const ways = after.lanes[0]!.crossings.map((c) => [c.from, c.to]);
    expect(ways).toEqual([
      [[0], 1],
      [[1], 0],
      [[2], 1],
    ]);
  });
});

const TWO = `glenmark: 1
kind: moveset
name: Two
body: { stances: { upright: { shape: box, width: 1 m, height: 2 m } } }
lanes:
  - name: legs
    initial: First
    states: { First: { home: true }, Second: {} }
    crossings:
      - { from: First, to: Second, when: airborne }
      - { from: Second, to: First, when: grounded }
`;
