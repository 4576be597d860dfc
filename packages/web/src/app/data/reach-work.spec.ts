import { finished } from '@glenmark/core/steps';
import { readTape, runTape } from '@glenmark/core/run';
import { readMoveset } from '@glenmark/core/machine';
import { readCourse } from '@glenmark/core/world';
import { cellAt } from '@glenmark/core/reach';
import courier from '../../../../../examples/courier.yaml' with { loader: 'text' };
import yard from '../../../../../examples/mill-yard.yaml' with { loader: 'text' };
import { createReachWork, type ReachAsked } from './reach-work';

const ASKED: ReachAsked = { moveset: courier, course: yard, seed: 1, without: undefined, toward: undefined };
const course = readCourse(yard).course!;
const { machine } = readMoveset(courier);

/** Where the feet are at the end of a tape, by the reference. */
function endOf(text: string): { x: number; y: number } {
  const { tape, diagnostics } = readTape(text);
  expect(diagnostics).toEqual([]);
  const { session } = runTape(machine!, course, tape!);
  expect(session!.expectations.every((e) => e.passed)).toBe(true);
  return session!.trace.records.at(-1)!.body;
}

describe('a search for where the body gets to', () => {
  it('gives the tape of the soonest way to a place, which leads there', () => {
    const work = createReachWork(ASKED)!;
    finished(work.advance(4_000));
    const { raster, without, nearest, beyond, isOver } = work.standing();
    expect({ without, nearest, beyond, isOver }).toEqual({
      without: undefined,
      nearest: undefined,
      beyond: undefined,
      isOver: true,
    });
    const { x, y } = course.spawns[0]!;
    const end = endOf(work.tapeTo(x + 2, y + 0.01)!);
    expect(cellAt(raster, end.x, end.y)).toBe(cellAt(raster, x + 2, y + 0.01));
    expect(work.tapeTo(x, y)).toBeUndefined();
    expect(work.tapeTo(x, y + 500)).toBeUndefined();
    expect(work.tapeToNearest()).toBeUndefined();
  });

  it('goes for a goal, and tells how near it came', () => {
    const { x, y } = course.spawns[0]!;
    const toward = { minX: x + 3, maxX: x + 4, minY: y, maxY: y + 0.5 };
    const work = createReachWork({ ...ASKED, toward })!;
    finished(work.advance(3_000));
    expect(work.standing().nearest).toBe(0);
    const end = endOf(work.tapeToNearest()!);
    expect(end.x).toBeGreaterThanOrEqual(toward.minX);
    expect(end.x).toBeLessThanOrEqual(toward.maxX);
  });

  it('holds without an ability what needs none', () => {
    const work = createReachWork({ ...ASKED, without: 'parasol' })!;
    finished(work.advance(4_000));
    const { raster, without } = work.standing();
    const { x, y } = course.spawns[0]!;
    for (const metres of [0, 1, 2]) {
      const cell = cellAt(raster, x + metres, y + 0.01);
      expect(raster.ticks[cell]).toBeGreaterThanOrEqual(0);
      expect(without!.ticks[cell]).toBe(raster.ticks[cell]);
    }
  });

  it('tells of a pit, with the tape of the way into it', () => {
    const pit = yard
      .replace(/ {2}- \{ name: crate, [^\n]*\n/, '')
      .replace('[[6 m, -1.5 m], [12 m, 0 m]]', '[[6 m, -99 m], [12 m, -90 m]]');
    expect(pit).not.toBe(yard);
    const work = createReachWork({ ...ASKED, course: pit })!;
    finished(work.advance(6_000));
    const [found] = work.standing().pits!;
    expect(found).toBeDefined();
    expect(work.tapeToPit(99)).toBeUndefined();
    const tape = readTape(work.tapeToPit(0)!).tape!;
    const { session } = runTape(machine!, readCourse(pit).course!, tape);
    const { x, y } = session!.trace.records.at(-1)!.body;
    expect(found!.squares.some((s) => x >= s.minX && x <= s.maxX && y >= s.minY && y <= s.maxY)).toBe(true);
  });

  it('is none for what does not load', () => {
    expect(createReachWork({ ...ASKED, moveset: 'nonsense' })).toBeUndefined();
    expect(createReachWork({ ...ASKED, course: 'nonsense' })).toBeUndefined();
  });
});
