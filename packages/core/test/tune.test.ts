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
import { runTape, readTape } from '@glenmark/core/run';
import type { TapeOnCourse } from '@glenmark/core/findings';
import { finished } from '@glenmark/core/steps';
import {
  createTrials,
  dialsThatMatter,
  faultOfSeek,
  faultOfSweep,
  type Goal,
  hasHappened,
  hopOf,
  minimising,
  outcomeId,
  outcomeIn,
  outcomeOf,
  outcomesOf,
  seeking,
  type SeekAsked,
  sensitivities,
  type Setting,
  settingChanges,
  settingsOf,
  sweeping,
  type Trials,
  turnablesOf,
} from '@glenmark/core/tune';
import { buildWorld, readCourse } from '@glenmark/core/world';
import { courseOf, FLOOR, movesetText, sample } from './helpers.js';
import { RATES } from './mechanics/play.js';

const courseAt = (file: string): TapeOnCourse['course'] => readCourse(sample(file)).course!;
const tapeAt = (file: string): TapeOnCourse['tape'] => readTape(sample(file)).tape!;
const on = (course: string, ...tapes: string[]): TapeOnCourse[] =>
  tapes.map((tape) => ({ tape: tapeAt(tape), course: courseAt(course) }));

const MARRAM = on(
  'tide-mill.yaml',
  'shaft-climb.yaml',
  'winch-swing.yaml',
  'draught-ride.yaml',
  'ferry-crossing.yaml',
);
const COURIER = on('mill-yard.yaml', 'culvert-slide.yaml', 'yard-crossing.yaml', 'parasol-glide.yaml');

const FULL_HOP = readTape(
  'glenmark: 1\nkind: tape\nname: Full hop\nmoveset: courier\ncourse: mill-yard\nspawn: gate\nticks: 90\ninputs: { hop: ["10 for 60"] }\n',
).tape!;

const mechanics = readdirSync(new URL('../../../examples/mechanics', import.meta.url))
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
    const course = readdirSync(new URL('../../../examples/mechanics', import.meta.url))
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

describe('dials that matter', () => {
  it.each([
    ['marram.yaml', MARRAM],
    ['courier.yaml', COURIER],
  ] as const)('are all that move an outcome of %s', (file, tapes) => {
    const compiled = readMoveset(sample(file));
    const machine = compiled.machine!;
    const trials = createTrials(compiled, tapes);
    tapes.forEach(({ tape, course }, i) => {
      const { trace } = runTape(machine, course, tape).session!;
      const states = [...new Set(trace.records.flatMap((r) => [...r.leaves, ...r.leavesBefore]))];
      const own = trials.play(machine, i).measures;
      const happened = outcomesOf(machine).filter((o) => hasHappened(own, o));
      for (const { name, value, min, max } of trials.turnables)
        for (const share of [0.97, 1.02]) {
          const setting = { [name]: Math.min(max, Math.max(min, value * share)) };
          const { measures } = trials.play(trials.turned(setting).machine!, i);
          // Times and ways in a state, and sideways ways while other things change when, follow from what came before.
          for (const outcome of happened.filter(({ kind, of }) => of === undefined && kind !== 'stopping')) {
            if (outcomeIn(measures, outcome) === outcomeIn(own, outcome)) continue;
            const matter = dialsThatMatter(machine, trials.turnables, states, {
              kind: 'reach',
              of: undefined,
            }).map((d) => d.name);
            expect(matter, `${tape.name}: ${outcomeId(outcome)} by ${name}`).toContain(name);
          }
        }
    });
  });

  it('are those of what acts upward for a hop, and of what acts sideways for a stop', () => {
    const compiled = readMoveset(sample('courier.yaml'));
    const machine = compiled.machine!;
    const states = machine.states
      .filter((s) => ['Trot', 'Rise', 'Fall'].includes(s.name))
      .map((s) => s.index);
    const of = (id: string): string[] =>
      dialsThatMatter(machine, turnablesOf(compiled), states, outcomeOf(id)!).map((d) => d.name);
    expect(of('firstHop')).toEqual(['gravity', 'hopHeight']);
    expect(of('stopping')).toEqual(['trotSpeed']);
    expect(of('along Trot')).toEqual(['gravity', 'trotSpeed', 'hopHeight']);
  });
});

describe('an outcome', () => {
  it('is written and read', () => {
    for (const outcome of outcomesOf(readMoveset(sample('marram.yaml')).machine!))
      expect(outcomeOf(outcomeId(outcome))).toEqual(outcome);
    for (const text of ['', 'apex Slide', 'nonsense', 'timeIn']) expect(outcomeOf(text)).toBeUndefined();
  });
});

describe('measures', () => {
  const text = movesetText({
    states: `      Stand: { stance: tall, motion: { drive: { to: axis(move) * 6 m/s, gain: 30 m/s2, brake: 12 m/s2, turn: 24 m/s2 } } }
      Air: { stance: tall }`,
    crossings: `      - { from: Stand, to: Air, when: pressed(hop), do: ["vy := 9 m/s"] }
      - { from: Air, to: Air, when: pressed(hop), do: ["vy := 6 m/s"], reenter: true }
      - { from: Air, to: Stand, when: grounded and vy <= 0, rank: 1 }`,
    initial: 'Stand',
  });
  const { machine } = readMoveset(text);
  const played = (ticks: number, inputs: string): ReturnType<Trials['play']>['measures'] => {
    const { tape, diagnostics } = readTape(
      `glenmark: 1\nkind: tape\nname: t\nmoveset: m\ncourse: c\nspawn: start\nticks: ${ticks}\ninputs: ${inputs}\n`,
    );
    expect(diagnostics).toEqual([]);
    return runTape(machine!, courseOf(FLOOR), tape!).session!.measures;
  };
  const { gravity, dt } = machine!;
  /** How high a launch goes, by the sum of its ticks. */
  const height = (v: number): number => {
    const n = Math.floor(v / (gravity * dt));
    return v * n * dt - (gravity * dt * dt * n * (n + 1)) / 2;
  };

  it('tell the first hop from the second, each from where it began', () => {
    const { firstHop, secondHop } = played(120, '{ hop: ["5 for 2", "24 for 2"] }');
    expect(firstHop).toBeCloseTo(height(9), 9);
    expect(secondHop).toBeCloseTo(height(6), 9);
    expect(played(120, '{ hop: ["5 for 2"] }').secondHop).toBeNaN();
  });

  it('tell how far and how long it takes to stop and to turn', () => {
    const { stopping, stoppingTime, turning, turningTime } = played(
      160,
      '{ move: ["5 for 60", "100 for 30"] }',
    );
    expect(stoppingTime).toBeCloseTo(6 / 12, 1);
    expect(stopping).toBeCloseTo(36 / 24, 1);
    expect(Number.isNaN(turning)).toBe(true);
    const turned = played(160, '{ move: ["5 for 60", "65 for 60 at -1"] }');
    expect(turned.turningTime).toBeCloseTo(6 / 24, 1);
    expect(turned.turning).toBeCloseTo(36 / 48, 1);
    expect(turningTime).toBeNaN();
  });
});

describe('the downhill simplex', () => {
  it('finds the bottom of a bowl wherever it lies', () => {
    const inside = fc.double({ min: 0.05, max: 0.95, noNaN: true });
    fc.assert(
      fc.property(fc.array(fc.tuple(inside, inside), { minLength: 1, maxLength: 3 }), (points) => {
        const bottom = points.map(([b]) => b);
        const costOf = (at: readonly number[]): number =>
          at.reduce((sum, v, i) => sum + (i + 1) * (v - bottom[i]!) ** 2, 0);
        const { at } = finished(
          minimising(
            costOf,
            points.map(([, s]) => s),
            600,
          ),
        );
        at.forEach((v, i) => expect(v).toBeCloseTo(bottom[i]!, 3));
      }),
      { numRuns: 60, endOnFailure: true },
    );
  });

  it('goes to the face of the cube when the bottom lies beyond, and asks no more than it may', () => {
    let asked = 0;
    const found = finished(
      minimising(
        ([x]) => {
          asked++;
          return (x! - 2) ** 2;
        },
        [0.2],
        40,
      ),
    );
    expect(found.at[0]).toBeCloseTo(1, 4);
    expect(asked).toBe(found.asked);
    expect(asked).toBeLessThanOrEqual(43);
  });
});

describe('goal-seek', () => {
  const compiled = readMoveset(sample('courier.yaml'));
  const tapes = [{ tape: FULL_HOP, course: courseAt('mill-yard.yaml') }, ...COURIER];
  const trials = createTrials(compiled, tapes);
  const goal = (id: string, value: number, is: Goal['is'] = 'about', tape = 0): Goal => ({
    tape,
    outcome: outcomeOf(id)!,
    is,
    value,
  });
  const FREE = [
    { dial: 'gravity', from: 10, to: 60 },
    { dial: 'hopHeight', from: 0.5, to: 4 },
  ];
  const seek = (asked: Partial<SeekAsked>): ReturnType<typeof sought> => sought(asked);
  function sought(
    asked: Partial<SeekAsked>,
  ): ReturnType<typeof finished<ReturnType<typeof seeking> extends Generator<void, infer T> ? T : never>> {
    return finished(seeking(trials, { goals: [], free: FREE, expecting: [0, 1, 2, 3], at: {}, ...asked }));
  }

  it('finds an apex of 2.4 m after 0.36 s for the courier by the formula, with all expectations kept', () => {
    const found = seek({ goals: [goal('apex', 2.4), goal('timeToApex', 0.36)] });
    expect(found.goals.map((g) => g.isMet)).toEqual([true, true]);
    expect(found.missed).toEqual([]);
    expect(found.tried).toBe(1);
    const g = (2 * 2.4) / (22 / 60) ** 2;
    expect(found.setting['gravity']).toBeCloseTo(g, 9);
    expect(found.goals[0]!.value).toBeCloseTo(2.4, 6);
  });

  it.each(RATES)('the formula gives a hop its height and its time, at %i ticks a second', (rate) => {
    for (const integration of ['semi-implicit', 'explicit', 'trapezoid'] as const)
      fc.assert(
        fc.property(
          fc.double({ min: 0.5, max: 5, noNaN: true }),
          fc.integer({ min: 6, max: 60 }),
          (height, n) => {
            const { gravity, launch } = hopOf(height, n, 1 / rate, integration);
            const text = movesetText({
              states: '      Stand: { stance: tall }\n      Air: { stance: tall }',
              crossings: `      - { from: Stand, to: Air, when: pressed(hop), do: ["vy := ${launch} m/s"] }`,
              initial: 'Stand',
            })
              .replace(/gravity:.*/, `gravity: ${gravity} m/s2`)
              .replace('gravity:', `integration: ${integration}\ngravity:`);
            const { tape } = readTape(
              `glenmark: 1\nkind: tape\nname: t\nmoveset: m\ncourse: c\nspawn: start\nticks: ${n + 20}\ntickRate: ${rate}\ninputs: { hop: ["2 for 3"] }\n`,
            );
            const { measures } = runTape(
              readMoveset(text, { rate }).machine!,
              courseOf(FLOOR),
              tape!,
            ).session!;
            expect(measures.apex).toBeCloseTo(height, 2);
            expect(measures.timeToApex).toBeCloseTo(n / rate, 9);
          },
        ),
        { numRuns: 8, endOnFailure: true },
      );
  });

  it('finds a value downhill where no formula answers', () => {
    const found = seek({
      goals: [goal('apex', 3)],
      free: [{ dial: 'hopHeight', from: 0.5, to: 4 }],
    });
    expect(found.goals[0]!.isMet).toBe(true);
    const gust = seek({
      goals: [goal('along Gust', 2.5, 'about', 3)],
      free: [{ dial: 'gustSpeed', from: 6, to: 20 }],
      expecting: [],
    });
    expect(gust.goals[0]!.value).toBeCloseTo(2.5, 1);
    expect(gust.goals[0]!.isMet).toBe(true);
  });

  it('tells which goals pull against each other, and how near one can come', () => {
    const free = [{ dial: 'hopHeight', from: 0.5, to: 4 }];
    const found = seek({ goals: [goal('apex', 3), goal('timeToApex', 0.25)], free });
    expect(found.goals.every((g) => g.isMet)).toBe(false);
    for (const { goal: which, reached } of found.alone) {
      expect(reached.goals[which]!.isMet).toBe(true);
      expect(reached.goals[1 - which]!.isMet).toBe(false);
    }
    const far = seek({ goals: [goal('apex', 9)], free });
    expect(far.goals[0]!.isMet).toBe(false);
    expect(far.setting['hopHeight']).toBeCloseTo(4, 3);
  });

  it('keeps what tapes expect, and says what that costs', () => {
    // The yard crossing expects at least 2 m.
    const found = seek({
      goals: [goal('apex', 0.8, 'about', 2)],
      free: [{ dial: 'hopHeight', from: 0.5, to: 4 }],
    });
    expect(found.missed).toEqual([]);
    expect(found.goals[0]!.isMet).toBe(false);
    expect(found.alone[0]!.reached.missed.length).toBeGreaterThan(0);
  });

  it('refuses what cannot be asked, in a sentence', () => {
    const asked: SeekAsked = { goals: [goal('apex', 1)], free: FREE, expecting: [], at: {} };
    expect(faultOfSeek(asked)).toBeUndefined();
    expect(faultOfSeek({ ...asked, goals: [] })).toMatch(/at least one goal/);
    expect(faultOfSeek({ ...asked, free: [] })).toMatch(/at least one dial/);
    expect(faultOfSeek({ ...asked, free: [{ dial: 'gravity', from: -Infinity, to: Infinity }] })).toMatch(
      /gravity.*no range/,
    );
    expect(faultOfSeek({ ...asked, free: [{ dial: 'gravity', from: 9, to: 9 }] })).toMatch(
      /smaller value first/,
    );
    expect(faultOfSeek({ ...asked, goals: [goal('apex', NaN)] })).toMatch(/no number/);
  });
});

describe('a sweep', () => {
  const compiled = readMoveset(sample('courier.yaml'));
  const trials = createTrials(compiled, COURIER);
  const asked = {
    tape: 1,
    outcomes: [outcomeOf('apex')!, outcomeOf('timeIn Gust')!],
    expecting: [0, 1, 2],
    findings: false,
  };

  it('is as many single runs, to the last bit, however it is cut', () => {
    const axes = [
      { dial: 'hopHeight', from: 1, to: 3, places: 4 },
      { dial: 'trotSpeed', from: 4, to: 8, places: 3 },
    ];
    const settings = settingsOf(axes);
    expect(settings).toHaveLength(12);
    expect(settings.at(-1)).toEqual({ hopHeight: 3, trotSpeed: 8 });
    const swept = finished(sweeping(trials, asked, settings));
    const halves = [settings.slice(0, 5), settings.slice(5)].flatMap((s) =>
      finished(sweeping(createTrials(compiled, COURIER), asked, s)),
    );
    expect(halves).toEqual(swept);
    for (const { setting, values, missed } of swept) {
      const { machine } = compileTurned(compiled, settingChanges(trials.turnables, setting));
      const sessions = COURIER.map(({ tape, course }) => runTape(machine!, course, tape).session!);
      expect(values).toEqual(asked.outcomes.map((o) => outcomeIn(sessions[1]!.measures, o)));
      expect(missed).toEqual(
        // The tape that is measured comes first.
        [1, 0, 2].flatMap((i) =>
          sessions[i]!.expectations.filter((e) => !e.passed).map(
            (e) => `${COURIER[i]!.tape.name}: ${e.text}`,
          ),
        ),
      );
    }
  });

  it('tells where a finding begins', () => {
    // A launch no stronger than a tick of gravity lifts nobody.
    const [weak, own] = finished(sweeping(trials, { ...asked, findings: true }, [{ hopHeight: 0.001 }, {}]));
    expect(own!.begun).toEqual([]);
    expect(weak!.begun!.length).toBeGreaterThan(0);
  });

  it('goes on where a setting does not load', () => {
    const text = sample('courier.yaml')
      .replace('shape: capsule, width: 0.7 m, height: 1.7 m', 'shape: capsule, width: 0.7 m, height: tall')
      .replace('dials:', 'dials:\n  tall: 1.7 m');
    const bent = createTrials(readMoveset(text), COURIER);
    const [bad, good] = finished(sweeping(bent, asked, [{ tall: -1 }, { tall: 1.7 }]));
    expect(bad!.wrong).toMatch(/found/);
    expect(bad!.values.every(Number.isNaN)).toBe(true);
    expect(good!.wrong).toBeUndefined();
  });

  it('refuses what cannot be swept, in a sentence', () => {
    const axis = { dial: 'hopHeight', from: 1, to: 3, places: 4 };
    const fault = (...axes: (typeof axis)[]): string | undefined => faultOfSweep({ ...asked, axes });
    expect(fault(axis)).toBeUndefined();
    expect(fault(axis, axis)).toMatch(/two different dials/);
    expect(fault({ ...axis, to: Infinity })).toMatch(/no range/);
    expect(fault({ ...axis, to: 1 })).toMatch(/smaller value first/);
    expect(fault({ ...axis, places: 1 })).toMatch(/at least 2/);
    expect(fault({ ...axis, places: 1_000_000 })).toMatch(/3,000,000 runs, expected at most 20,000/);
  });
});

describe('sensitivity', () => {
  it('is 1 % of the apex for 1 % of the height of a hop, and nothing for what does not matter', () => {
    const compiled = readMoveset(sample('courier.yaml'));
    const trials = createTrials(compiled, [{ tape: FULL_HOP, course: courseAt('mill-yard.yaml') }]);
    const apex = outcomeOf('apex')!;
    const found = finished(sensitivities(trials, 0, [apex], ['hopHeight', 'gustSpeed']));
    const own = outcomeIn(trials.play(compiled.machine!, 0).measures, apex);
    expect(found[0]!.moves[0]! / own).toBeCloseTo(0.01, 3);
    expect(found[1]!.moves).toEqual([0]);
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
