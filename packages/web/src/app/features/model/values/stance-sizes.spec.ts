import fc from 'fast-check';
import { readMoveset } from '@glenmark/core/machine';
import { edit } from '@glenmark/core/model';
import courier from '../../../../../../../examples/courier.yaml' with { loader: 'text' };
import { stanceShapes, writtenSize } from './stance-sizes';

const shapesOf = (text: string) => {
  const { machine, file } = readMoveset(text);
  return stanceShapes(machine!, file!);
};

describe('stances that one can take hold of', () => {
  it('are those of one shape, the largest first, with where their numbers are written', () => {
    expect(shapesOf(courier)).toEqual([
      { name: 'upright', width: 0.7, height: 1.7, round: true, path: ['body', 'stances', 'upright'] },
      { name: 'tucked', width: 0.7, height: 0.8, round: true, path: ['body', 'stances', 'tucked'] },
    ]);
  });

  it('whatever is dragged is written so that it reads back, within half a step', () => {
    fc.assert(
      fc.property(fc.double({ min: 1, max: 3, noNaN: true }), (metres) => {
        const value = writtenSize(metres);
        const text = edit(courier, [{ path: ['body', 'stances', 'upright', 'height'], value }]);
        const upright = shapesOf(text).find((s) => s.name === 'upright')!;
        expect(Math.abs(upright.height - metres)).toBeLessThanOrEqual(0.025 + 1e-9);
      }),
      { numRuns: 25 },
    );
    expect(writtenSize(-1)).toBe('0.1 m');
  });

  it('what is written in other terms is drawn, and not dragged', () => {
    const text = courier.replace('height: 1.7 m', 'height: 1.7 * 1 m');
    expect(shapesOf(text).map((s) => s.path)).toEqual([undefined, ['body', 'stances', 'tucked']]);
  });
});
