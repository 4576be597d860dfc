import { describe, expect, it } from 'vitest';
import { type Proved, proveAll, proving } from '@glenmark/core/findings';
import { canHold, formulaOf, stepsWithinBudget, withinBudget } from '@glenmark/core/solver';
import { finished, type Steps } from '@glenmark/core/steps';
import { machineOf, sample } from './helpers.js';

const machines = ['courier-draft.yaml', 'courier.yaml'].map((file) => machineOf(sample(file)));

/** What a report says; the situations of its traps ask the skeleton that they are of. */
const told = ({ findings, undecided }: Proved): unknown => ({ findings, undecided });

describe('what is proved in steps', () => {
  it('is what is proved at once, with any other work between the steps', () => {
    const [one, other] = machines;
    const alone = machines.map((machine) => told(proveAll(machine)));
    const first = proving(one!);
    const second = proving(other!);
    const results = new Map<Steps<unknown>, unknown>();
    for (let n = 0; results.size < 2; n++) {
      const work = n % 2 === 0 ? first : second;
      const step = work.next();
      if (step.done === true && !results.has(work)) results.set(work, told(step.value));
    }
    expect([results.get(first), results.get(second)]).toEqual(alone);
  });

  it('comes in many small steps, and can be left at each of them', () => {
    const [machine] = machines;
    const whole = told(proveAll(machine!));
    let steps = 0;
    for (const work = proving(machine!); work.next().done !== true;) steps++;
    expect(steps).toBeGreaterThan(20);
    for (const at of [0, 1, 7, 20]) {
      const left = proving(machine!);
      for (let n = 0; n < at; n++) left.next();
      left.return(undefined as never);
      expect(told(proveAll(machine!))).toEqual(whole);
    }
  });
});

describe('a budget of work in steps', () => {
  const guards = machines.flatMap((machine) =>
    machine.lanes.flatMap((lane) =>
      lane.crossings.flatMap(({ when }) => (when === undefined ? [] : [{ machine, when: formulaOf(when) }])),
    ),
  );

  function* asking(): Steps<number> {
    let open = 0;
    for (const { machine, when } of guards) {
      if (canHold(machine, [when])) open++;
      yield;
    }
    return open;
  }

  it('gives up the same questions as one at once', () => {
    for (const steps of [0, 20, 60, 100_000])
      expect(finished(stepsWithinBudget(asking(), steps))).toEqual(
        withinBudget(() => finished(asking()), steps),
      );
  });

  it('leaves as much to the budget around it as one at once does', () => {
    const asked = (inner: () => unknown): number =>
      withinBudget(() => {
        inner();
        return finished(asking());
      }, 90).undecided;
    expect(asked(() => finished(stepsWithinBudget(asking(), 60)))).toBe(
      asked(() => withinBudget(() => finished(asking()), 60)),
    );
  });

  it('is not spent by what is asked between its steps', () => {
    const undecided = (between: () => void): number => {
      const work = stepsWithinBudget(asking(), 60);
      for (let step = work.next(); ; step = work.next()) {
        if (step.done === true) return step.value.undecided;
        between();
      }
    };
    const alone = undecided(() => undefined);
    expect(alone).toBeGreaterThan(0);
    const more = (): void => guards.forEach(({ machine, when }) => canHold(machine, [when]));
    expect(undecided(more)).toBe(alone);
  });
});
