import { CELL, type Raster } from '@glenmark/core/reach';

/** A line between the cells that were reached within some seconds and the others: pieces of it, in metres. */
export interface Contour {
  seconds: number;
  pieces: { from: [number, number]; to: [number, number] }[];
}

/** Cells on each side of one that count with it: half a metre. */
const AROUND = 2;

/** For each reached cell the fewest ticks after which the feet were within half a metre of it; −1 for the others. */
function soonestAround({ columns, rows, ticks }: Raster): Int32Array {
  /** The least of what was reached, along one of the two directions. */
  const least = (from: Int32Array, count: number, step: number): Int32Array =>
    from.map((own, cell) => {
      const at = Math.floor(cell / step) % count;
      let best = own;
      for (let by = Math.max(-AROUND, -at); by <= Math.min(AROUND, count - 1 - at); by++) {
        const other = from[cell + by * step]!;
        if (other >= 0 && (best < 0 || other < best)) best = other;
      }
      return best;
    });
  const all = least(least(ticks, rows, 1), columns, rows);
  return ticks.map((own, cell) => (own < 0 ? -1 : all[cell]!));
}

/**
 * Lines of equal time on a raster: for each whole second, where the feet were within half a metre sooner and where they
 * were not. A single way that happens to be late draws no line round itself so. A cell that was never reached has no line
 * toward it: the edge of what is drawn tells that already.
 */
export function contoursOf(raster: Raster, rate: number): Contour[] {
  const { left, bottom, columns, rows } = raster;
  const ticks = soonestAround(raster);
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
