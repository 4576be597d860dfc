import fc from 'fast-check';
import { extentOf, frameOf, scaleMarks, wayPath } from './course-frame';

const coordinate = fc.double({ min: -200, max: 200, noNaN: true });
const way = fc.array(fc.tuple(coordinate, coordinate), { minLength: 1, maxLength: 20 });
const size = fc.record({
  width: fc.integer({ min: 300, max: 2000 }),
  height: fc.integer({ min: 200, max: 900 }),
});

describe('the frame of a drawing', () => {
  it('shows all of a way, unless it would be too small to see', () => {
    fc.assert(
      fc.property(way, size, (points, box) => {
        const frame = frameOf(extentOf([points.flat()]), box);
        if (frame.scale === 4) return;
        for (const [x, y] of points) {
          expect(frame.x(x)).toBeGreaterThanOrEqual(0);
          expect(frame.x(x)).toBeLessThanOrEqual(box.width);
          expect(frame.y(y)).toBeGreaterThanOrEqual(0);
          expect(frame.y(y)).toBeLessThanOrEqual(box.height);
        }
      }),
    );
  });

  it('puts the middle of a stretch into the middle at a scale of its own', () => {
    fc.assert(
      fc.property(coordinate, coordinate, size, (x, y, box) => {
        const frame = frameOf({ minX: x, maxX: x, minY: y, maxY: y }, box, 20);
        expect(frame.x(x)).toBeCloseTo(box.width / 2, 6);
        expect(frame.y(y)).toBeCloseTo(box.height / 2, 6);
      }),
    );
  });

  it('has marks in whole metres, within what is seen', () => {
    fc.assert(
      fc.property(way, size, (points, box) => {
        const frame = frameOf(extentOf([points.flat()]), box);
        for (const { x } of scaleMarks(frame)) {
          expect(x).toBeGreaterThanOrEqual(-0.001);
          expect(x).toBeLessThanOrEqual(box.width);
        }
      }),
    );
  });

  it('draws no way without points', () => {
    const frame = frameOf(extentOf([]), { width: 300, height: 200 });
    expect(wayPath(frame, [])).toBe('');
    expect(wayPath(frame, [0, 0])).toMatch(/^M[\d.-]+ [\d.-]+$/);
  });
});
