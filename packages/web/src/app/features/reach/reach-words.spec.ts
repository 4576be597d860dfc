import { readMoveset } from '@glenmark/core/machine';
import { cellAt, createRaster, markCell } from '@glenmark/core/reach';
import { readCourse } from '@glenmark/core/world';
import courier from '../../../../../../examples/courier.yaml' with { loader: 'text' };
import yard from '../../../../../../examples/mill-yard.yaml' with { loader: 'text' };
import type { ReachStanding } from '../../data/reach-work';
import { cellWords, goalWords, pitWords } from './reach-words';

const machine = readMoveset(courier).machine!;
const course = readCourse(yard).course!;

const standing = (more: Partial<ReachStanding> = {}): ReachStanding => ({
  situations: 10,
  raster: createRaster(course),
  without: undefined,
  nearest: undefined,
  beyond: undefined,
  pits: undefined,
  isOver: true,
  ...more,
});

describe('a reached cell in words', () => {
  it('says how soon, in which state, and what it is without an ability', () => {
    const own = standing();
    const cell = cellAt(own.raster, 2, 0);
    markCell(own.raster, cell, 90, machine.states.find((s) => s.name === 'Slide')!.index);
    const words = (s: ReachStanding): string => cellWords({ x: 2, y: 0, cell }, s, machine, 'parasol');
    expect(words(own)).toBe('x 2.00 m, y 0.00 m: the soonest way known takes 1.50 s, in Slide.');
    const without = createRaster(course);
    expect(words({ ...own, without })).toContain('Without parasol not reached, as far as this search went.');
    markCell(without, cell, 120, 0);
    expect(words({ ...own, without })).toContain('Without parasol after 2.00 s.');
  });
});

describe('a goal in words', () => {
  it('is proved out of reach, reached, near, or not yet', () => {
    const text = (more: Partial<ReachStanding>): string => goalWords(standing(more)).text;
    expect(text({ beyond: { why: 'walledOff' } })).toMatch(/^Proved: no way/);
    expect(text({ beyond: { why: 'tooHigh', height: 2.1, sideways: 14 }, nearest: 3 })).toMatch(
      /^Proved: .* 2\.10 m .* 14\.0 m\/s/,
    );
    expect(text({ nearest: 0 })).toBe('Reached.');
    expect(text({ nearest: 1.256 })).toMatch(/as far as this search went\. The nearest was 1\.26 m/);
    expect(text({ nearest: 1.256, isOver: false })).toMatch(/^Looking\./);
    expect(text({})).toBe('Not begun.');
  });
});

describe('a pit in words', () => {
  it('says from where to where it is, how low, and how soon one is in it', () => {
    const squares = [
      { minX: 7, maxX: 8, minY: -5.75, maxY: -5.5 },
      { minX: 6, maxX: 7, minY: -6, maxY: -5.75 },
    ];
    expect(pitWords({ squares, ticks: 90 }, 60)).toBe('x 6 to 8 m, y -6.00 m, from 1.50 s on');
  });
});
