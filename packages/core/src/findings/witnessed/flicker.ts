import { present } from '../../present.js';
import type { Machine } from '../../machine/index.js';
import type { TickRecord } from '../../run/index.js';
import { type Detector, once, placeOfTaken, sameInput, type Sign, signAt } from './sign.js';
import { type Step, stepsOf } from './steps.js';

/** Ticks one after the other in which a state is entered again, from which on it is a fault. */
const REENTRIES = 4;

/**
 * AG4: a lane goes back and forth between two states, twice within `limits.flicker`, or enters one again every tick,
 * while no control changes.
 */
export const flicker: Detector = (machine, records) =>
  once(
    machine.lanes.flatMap((lane) => {
      const steps = stepsOf(records, lane.index);
      return steps.flatMap((first, i): Sign[] => {
        if (first.from === first.to) return reentered(machine, records, steps.slice(i, i + REENTRIES));
        const [second, third, fourth] = steps.slice(i + 1, i + 4);
        if (second === undefined || third === undefined || fourth === undefined) return [];
        const turns =
          first.to === second.from &&
          second.to === first.from &&
          third.to === first.to &&
          fourth.to === first.from;
        // Passing states come and go within a tick.
        const isPassing = [first.from, first.to].some((s) => present(machine.states[s]).passing);
        if (!turns || isPassing || fourth.tick - first.tick > machine.limits.flicker) return [];
        if (!isSteady(records, first.tick, fourth.tick)) return [];
        const [a, b] = [first.from, first.to].map((s) => present(machine.states[s]).name).sort() as [
          string,
          string,
        ];
        return [
          signAt(fourth.tick, {
            ...placeOfTaken(machine, fourth),
            code: 'AG4',
            evidence: { states: [a, b], ticks: fourth.tick - first.tick, held: [] },
          }),
        ];
      });
    }),
  );

/** A state that one crossing enters again in ticks one after the other. */
function reentered(machine: Machine, records: readonly TickRecord[], steps: readonly Step[]): Sign[] {
  const [first] = steps;
  const last = steps.at(-1);
  const isEveryTick = steps.every(
    (s, i) => s.crossing === first?.crossing && s.from === s.to && s.tick === first.tick + i,
  );
  if (first === undefined || last === undefined || steps.length < REENTRIES || !isEveryTick) return [];
  if (present(machine.states[first.to]).passing || !isSteady(records, first.tick, last.tick)) return [];
  const { name } = present(machine.states[first.to]);
  const held = machine.controls.flatMap((c, i) =>
    present(records[first.tick]).input[i] === 0 ? [] : [c.name],
  );
  return [
    signAt(last.tick, {
      ...placeOfTaken(machine, last),
      code: 'AG4',
      evidence: { states: [name, name], ticks: 1, held },
    }),
  ];
}

const isSteady = (records: readonly TickRecord[], from: number, to: number): boolean =>
  records.slice(from, to + 1).every((r) => sameInput(r, present(records[from])));
