import { readCourse, readMoveset, readTape, runTape, type Session } from '@glenmark/core';
import { crossingTicks, levelPath, scoreRows } from './run-data';

const MOVESET = `glenmark: 1
kind: moveset
name: Small
gravity: 30 m/s2
controls: { hop: { button: [Space] }, move: { axis: { negative: [KeyA], positive: [KeyD] } } }
body: { stances: { upright: { shape: box, width: 1 m, height: 2 m } } }
variables: { n: { count: 2, max: 2 }, wet: { flag: false } }
timers: { t: { length: 10 ticks } }
lanes:
  - name: legs
    initial: A
    states: { A: {}, B: { enter: [start t, spend n, "wet := true"] } }
    crossings:
      - { from: A, to: B, when: pressed(hop) }
      - { from: B, to: A, when: done(t) }
`;
const COURSE =
  'glenmark: 1\nkind: course\nname: C\nsolids: [{ box: [[-9 m, -1 m], [9 m, 0 m]] }]\nspawns: { s: { at: [0 m, 0 m] } }\n';
const TAPE =
  'glenmark: 1\nkind: tape\nname: T\ncourse: c\nspawn: s\nticks: 40\ninputs: { hop: [5 for 3, 30 for 1], move: [10 for 4 at -0.5] }\n';

const session: Session = runTape(
  readMoveset(MOVESET).machine!,
  readCourse(COURSE).course!,
  readTape(TAPE).tape!,
).session!;

describe('the score', () => {
  const rows = scoreRows(session);

  it('has a bar for every hold of a control, with its value', () => {
    expect(rows.controls.map((c) => c.bars.map((b) => [b.from, b.to, b.value]))).toEqual([
      [
        [5, 8, 1],
        [30, 31, 1],
      ],
      [[10, 14, -0.5]],
    ]);
  });

  it('has bands that cover every tick once', () => {
    const bands = rows.lanes[0]!.bands;
    expect(bands.map((b) => [b.state, b.from, b.to])).toEqual([
      ['A', 0, 5],
      ['B', 5, 15],
      ['A', 15, 30],
      ['B', 30, 40],
    ]);
  });

  it('has timers, counts and flags with what full is', () => {
    expect(rows.clocks.map((c) => [c.name, c.full, c.steps[4], c.steps[5], c.steps[14]])).toEqual([
      ['t', 10, 0, 10, 1],
      ['n', 2, 2, 1, 1],
      ['wet', 1, 0, 1, 1],
    ]);
  });

  it('knows where crossings were taken', () => {
    expect(crossingTicks(session.trace.records)).toEqual([5, 15, 30]);
  });

  it('draws a level as a line that steps where it changes', () => {
    expect(levelPath([0, 0, 2, 2, 0], 2, (t) => t * 10, 10)).toBe(
      'M0.0 10.0L0.0 10.0L20.0 10.0L20.0 0.0L40.0 0.0L40.0 10.0',
    );
  });
});
