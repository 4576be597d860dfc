import { present } from '../present.js';
import * as z from 'zod';
import { type Crossing, leafFrom, type Machine } from '../machine/index.js';
import { crossingPlaceSchema } from './catalogue/evidence.js';
import { fromOf, placeOf } from './proved/guard.js';

/** States and crossings that were used, in file order, and how many there are. */
export const coverageSchema = z.object({
  states: z.array(z.object({ lane: z.string(), state: z.string() })),
  crossings: z.array(crossingPlaceSchema.extend({ lane: z.string() })),
  ofStates: z.number().int(),
  ofCrossings: z.number().int(),
});

export type Coverage = z.infer<typeof coverageSchema>;

/** The coverage of a scouting that has not begun. */
export const NO_COVERAGE: Coverage = { states: [], crossings: [], ofStates: 0, ofCrossings: 0 };

/** A crossing taken: its lane, its place there, and the leaves it led from and to. */
export interface Step {
  lane: number;
  crossing: number;
  from: number;
  to: number;
}

/** A crossing's name as people read it. */
export const crossingName = (machine: Machine, crossing: Crossing): string =>
  `${fromOf(machine, crossing)} → ${present(machine.states[crossing.to]).name}`;

/** What was used when these crossings were taken; the states that the lanes begin in always are. */
export function coverageOf(machine: Machine, steps: Iterable<Step>): Coverage {
  const states = new Set(machine.lanes.map(({ initial }) => leafFrom(machine, initial)));
  const crossings = new Set<Crossing>();
  for (const { lane, crossing, from, to } of steps) {
    states.add(from).add(to);
    crossings.add(present(present(machine.lanes[lane]).crossings[crossing]));
  }
  const leaves = machine.states.filter((s) => s.members.length === 0);
  const all = machine.lanes.flatMap((l) => l.crossings);
  return {
    states: leaves
      .filter((s) => states.has(s.index))
      .map((s) => ({ lane: present(machine.lanes[s.lane]).name, state: s.name })),
    crossings: all
      .filter((c) => crossings.has(c))
      .map((c) => ({
        lane: present(machine.lanes[c.lane]).name,
        ...placeOf(machine, c),
      })),
    ofStates: leaves.length,
    ofCrossings: all.length,
  };
}
