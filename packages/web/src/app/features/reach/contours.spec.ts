import { CELL, type Raster } from '@glenmark/core/reach';
import { contoursOf } from './contours';

const RATE = 10;

/** A raster of one row from (0, 0), by the ticks of its cells. */
const raster = (...ticks: number[]): Raster => ({
  left: 0,
  bottom: 0,
  columns: ticks.length,
  rows: 1,
  ticks: Int32Array.from(ticks),
  states: new Int16Array(ticks.length),
});

/** At which columns each line stands. */
const linesOf = (...ticks: number[]): [number, number[]][] =>
  contoursOf(raster(...ticks), RATE).map(({ seconds, pieces }) => [
    seconds,
    pieces.map(({ from, to }) => {
      expect([from[1], to]).toEqual([0, [from[0], CELL]]);
      return from[0] / CELL;
    }),
  ]);

describe('lines of equal time', () => {
  it('are none within a second, nor toward what was not reached', () => {
    expect(linesOf(0, 1, 5, 9, 9, 3, -1, -1)).toEqual([]);
  });

  it('stand half a metre beyond where the feet were in time', () => {
    expect(linesOf(0, 5, 12, 13, 14, 15, 15)).toEqual([[1, [4]]]);
  });

  it('lie upon each other where a second is skipped', () => {
    expect(linesOf(0, 35, 35, 35, 35)).toEqual([
      [1, [3]],
      [2, [3]],
      [3, [3]],
    ]);
  });

  it('are none round a single way that is late', () => {
    expect(linesOf(0, 1, 2, 99, 2, 1, 0)).toEqual([]);
  });
});
