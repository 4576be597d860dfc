import { leafFrom, type Machine } from '../../machine/index.js';
import type { Scout } from '../../scout/index.js';
import { crossingName } from './witness.js';

/** States and crossings that a scouting used, by lane and name, and how many there are. */
export interface Coverage {
  states: string[];
  crossings: string[];
  ofStates: number;
  ofCrossings: number;
}

/** What scouts of several courses used, taken together. */
export function coverageOf(machine: Machine, scouts: readonly Scout[]): Coverage {
  const states = new Set<string>();
  const crossings = new Set<string>();
  for (const scout of scouts) {
    for (const { event } of scout.sightingsFrom(0)) {
      if (event.kind !== 'taken') continue;
      const { name } = machine.lanes[event.lane]!;
      states.add(`${name} ${machine.states[event.to]!.name}`);
      states.add(`${name} ${machine.states[event.from]!.name}`);
      crossings.add(`${name} ${crossingName(machine, event.lane, event.crossing)} #${event.crossing}`);
    }
  }
  for (const { name, initial } of machine.lanes)
    states.add(`${name} ${machine.states[leafFrom(machine, initial)]!.name}`);
  return {
    states: [...states].sort(),
    crossings: [...crossings].sort(),
    ofStates: machine.states.filter((s) => s.members.length === 0).length,
    ofCrossings: machine.lanes.reduce((n, l) => n + l.crossings.length, 0),
  };
}
