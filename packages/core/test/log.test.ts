import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readMoveset, rename } from '@glenmark/core/machine';
import { compareLog, play, readGameLog, reasonsOf, type Trace } from '@glenmark/core/run';
import { buildWorld, readCourse } from '@glenmark/core/world';
import { machineOf, sample } from './helpers.js';

const { course } = readCourse(sample('game-loop/quay.yaml'));
const courier = machineOf(sample('courier.yaml'));
const world = buildWorld(course!, courier.stances, courier.casts);
const at = { x: 1, y: 0, facing: 1 } as const;

const inputs = fc
  .array(
    fc.tuple(fc.constantFrom(-1, 0, 1), fc.nat(1), fc.nat(1), fc.nat(1), fc.integer({ min: 1, max: 20 })),
    {
      minLength: 2,
      maxLength: 12,
    },
  )
  .map((holds) =>
    holds.flatMap(([move, hop, tuck, gust, ticks]) =>
      Array.from({ length: ticks }, () => [move, hop, tuck, gust]),
    ),
  );

const POSES = { Trot: 'run', Rise: 'jump', Fall: 'jump', Slide: 'slide', Gust: 'boost' } as Record<
  string,
  string
>;

/** A run as the stand-in game logs it, in its names and units. */
const gameLog = ({ machine, records }: Trace): string[][] => [
  ['frame', 'stick', 'jump', 'duck', 'boost', 'px [cm]', 'py [cm]', 'sx', 'sy [cm/s]', 'look', 'pose'],
  ...records.map((r) =>
    [
      r.tick,
      ...r.input,
      r.body.x * 100,
      r.body.y * 100,
      r.body.vx,
      r.body.vy * 100,
      r.facing,
      POSES[machine.states[r.leaves[0]!]!.name]!,
    ].map(String),
  ),
];

const csv = (rows: readonly (readonly string[])[]): string => rows.map((row) => row.join(',')).join('\n');

/** What is wrong with a log, each with its line and field. */
const faultsOf = (text: string, moveset = sample('courier.yaml')): string[] =>
  readGameLog(machineOf(moveset), text).diagnostics.map((d) => `${d.line}:${d.column} ${d.message}`);

describe('a log of the game', () => {
  it('of the model itself never parts from it, whatever its names and units', () => {
    fc.assert(
      fc.property(inputs, (played) => {
        const trace = play(courier, world, at, played);
        const { log, diagnostics } = readGameLog(courier, csv(gameLog(trace)));
        expect(diagnostics).toEqual([]);
        expect(log!.inputs).toEqual(trace.records.map((r) => r.input));
        const comparison = compareLog(trace, log!);
        expect(comparison.first).toBeUndefined();
        expect(comparison.ticks).toBe(trace.records.length);
        expect(reasonsOf(trace, world, comparison)).toEqual([]);
      }),
      { numRuns: 60 },
    );
  });

  it('parts where a value of it is changed, and nowhere before', () => {
    fc.assert(
      fc.property(
        inputs,
        fc.nat(),
        fc.constantFrom(5, 6, 7, 8, 9, 10),
        fc.boolean(),
        (played, which, column, much) => {
          const trace = play(courier, world, at, played);
          const rows = gameLog(trace);
          const tick = which % trace.records.length;
          const cell = rows[tick + 1]!;
          const isNumber = column < 9;
          // Less than a column may be off is no divergence; the units are those of the header.
          const off = [1, 1, 0.05, 5][column - 5] ?? 0;
          cell[column] = isNumber
            ? String(Number(cell[column]) + off * (much ? 1.5 : 0.5))
            : column === 9
              ? String(-Number(cell[column]))
              : cell[column] === 'run'
                ? 'slide'
                : 'run';
          const { log } = readGameLog(courier, csv(rows));
          const { first, columns } = compareLog(trace, log!);
          if (isNumber && !much) expect(first).toBeUndefined();
          else {
            const name = ['x', 'y', 'vx', 'vy', 'facing', 'state:legs'][column - 5]!;
            expect(first).toEqual({ tick, columns: [name] });
            expect(columns.find((c) => c.is === name)).toMatchObject({ count: 1, first: { tick } });
          }
        },
      ),
      { numRuns: 100 },
    );
  });

  it('tells why the model is where it is: the way that is taken, the rule that writes, what is met', () => {
    const played = Array.from({ length: 60 }, (_, t) => [1, t >= 20 && t < 30 ? 1 : 0, 0, 0]);
    const trace = play(courier, world, at, played);
    const rows = gameLog(trace);
    rows[21]![10] = 'run';
    const { log } = readGameLog(courier, csv(rows));
    const comparison = compareLog(trace, log!);
    expect(comparison.first).toEqual({ tick: 20, columns: ['state:legs'] });
    expect(reasonsOf(trace, world, comparison)).toEqual([
      'In the model legs goes from Trot to Rise: pressed(hop) within 6 ticks.'.replace('6 ticks', '0.1 s'),
    ]);
    rows[21]![10] = 'jump';
    rows[11]![7] = '0';
    const other = compareLog(trace, readGameLog(courier, csv(rows)).log!);
    expect(reasonsOf(trace, world, other)).toEqual([
      expect.stringMatching(/^In the model Trot drive makes vx [\d.]+ m\/s\.$/),
      'What it touches there leaves that as it is.',
    ]);
  });

  it('may say time in the place of ticks, and leave fields empty that it does not know', () => {
    const trace = play(courier, world, at, [
      [1, 0, 0, 0],
      [1, 0, 0, 0],
      [1, 0, 0, 0],
    ]);
    const rows = trace.records.map(
      (r) => `${(100 + (r.tick * 1000) / 60).toFixed(2)},1,${r.tick === 1 ? '' : r.body.vx}`,
    );
    const { log, diagnostics } = readGameLog(courier, ['time [ms],move,vx', ...rows].join('\n'));
    expect(diagnostics).toEqual([]);
    expect(log!.resting).toEqual(['hop', 'tuck', 'gust']);
    expect(compareLog(trace, log!).first).toBeUndefined();
  });

  it.each([
    [
      'an unknown unit',
      'tick,x [furlong]\n0,1',
      "1:2 found the unit 'furlong', expected one such as m, cm, m/s or px/tick",
    ],
    [
      'pixels of no length',
      'tick,x [px]\n0,1',
      "1:2 found the unit 'px', and the moveset does not say how long a pixel is, expected one such as m, cm, m/s or px/tick",
    ],
    ['a lane that is none', 'state:leg\nTrot', "1:1 no lane is called 'leg', did you mean 'legs'?"],
    [
      'a state that is none',
      'state:legs\nTrott',
      "2:1 found the state 'Trott', did you mean 'Trot'?, expected one of the lane legs, or one that the moveset's gameLog has",
    ],
    ['a gap', 'tick,x\n0,1\n2,1', '3:1 found tick 2, expected 1'],
    [
      'another rate',
      'time,x\n0,1\n0.02,1',
      '3:1 found 0.02, which is 1.2 ticks after the first line, expected 1',
    ],
    ['half a button', 'hop,x\n0.5,1', "2:1 found '0.5' for 'hop', expected 0 or 1"],
    ['a word for a number', 'x\nfar', "2:1 found 'far', expected a number"],
    ['a column twice', 'x,px\n1,1', "1:2 found 'px', which is 'x' as 'x' is already"],
    [
      'nothing to compare',
      'tick,score\n0,1',
      '1:1 found nothing to compare, expected a column such as x, vy or state:legs',
    ],
  ])('is refused for %s', (_, text, message) => {
    expect(faultsOf(text)).toEqual([message]);
  });

  it('is read by what the moveset says, whose own faults have their places', () => {
    const wrong = sample('courier.yaml')
      .replace('frame: tick', 'frame: tik')
      .replace('run: Trot', 'run: Trott')
      .replace('parasol: { open', 'parasl: { open');
    expect(readMoveset(wrong).diagnostics.map((d) => d.message)).toEqual([
      "no column is called 'tik', did you mean 'tick'?",
      "no state is called 'Trott', did you mean 'Trot'?",
      "no lane is called 'parasl', did you mean 'parasol'?",
    ]);
  });

  it.each([
    ['lane', 'legs', 'feet'],
    ['state', 'Rise', 'Soar'],
    ['button', 'hop', 'leap'],
    ['axis', 'move', 'steer'],
  ] as const)('is read as before when the %s %s is called %s', (kind, from, to) => {
    const renamed = machineOf(rename(sample('courier.yaml'), courier, kind, from, to));
    const trace = play(
      courier,
      world,
      at,
      Array.from({ length: 60 }, (_, t) => [1, Number(t >= 20), 0, 0]),
    );
    const { log, diagnostics } = readGameLog(renamed, csv(gameLog(trace)));
    expect(diagnostics).toEqual([]);
    expect(compareLog(play(renamed, world, at, log!.inputs), log!).first).toBeUndefined();
  });
});
