import courier from '../../../../../examples/courier.yaml' with { loader: 'text' };
import yard from '../../../../../examples/mill-yard.yaml' with { loader: 'text' };
import crossing from '../../../../../examples/yard-crossing.yaml' with { loader: 'text' };
import glide from '../../../../../examples/parasol-glide.yaml' with { loader: 'text' };
import { createReady, mattersIn, tunedTo } from './tuning-work';

const ASKED = {
  moveset: courier,
  tapes: [
    { tape: crossing, course: yard },
    { tape: glide.replace('spawn: gate', 'spawn: nowhere'), course: yard },
    { tape: glide, course: yard },
    { tape: 'nonsense', course: yard },
  ],
};

describe('what is tuned', () => {
  const readyFor = createReady();

  it('is made ready once for as many questions as follow', () => {
    const ready = readyFor(ASKED);
    expect(readyFor({ ...ASKED, tapes: [...ASKED.tapes] })).toBe(ready);
    expect(readyFor({ ...ASKED, moveset: courier.replace('6.2 m/s', '6.3 m/s') })).not.toBe(ready);
    expect(readyFor({ ...ASKED, moveset: 'nonsense' })).toBeUndefined();
  });

  it('tells what each tape comes to at its place, and why one cannot be played', () => {
    const tuned = tunedTo(readyFor(ASKED)!, { hopHeight: 3 });
    const tapes = tuned.wrong === undefined ? tuned.tapes : [];
    expect(tapes.map((t) => t.wrong === undefined)).toEqual([true, false, true, false]);
    expect(tapes[1]!.wrong).toMatch(/has no spawn 'nowhere'/);
    const before = tunedTo(readyFor(ASKED)!, {});
    const [own] = before.wrong === undefined ? before.tapes : [];
    const [turned] = tapes;
    if (own?.wrong !== undefined || turned?.wrong !== undefined) throw new Error('it was played');
    expect(turned!.measures.apex).toBeGreaterThan(own!.measures.apex);
    expect(own!.expectations.every((e) => e.passed)).toBe(true);
  });

  it('says what is wrong with a setting that does not load', () => {
    const stances = courier
      .replace('height: 1.7 m', 'height: tall')
      .replace('dials:', 'dials:\n  tall: 1.7 m');
    const ready = readyFor({ ...ASKED, moveset: stances })!;
    expect(tunedTo(ready, { tall: -1 }).wrong).toMatch(/found/);
  });

  it('knows the dials that can matter to each outcome of a tape', () => {
    const matter = mattersIn(readyFor(ASKED)!, 0);
    expect(matter['apex']).toContain('hopHeight');
    expect(matter['apex']).not.toContain('slideSpeed');
    expect(matter['along Gust']).toContain('gustSpeed');
    expect(mattersIn(readyFor(ASKED)!, 3)).toEqual({});
  });
});
