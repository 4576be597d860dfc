import { logRows } from './log-rows';

describe('the columns of a log', () => {
  const column = { name: 'px', unit: 'm', within: 0.01, first: undefined, most: undefined, count: 0 };

  it('come by the tick in which they part, and then those that do not in the order of the log', () => {
    const parting = (tick: number) => ({ tick, game: '1', model: '2' });
    const rows = logRows([
      { ...column, is: 'y' },
      { ...column, is: 'vx', first: parting(9) },
      { ...column, is: 'facing' },
      { ...column, is: 'x', first: parting(4) },
    ]);
    expect(rows.map((r) => r.name)).toEqual(['x', 'vx', 'y', 'facing']);
    expect(rows.map((r) => r.parts?.tick)).toEqual([4, 9, undefined, undefined]);
  });

  it('say the game’s name where it is another, and how far they are off', () => {
    const rows = logRows([
      { ...column, is: 'x', most: { tick: 3, off: 0.004321 } },
      { ...column, is: 'px', most: { tick: 3, off: 1e-9 } },
      { ...column, is: 'facing', unit: '', within: 0, most: { tick: 3, off: 2 } },
      { ...column, is: 'state:legs', within: undefined },
    ]);
    expect(rows.map((r) => [r.theirs, r.off])).toEqual([
      ['px', 'at most 0.00432 m off, allowed 0.01 m'],
      ['', ''],
      ['px', 'off by 2'],
      ['px', ''],
    ]);
  });
});
