import type { TapeEntry } from '../../data/library';
import type { WallTape } from '../../data/wall';
import { wallRows } from './wall-rows';

const entry = (id: string): TapeEntry => ({ tape: { id, name: `Tape ${id}` } }) as unknown as TapeEntry;
const met = { passed: true, tick: 3, seen: undefined };
const missed = { passed: false, tick: 12, seen: '1.9 m' };
const WALL: WallTape[] = [
  {
    expectations: [
      { text: 'a', at: [met, missed] },
      { text: 'b', at: [met, undefined] },
    ],
    wrong: [undefined, undefined],
  },
  { expectations: [], wrong: [undefined, undefined] },
  { expectations: [{ text: 'c', at: [undefined, met] }], wrong: ['no control gust', undefined] },
];

describe('the rows of the wall', () => {
  const rows = wallRows([entry('one'), entry('two'), entry('three')], WALL, [30, 60]);

  it('are one for each expectation, the name of the tape on its first', () => {
    expect(rows.map(({ id, tape, text }) => [id, tape, text])).toEqual([
      ['one', 'Tape one', 'a'],
      ['one', '', 'b'],
      ['three', 'Tape three', 'c'],
    ]);
  });

  it('say what is met, the tick of what is missed, and why it was not played', () => {
    const [[first, second], [, unplayed], [wrong]] = rows.map((row) => row.cells) as [
      [{ word: string }, object],
      [object, object],
      [object],
    ];
    expect(first.word).toBe('✓');
    expect(second).toEqual({
      word: '✕ 12',
      says: 'missed at 60, at tick 12: 1.9 m',
      isMissed: true,
      tick: 12,
    });
    expect(unplayed).toMatchObject({ word: '–', isMissed: false });
    expect(wrong).toMatchObject({ word: '–', says: 'no control gust', isMissed: true });
  });
});
