import { describe, expect, it } from 'vitest';
import { compileTurned, readMoveset } from '@glenmark/core/machine';
import { runTape } from '@glenmark/core/run';
import { finished } from '@glenmark/core/steps';
import {
  createTrials,
  faultOfSweep,
  outcomeIn,
  outcomeOf,
  settingChanges,
  settingsOf,
  sweeping,
} from '@glenmark/core/tune';
import { sample } from '../helpers.js';
import { COURIER } from './samples.js';

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
