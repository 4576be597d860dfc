import fc from 'fast-check';
import { readMoveset } from '@glenmark/core/machine';
import { buildGrid } from './grid-data';
import { cellsBetween, gridView, membersOf, placesMoved } from './grid-view';

const TEXT = `glenmark: 1
kind: moveset
name: Small
controls: { hop: { button: [Space] } }
body: { stances: { upright: { shape: box, width: 1 m, height: 2 m } } }
lanes:
  - name: legs
    initial: Stand
    states:
      Stand: {}
      Air:
        initial: Up
        states:
          Up: {}
          High: { initial: Glide, states: { Glide: {}, Flap: {} } }
      Crouch: {}
    crossings:
      - { from: Stand, to: Air, when: pressed(hop) }
      - { from: [Up, Glide], to: Crouch, when: grounded }
      - { from: Air, to: Stand, when: grounded and held(hop) }
      - { from: Crouch, to: Flap, when: pressed(hop) }
      - { from: "*", to: Stand, when: crushed }
`;
const machine = readMoveset(TEXT).machine!;
const whole = buildGrid(machine, 0, []);
const none = { filter: '', folded: new Set<string>() };
const chipsOf = (grid: typeof whole): number[] =>
  [...new Set(grid.rows.flatMap((r) => r.cells.flatMap((c) => c.chips.map((chip) => chip.index))))].sort();

describe('a row that is dragged', () => {
  it('goes past its siblings only, as far as it was dragged past them', () => {
    const rows = ['*', 'Stand', 'Air', 'Up', 'High', 'Glide', 'Flap', 'Crouch'];
    const top = (name: string): boolean => ['Stand', 'Air', 'Crouch'].includes(name);
    expect(placesMoved(rows, rows, 'Crouch', 1, top)).toBe(-2);
    expect(placesMoved(rows, rows, 'Crouch', 4, top)).toBe(0);
    expect(placesMoved(rows, rows, 'Stand', 7, top)).toBe(2);
    expect(placesMoved(rows, rows, 'Up', 0, (name) => name === 'Up' || name === 'High')).toBe(0);
    // Past those that a filter hides, too.
    expect(placesMoved(['*', 'Stand', 'Crouch'], rows, 'Crouch', 1, top)).toBe(-2);
    expect(placesMoved(['*', 'Stand', 'Crouch'], rows, 'Stand', 2, top)).toBe(2);
  });
});

describe('what of a grid is shown', () => {
  it('is all of it, unless something is folded or sought', () => {
    expect(gridView(whole, none)).toEqual(whole);
    expect(membersOf(whole.heads)).toEqual(
      new Map([
        ['Air', ['Up', 'High', 'Glide', 'Flap']],
        ['High', ['Glide', 'Flap']],
      ]),
    );
  });

  it('no crossing is lost by folding: the group shows it, once', () => {
    fc.assert(
      fc.property(fc.subarray(['Air', 'High']), (folded) => {
        const grid = gridView(whole, { filter: '', folded: new Set(folded) });
        expect(chipsOf(grid)).toEqual(chipsOf(whole));
        for (const cell of grid.rows.flatMap((r) => r.cells))
          expect(new Set(cell.chips.map((c) => c.index)).size).toBe(cell.chips.length);
        expect(grid.rows.every((r) => r.cells.length === grid.heads.length)).toBe(true);
      }),
    );
    const folded = gridView(whole, { filter: '', folded: new Set(['Air']) });
    expect(folded.heads.map((h) => h.name)).toEqual(['Stand', 'Air', 'Crouch']);
    const cell = folded.rows.find((r) => r.name === 'Air')!.cells.find((c) => c.to === 'Crouch')!;
    expect(cell.chips.map((c) => c.index)).toEqual([1]);
  });

  it('what is sought stays, with the groups that it lies in and everywhere; all when nothing is like it', () => {
    const names = (filter: string): string[] => gridView(whole, { ...none, filter }).rows.map((r) => r.name);
    expect(names('glide')).toEqual(['Air', 'High', 'Glide', '*']);
    expect(names('stand crouch')).toEqual(['Stand', 'Crouch', '*']);
    expect(names('zzz')).toEqual(whole.rows.map((r) => r.name));
  });

  it('a rectangle has all its cells, from whichever corner', () => {
    const cell = fc.record({
      from: fc.constantFrom(...whole.rows.map((r) => r.name)),
      to: fc.constantFrom(...whole.heads.map((h) => h.name)),
    });
    fc.assert(
      fc.property(cell, cell, (a, b) => {
        const cells = cellsBetween(whole, a, b);
        expect(cells).toEqual(cellsBetween(whole, { from: b.from, to: a.to }, { from: a.from, to: b.to }));
        for (const corner of [a, b])
          expect(cells.some((c) => c.from === corner.from && c.to === corner.to)).toBe(true);
        const rows = new Set(cells.map((c) => c.from)).size;
        expect(cells).toHaveLength(rows * new Set(cells.map((c) => c.to)).size);
      }),
    );
  });
});
