import { describe, expect, it } from 'vitest';
import { readMoveset } from '@glenmark/core/machine';
import { runTape, readTape } from '@glenmark/core/run';
import { finished } from '@glenmark/core/steps';
import {
  createTrials,
  dialsThatMatter,
  hasHappened,
  outcomeId,
  outcomeIn,
  outcomeOf,
  outcomesOf,
  sensitivities,
  type Trials,
  turnablesOf,
} from '@glenmark/core/tune';
import { courseOf, FLOOR, movesetText, sample } from '../helpers.js';
import { COURIER, courseAt, FULL_HOP, MARRAM } from './samples.js';

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
