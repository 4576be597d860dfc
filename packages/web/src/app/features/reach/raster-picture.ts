import { cellAt, CELL, type Raster } from '@glenmark/core/reach';

/** What the colour of a cell tells: the kind of state that got there, how soon, or whether it takes an ability. */
export type Shows = 'kind' | 'soon' | 'only';

/** The colour of a cell, red, green, blue and opacity from 0 to 255; undefined for one that was not reached. */
export type Painted = readonly [number, number, number, number] | undefined;

/** A raster as pixels, one a cell, the top row first: what a canvas shows. */
export function pixelsOf(
  { columns, rows }: Raster,
  paint: (cell: number) => Painted,
): Uint8ClampedArray<ArrayBuffer> {
  const pixels = new Uint8ClampedArray(4 * columns * rows);
  for (let column = 0; column < columns; column++)
    for (let row = 0; row < rows; row++) {
      const colour = paint(column * rows + row);
      if (colour !== undefined) pixels.set(colour, 4 * ((rows - 1 - row) * columns + column));
    }
  return pixels;
}

/** A colour as a theme writes it, `#rrggbb`, with an opacity. */
export function colourOf(text: string, opacity: number): readonly [number, number, number, number] {
  const [red = 0, green = 0, blue = 0] = (text.match(/[\da-f]{2}/gi) ?? []).map((part) => parseInt(part, 16));
  return [red, green, blue, Math.round(255 * opacity)];
}

/** Whole seconds share a shade, so that their borders are lines of equal time; the first second is the darkest. */
export const shadeOf = (ticks: number, rate: number, most: number): number => {
  const seconds = Math.floor(ticks / rate);
  const all = Math.max(1, Math.ceil(most / rate));
  return 0.85 - (0.65 * Math.min(seconds, all)) / all;
};

/** How many cells were reached, and how many of them only with what the other raster lacks. */
export function countsOf(raster: Raster, without: Raster | undefined): { reached: number; only: number } {
  let [reached, only] = [0, 0];
  raster.ticks.forEach((ticks, cell) => {
    if (ticks < 0) return;
    reached++;
    if (without !== undefined && (without.ticks[cell] ?? -1) < 0) only++;
  });
  return { reached, only };
}

/** The middle of the reached cell that is nearest to a point, within a metre; undefined when there is none. */
export function reachedNear(
  raster: Raster,
  x: number,
  y: number,
): { x: number; y: number; cell: number } | undefined {
  let best: { x: number; y: number; cell: number } | undefined;
  let least = Infinity;
  const reach = 1 / CELL;
  for (let i = -reach; i <= reach; i++)
    for (let j = -reach; j <= reach; j++) {
      const [px, py] = [x + i * CELL, y + j * CELL];
      const cell = cellAt(raster, px, py);
      if (cell < 0 || raster.ticks[cell]! < 0) continue;
      const distance = i * i + j * j;
      if (distance >= least) continue;
      least = distance;
      best = { ...middleOf(raster, cell), cell };
    }
  return best;
}

/** The middle of a cell (m). */
export const middleOf = ({ left, bottom, rows }: Raster, cell: number): { x: number; y: number } => ({
  x: left + (Math.floor(cell / rows) + 0.5) * CELL,
  y: bottom + ((cell % rows) + 0.5) * CELL,
});
