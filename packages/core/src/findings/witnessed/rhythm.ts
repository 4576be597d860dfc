import { type Crossing, type Machine, MAX_PASSING, type Taken } from '../../machine/index.js';
import { factsIn } from '../../notation/index.js';
import type { TickRecord } from '../../run/index.js';
import { type Detector, once, placeOfTaken, sameInput, type Sign, signAt } from './sign.js';

/** A crossing as it was taken, with its tick. */
interface Step extends Taken {
  tick: number;
}

const stepsOf = (records: readonly TickRecord[], lane: number): Step[] =>
  records.flatMap(({ tick, taken }) => taken.filter((t) => t.lane === lane).map((t) => ({ ...t, tick })));

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
        const isPassing = [first.from, first.to].some((s) => machine.states[s]!.passing);
        if (
          !turns ||
          isPassing ||
          first.from === first.to ||
          fourth.tick - first.tick > machine.limits.flicker
        )
          return [];
        if (!isSteady(records, first.tick, fourth.tick)) return [];
        const [a, b] = [first.from, first.to].map((s) => machine.states[s]!.name).sort() as [string, string];
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
  records.slice(from, to + 1).every((r) => sameInput(r, records[from]!));

/** AG5: passing states that lead round in one tick, until the machine gives up. */
export const endlessPassing: Detector = (machine, records) =>
  once(
    records.flatMap((record) =>
      machine.lanes.flatMap((lane): Sign[] => {
        const steps = stepsOf([record], lane.index);
        if (steps.length < MAX_PASSING) return [];
        const names = [...new Set(steps.slice(-4).map((s) => machine.states[s.to]!.name))];
        return [
          signAt(record.tick, {
            ...placeOfTaken(machine, steps[steps.length - 1]!),
            code: 'AG5',
            evidence: { states: names, steps: steps.length, asksForNothing: false },
          }),
        ];
      }),
    ),
  );

/** RK2: a button that is only held takes a crossing that launches again and again. */
export const heldRepeat: Detector = (machine, records) =>
  once(
    machine.lanes.flatMap((lane) =>
      lane.crossings.flatMap((crossing): Sign[] => {
        const held = heldIn(crossing);
        if (held === undefined || !launches(machine, crossing)) return [];
        const control = machine.controls.findIndex((c) => c.name === held);
        let count = 0;
        for (const { tick, input, taken } of records) {
          if (input[control] === 0) count = 0;
          const step = taken.find((t) => t.crossing === crossing);
          if (step === undefined || ++count < machine.limits.repeats) continue;
          return [
            signAt(tick, {
              ...placeOfTaken(machine, step),
              code: 'RK2',
              evidence: { control: held, from: machine.states[step.from]!.name, times: count },
            }),
          ];
        }
        return [];
      }),
    ),
  );

/** The button that a guard asks to be down, when it does not ask for a press. */
function heldIn({ when }: Crossing): string | undefined {
  if (when === undefined) return undefined;
  const refs = factsIn(when);
  if (refs.some(({ fact }) => fact === 'pressed' || fact === 'released')) return undefined;
  return refs.find(({ fact }) => fact === 'held')?.of;
}

/** Whether taking a crossing sets a velocity. */
const launches = (machine: Machine, crossing: Crossing): boolean =>
  [...crossing.do, ...machine.states[crossing.to]!.enter].some((e) => e.kind === 'velocity' && e.op === ':=');
