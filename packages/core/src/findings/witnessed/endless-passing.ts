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
        const visited = steps.map((s) => s.to);
        const last = visited.at(-1);
        // A straight chain of passing states is long, but comes to its end.
        const back = last === undefined ? -1 : visited.indexOf(last);
        if (steps.length < MAX_PASSING || back === visited.length - 1) return [];
        const names = [...new Set(visited.slice(back))].map((s) => present(machine.states[s]).name);
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
