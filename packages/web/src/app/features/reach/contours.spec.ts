import { CELL, type Raster } from '@glenmark/core/reach';
import { contoursOf } from './contours';

const RATE = 10;

/** A raster of three columns and two rows from (0, 0), by the ticks of its cells, column by column from below. */
const raster = (...ticks: number[]): Raster => ({
  left: 0,
  bottom: 0,
  columns: 3,
  rows: 2,
  ticks: Int32Array.from(ticks),
  states: new Int16Array(ticks.length),
});

describe('lines of equal time', () => {
  it('run between cells of different seconds, and are none within a second or toward what was not reached', () => {
    expect(contoursOf(raster(0, 1, 5, 9, -1, -1), RATE)).toEqual([]);
    expect(contoursOf(raster(0, 12, 5, 13, -1, -1), RATE)).toEqual([
      {
        seconds: 1,
        pieces: [
          { from: [0, CELL], to: [CELL, CELL] },
          { from: [CELL, CELL], to: [2 * CELL, CELL] },
        ],
      },
    ]);
  });

  it('lie upon each other where a second is skipped', () => {
    const lines = contoursOf(raster(0, 0, 35, 35, 35, 35), RATE);
    expect(lines.map((l) => l.seconds)).toEqual([1, 2, 3]);
    for (const { pieces } of lines)
      expect(pieces).toEqual([
        { from: [CELL, 0], to: [CELL, CELL] },
        { from: [CELL, CELL], to: [CELL, 2 * CELL] },
      ]);
  });
});
