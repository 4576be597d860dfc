import { readMoveset } from '@glenmark/core/machine';
import { readTape, runTape, type Session } from '@glenmark/core/run';
import { readCourse } from '@glenmark/core/world';
import { drawn, levelPath } from './drawn';
import { crossingTicks, isQuiet, scoreRows, valueAt } from '../../../shared/document/score-rows';
import { timeScale, wholeOf } from './time-window';

const MOVESET = `glenmark: 1
kind: moveset
name: Small
gravity: 30 m/s2
controls: { hop: { button: [Space] }, move: { axis: { negative: [KeyA], positive: [KeyD] } } }
body: { stances: { upright: { shape: box, width: 1 m, height: 2 m } }, probes: { down: { from: [0 m, 0.1 m], toward: down, reach: 0.5 m } } }
variables: { n: { count: 2, max: 2 }, wet: { flag: false } }
timers: { t: { length: 10 ticks } }
lanes:
  - name: legs
    initial: A
    states: { A: {}, B: { enter: [start t, spend n, "wet := true", raise splash] } }
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
  const rows = scoreRows(session.trace);

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
    const [legs] = rows.groups.lanes;
    expect(legs).toMatchObject({
      name: 'legs',
      bands: [
        { state: 'A', from: 0, to: 5 },
        { state: 'B', from: 5, to: 15 },
        { state: 'A', from: 15, to: 30 },
        { state: 'B', from: 30, to: 40 },
      ],
    });
  });

  it('has timers, counts and flags with what full is', () => {
    const levels = [...rows.groups.clocks, ...rows.groups.variables];
    expect(levels.map((row) => [row.name, ...[4, 5, 14].map((tick) => valueAt(row, tick))])).toEqual([
      ['t', '0', '10', '1'],
      ['n', '2', '1', '1'],
      ['wet', '0', '1', '1'],
    ]);
    expect(levels.map((row) => isQuiet(row, 40))).toEqual([false, false, false]);
  });

  it('has events when lanes can act on them, contacts, and what probes hit', () => {
    expect(rows.groups.events).toEqual([
      {
        name: 'splash',
        kind: 'spots',
        spots: [
          { from: 6, to: 7, track: 1, text: 'splash' },
          { from: 31, to: 32, track: 1, text: 'splash' },
        ],
      },
    ]);
    expect(rows.groups.contacts[0]).toMatchObject({ spots: [{ from: 0, to: 40, track: 2, text: 'ground' }] });
    expect(rows.groups.probes[0]).toMatchObject({ name: 'down', spots: [{ from: 0, to: 40 }] });
    expect([rows.groups.contacts[0]!, rows.groups.events[0]!].map((row) => isQuiet(row, 40))).toEqual([
      true,
      false,
    ]);
  });

  it('knows where crossings were taken', () => {
    expect(crossingTicks(session.trace.records)).toEqual([5, 15, 30]);
  });

  it('draws a level as a line that steps where it changes', () => {
    const scale = timeScale({ from: 0, ticks: 5 }, 50);
    expect(levelPath({ steps: [0, 0, 2, 2, 0], low: 0, full: 2 }, scale, 10)).toBe(
      'M0.0 10.0L20.0 10.0L20.0 0.0L40.0 0.0L40.0 10.0L50.0 10.0',
    );
  });

  it('draws only what the window shows, and no more boxes than pixels', () => {
    const [legs] = rows.groups.lanes;
    const near = drawn(legs!, timeScale({ from: 8, ticks: 20 }, 400), 21);
    expect(near.boxes.map((b) => [b.title, b.x])).toEqual([
      ['B: 10 ticks from 5', -3],
      ['A: 15 ticks from 15', 140],
    ]);
    const many = Array.from({ length: 5000 }, (_, i) => ({
      from: 2 * i,
      to: 2 * i + 1,
      track: 1 as const,
      text: 'e',
    }));
    const far = drawn({ name: 'e', kind: 'spots', spots: many }, timeScale(wholeOf(10_000), 300), 21);
    expect(far.boxes.length).toBeGreaterThan(200);
    expect(far.boxes.length).toBeLessThanOrEqual(601);
  });
});
