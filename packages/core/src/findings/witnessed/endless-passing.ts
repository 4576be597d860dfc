import { present } from '../../present.js';
import { MAX_PASSING } from '../../machine/index.js';
import { type Detector, once, placeOfTaken, type Sign, signAt } from './sign.js';
import { stepsOf } from './steps.js';

/** AG5: passing states that lead round in one tick, until the machine gives up. */
export const endlessPassing: Detector = (machine, records) =>
  once(
    records.flatMap((record) =>
      machine.lanes.flatMap((lane): Sign[] => {
        const steps = stepsOf([record], lane.index);
        if (steps.length < MAX_PASSING) return [];
        const names = [...new Set(steps.slice(-4).map((s) => present(machine.states[s.to]).name))];
        return [
          signAt(record.tick, {
            ...placeOfTaken(machine, present(steps[steps.length - 1])),
            code: 'AG5',
            evidence: { states: names, steps: steps.length, asksForNothing: false },
          }),
        ];
      }),
    ),
  );
