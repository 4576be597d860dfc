import { present } from '../present.js';
import { leafFrom, type Machine } from '../machine/index.js';

/** States and crossings that were used, by lane and name, and how many there are. */
export interface Coverage {
  states: string[];
  crossings: string[];
  ofStates: number;
  ofCrossings: number;
}

/** A crossing taken: its lane, its place there, and the leaves it led from and to. */
export interface Step {
  lane: number;
  crossing: number;
  from: number;
  to: number;
}

/** A crossing's name as people read it. */
export const crossingName = (machine: Machine, lane: number, index: number): string => {
  const { from, to } = present(present(machine.lanes[lane]).crossings[index]);
  const source =
    from.length === 0 ? 'everywhere' : from.map((s) => present(machine.states[s]).name).join(', ');
  return `${source} → ${present(machine.states[to]).name}`;
};

/** What was used when these crossings were taken; the states that the lanes begin in always are. */
export function coverageOf(machine: Machine, steps: Iterable<Step>): Coverage {
  const states = new Set<string>();
  const crossings = new Set<string>();
  for (const { lane, crossing, from, to } of steps) {
    const { name } = present(machine.lanes[lane]);
    states.add(`${name} ${present(machine.states[to]).name}`);
    states.add(`${name} ${present(machine.states[from]).name}`);
    crossings.add(`${name} ${crossingName(machine, lane, crossing)} #${crossing}`);
  }
  for (const { name, initial } of machine.lanes)
    states.add(`${name} ${present(machine.states[leafFrom(machine, initial)]).name}`);
  return {
    states: [...states].sort(),
    crossings: [...crossings].sort(),
    ofStates: machine.states.filter((s) => s.members.length === 0).length,
    ofCrossings: machine.lanes.reduce((n, l) => n + l.crossings.length, 0),
  };
}
