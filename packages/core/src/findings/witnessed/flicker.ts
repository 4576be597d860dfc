import { present } from '../../present.js';
import type { TickRecord } from '../../run/index.js';
import { type Detector, once, placeOfTaken, sameInput, type Sign, signAt } from './sign.js';
import { stepsOf } from './steps.js';

/** AG4: a lane goes back and forth between two states, twice within `limits.flicker`, while no control changes. */
export const flicker: Detector = (machine, records) =>
  once(
    machine.lanes.flatMap((lane) => {
      const steps = stepsOf(records, lane.index);
      return steps.flatMap((first, i): Sign[] => {
        const [second, third, fourth] = steps.slice(i + 1, i + 4);
        if (second === undefined || third === undefined || fourth === undefined) return [];
        const turns =
          first.to === second.from &&
          second.to === first.from &&
          third.to === first.to &&
          fourth.to === first.from;
        // Passing states come and go within a tick.
        const isPassing = [first.from, first.to].some((s) => present(machine.states[s]).passing);
        if (
          !turns ||
          isPassing ||
          first.from === first.to ||
          fourth.tick - first.tick > machine.limits.flicker
        )
          return [];
        if (!isSteady(records, first.tick, fourth.tick)) return [];
        const [a, b] = [first.from, first.to].map((s) => present(machine.states[s]).name).sort() as [
          string,
          string,
        ];
        return [
          signAt(fourth.tick, {
            ...placeOfTaken(machine, fourth),
            code: 'AG4',
            evidence: { states: [a, b], ticks: fourth.tick - first.tick },
          }),
        ];
      });
    }),
  );

const isSteady = (records: readonly TickRecord[], from: number, to: number): boolean =>
  records.slice(from, to + 1).every((r) => sameInput(r, present(records[from])));
