import { CELL, type Raster } from '@glenmark/core/reach';

/** A line between the cells that were reached within some seconds and the others: pieces of it, in metres. */
export interface Contour {
  seconds: number;
  pieces: { from: [number, number]; to: [number, number] }[];
}

/**
 * Lines of equal time on a raster: for each whole second, where a cell that was reached sooner meets one that was not. A
 * cell that was never reached has no line toward it: the edge of what is drawn tells that already.
 */
export function contoursOf({ left, bottom, columns, rows, ticks }: Raster, rate: number): Contour[] {
  const secondsOf = (column: number, row: number): number => {
    const known = column < columns && row < rows ? ticks[column * rows + row]! : -1;
    return known < 0 ? NaN : Math.floor(known / rate);
  };
  const lines = new Map<number, Contour['pieces']>();
  const add = (a: number, b: number, from: [number, number], to: [number, number]): void => {
    for (let seconds = Math.min(a, b) + 1; seconds <= Math.max(a, b); seconds++) {
      const pieces = lines.get(seconds) ?? [];
      pieces.push({ from, to });
      lines.set(seconds, pieces);
    }
  };
  for (let column = 0; column < columns; column++)
    for (let row = 0; row < rows; row++) {
      const here = secondsOf(column, row);
      if (Number.isNaN(here)) continue;
      const [x, y] = [left + column * CELL, bottom + row * CELL];
      add(here, secondsOf(column + 1, row), [x + CELL, y], [x + CELL, y + CELL]);
      add(here, secondsOf(column, row + 1), [x, y + CELL], [x + CELL, y + CELL]);
    }
  return [...lines].sort(([a], [b]) => a - b).map(([seconds, pieces]) => ({ seconds, pieces }));
}
