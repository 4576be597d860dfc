import { readdirSync } from 'node:fs';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  compileTurned,
  createCodes,
  lower,
  type Machine,
  readMoveset,
  rename,
  runProgram,
  startFast,
  step,
} from '@glenmark/core/machine';
import { runTape } from '@glenmark/core/run';
import { createTrials, type Setting, settingChanges, type Trials } from '@glenmark/core/tune';
import { buildWorld, readCourse } from '@glenmark/core/world';
import { sample } from '../helpers.js';
import { COURIER, courseAt, FULL_HOP, MARRAM, tapeAt } from './samples.js';

const mechanics = readdirSync(new URL('../../../../examples/mechanics', import.meta.url))
  .filter((file) => file.endsWith('.tape.yaml'))
  .map((file) => file.replace('.tape.yaml', ''));

/** A setting of all that can be turned, each by up to a quarter and within its range; angles and plain numbers, too. */
const settingOf = ({ turnables }: Pick<Trials, 'turnables'>): fc.Arbitrary<Setting> =>
  fc
    .tuple(...turnables.map(() => fc.double({ min: 0.75, max: 1.25, noNaN: true })))
    .map((shares) =>
      Object.fromEntries(
        turnables.map(({ name, value, min, max }, i) => [
          name,
          Math.min(max, Math.max(min, value * shares[i]!)),
        ]),
      ),
    );

/** A trial and a run of the reference differ in nothing. */
function expectSame(moveset: string, trials: Trials, setting: Setting): void {
  const compiled = readMoveset(moveset);
  const { machine } = trials.turned(setting);
  // A setting need not load; the reference does not load it either.
  const reference = compileTurned(compiled, settingChanges(trials.turnables, setting)).machine;
  expect(machine === undefined).toBe(reference === undefined);
  if (machine === undefined || reference === undefined) return;
  trials.tapes.forEach(({ tape, course }, i) => {
    const trial = trials.play(machine, i);
    const { session } = runTape(reference, course, tape);
    expect(trial.measures).toEqual(session!.measures);
    expect(trial.expectations).toEqual(session!.expectations);
    const last = session!.trace.records.at(-1)!.body;
    expect([...trial.trail.slice(-2)]).toEqual([Math.fround(last.x), Math.fround(last.y)]);
  });
}
describe('trials', () => {
  it.each([
    ['marram.yaml', MARRAM],
    ['courier.yaml', COURIER],
  ] as const)('play what a run plays, to the last bit, at any setting of %s', (file, tapes) => {
    const trials = createTrials(readMoveset(sample(file)), tapes);
    expectSame(sample(file), trials, {});
    fc.assert(
      fc.property(settingOf(trials), (setting) => expectSame(sample(file), trials, setting)),
      { numRuns: 6, endOnFailure: true },
    );
  });

  it.each(mechanics)('and of %s, with every fact that its tape looks at', (name) => {
    const moveset = sample(`mechanics/${name}.yaml`);
    const tape = tapeAt(`mechanics/${name}.tape.yaml`);
    const course = readdirSync(new URL('../../../../examples/mechanics', import.meta.url))
      .filter((file) => file.endsWith('.yaml'))
      .map((file) => readCourse(sample(`mechanics/${file}`)).course)
      .find((c) => c !== undefined && c.name.toLowerCase().replaceAll(' ', '-') === tape.course);
    const trials = createTrials(readMoveset(moveset), [
      { tape, course: course ?? courseAt(`${tape.course}.yaml`) },
    ]);
    const [setting] = fc.sample(settingOf(trials), { numRuns: 1, seed: 7 });
    expectSame(moveset, trials, {});
    expectSame(moveset, trials, setting!);
  });
});

describe('code that is shared', () => {
  const compiled = readMoveset(sample('courier.yaml'));
  const course = courseAt('mill-yard.yaml');
  const run = (machine: Machine, code?: ReturnType<ReturnType<typeof createCodes>>): number[] => {
    const world = buildWorld(course, machine.stances, machine.casts);
    const fast = runProgram(lower(machine), machine, world, code === undefined ? {} : { code });
    const s = startFast(fast, { x: 2, y: 0, facing: 1 });
    for (let t = 0; t < 60; t++) step(fast, s, [1, Number(t > 9), 0, 0]);
    return [...s];
  };

  it('is printed once for settings, and again for another form', () => {
    const codes = createCodes();
    const at = (path: (string | number)[], value: string): Machine =>
      compileTurned(compiled, [{ path, value }]).machine!;
    const machines = [
      compiled.machine!,
      at(['dials', 'trotSpeed', 'value'], '5 m/s'),
      at(['dials', 'hopHeight', 'value'], '1.5 m'),
      at(['gravity'], '20 m/s2'),
      // Not a number alone: an exit more that is closed.
      at(['lanes', 0, 'crossings', 3, 'when'], 'vy <= 0 m/s and not held(tuck)'),
      at(['dials', 'trotSpeed', 'value'], '7 m/s'),
    ];
    const made = machines.map((machine) => codes(lower(machine)));
    machines.forEach((machine, i) => expect(run(machine, made[i])).toEqual(run(machine)));
    expect(made[5]!.bind).toBe(made[3]!.bind);
    expect(made[4]!.bind).not.toBe(made[3]!.bind);
    expect(made[4]!.numbers).toHaveLength(0);
  });
});

describe('settings to keep', () => {
  const text = sample('courier.yaml').replace(
    'controls:',
    'settings:\n  spry: { dials: { gravity: 30 m/s2, hopHeight: 2.4 m } }\n\ncontrols:',
  );

  it('are read in base units, and turn what they name', () => {
    const compiled = readMoveset(text);
    expect(compiled.machine!.settings).toEqual([
      { name: 'spry', values: { gravity: 30, hopHeight: 2.4 }, path: ['settings', 'spry'] },
    ]);
    const trials = createTrials(compiled, [{ tape: FULL_HOP, course: courseAt('mill-yard.yaml') }]);
    const { machine } = trials.turned(compiled.machine!.settings[0]!.values);
    expect(machine!.gravity).toBe(30);
  });

  it('follow a dial that is renamed', () => {
    const renamed = rename(text, readMoveset(text).machine!, 'dial', 'hopHeight', 'hopUp');
    expect(readMoveset(renamed).machine!.settings[0]!.values).toEqual({ gravity: 30, hopUp: 2.4 });
  });

  it.each([
    ['hopSpeed: 3 m/s', /hopSpeed', which is worked out from others/],
    ['hopHigh: 3 m', /no dial is called 'hopHigh'.*hopHeight/],
    ['hopHeight: 3 m/s', /found a speed/],
  ])('say at its place what is wrong with %s', (dial, message) => {
    const bad = text.replace('hopHeight: 2.4 m', dial);
    const { machine, diagnostics } = readMoveset(bad);
    expect(machine).toBeUndefined();
    const line = bad.split('\n').findIndex((l) => l.includes('spry')) + 1;
    expect(diagnostics[0]).toMatchObject({ line, message: expect.stringMatching(message) as string });
  });
});
