import fc from 'fast-check';
import { cellAt, createRaster, markCell } from '@glenmark/core/reach';
import { readCourse } from '@glenmark/core/world';
import yard from '../../../../../../examples/mill-yard.yaml' with { loader: 'text' };
import { colourOf, countsOf, middleOf, pixelsOf, reachedNear, shadeOf } from './raster-picture';

const course = readCourse(yard).course!;
const places = fc.array(
  fc.tuple(fc.double({ min: 0, max: 20, noNaN: true }), fc.double({ min: 0, max: 8, noNaN: true })),
  { minLength: 1, maxLength: 12 },
);

describe('a raster as a picture', () => {
  it('has a pixel of its colour for each cell that was reached, and none elsewhere', () => {
    fc.assert(
      fc.property(places, (points) => {
        const raster = createRaster(course);
        const cells = new Set(points.map(([x, y]) => cellAt(raster, x, y)));
        for (const cell of cells) markCell(raster, cell, 1, 0);
        const pixels = pixelsOf(raster, (cell) => (raster.ticks[cell]! < 0 ? undefined : [9, 8, 7, 255]));
        const painted = [...pixels.keys()].filter((i) => i % 4 === 3 && pixels[i] === 255);
        expect(painted).toHaveLength(cells.size);
        for (const cell of cells) {
          const [column, row] = [Math.floor(cell / raster.rows), cell % raster.rows];
          expect(pixels[4 * ((raster.rows - 1 - row) * raster.columns + column) + 3]).toBe(255);
        }
        expect(countsOf(raster, undefined)).toEqual({ reached: cells.size, only: 0 });
        expect(countsOf(raster, createRaster(course))).toEqual({ reached: cells.size, only: cells.size });
      }),
      { numRuns: 25 },
    );
  });

  it('finds the reached cell nearest to a point, within a metre', () => {
    fc.assert(
      fc.property(places, ([first]) => {
        const [x, y] = first!;
        const raster = createRaster(course);
        const cell = cellAt(raster, x, y);
        expect(reachedNear(raster, x, y)).toBeUndefined();
        markCell(raster, cell, 5, 0);
        expect(reachedNear(raster, x, y)).toEqual({ ...middleOf(raster, cell), cell });
        expect(reachedNear(raster, x + 0.7, y)?.cell).toBe(cell);
        expect(reachedNear(raster, x + 3, y)).toBeUndefined();
        expect(cellAt(raster, middleOf(raster, cell).x, middleOf(raster, cell).y)).toBe(cell);
      }),
      { numRuns: 50 },
    );
  });

  it('gets lighter with each whole second', () => {
    expect(shadeOf(0, 60, 300)).toBe(shadeOf(59, 60, 300));
    expect(shadeOf(60, 60, 300)).toBeLessThan(shadeOf(59, 60, 300));
    expect(shadeOf(9_999, 60, 300)).toBeGreaterThan(0);
    expect(colourOf('#46753a', 0.5)).toEqual([70, 117, 58, 128]);
  });
});
