import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { sideWidth } from './side-width';

describe('the width of a side', () => {
  it('leaves room for what it stands beside, and is never too narrow to read', () => {
    fc.assert(
      fc.property(fc.integer({ min: -500, max: 5000 }), fc.integer({ min: 700, max: 4000 }), (px, room) => {
        const width = sideWidth(px, room);
        expect(width).toBeGreaterThanOrEqual(240);
        expect(room - width).toBeGreaterThanOrEqual(420);
        expect(sideWidth(width, room)).toBe(width);
        if (px >= 240 && px <= room - 420) expect(width).toBe(px);
      }),
    );
  });
});
