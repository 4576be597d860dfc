import type { Change } from '../model/index.js';
import { type Effect, leafFrom, type Machine, type State } from '../machine/index.js';
import { formatValue, print } from '../notation/index.js';
import type { Finding } from './catalogue.js';

/** A mechanical repair: what it does in words, and as changes of the moveset's document. */
export interface Repair {
  title: string;
  changes: Change[];
}

/** The repairs of a finding that can be made by machine; none for most, where somebody must say what was meant. */
export function repairsOf(machine: Machine, finding: Finding): Repair[] {
  const parts = finding.fingerprint.split('/');
  const state = machine.states.find((s) => s.name === finding.state);
  const lane = machine.lanes.find((l) => l.name === finding.lane);
  const crossing = finding.crossing === null ? undefined : lane?.crossings[finding.crossing.index];
  switch (finding.code) {
    case 'OUT1': {
      if (state === undefined || lane === undefined) return [];
      const to = homeOf(machine, state);
      const path = [...lane.path, 'crossings', lane.crossings.length];
      const value = { from: state.name, to: to.name, when: 'elapsed >= 0.5 s' };
      return [
        {
          title: `Add a crossing from ${state.name} to ${to.name} after 0.5 s`,
          changes: [{ path, value, insert: true }],
        },
      ];
    }
    case 'OUT2': {
      const idle = /nothing ever starts (\w+)/.exec(finding.sentence)?.[1];
      return state === undefined || idle === undefined ? [] : [addedOnEntry(state, `start ${idle}`)];
    }
    case 'OUT5': {
      const variable = machine.variables.find((v) => v.name === parts[1]);
      if (variable === undefined) return [];
      return [
        {
          title: `Refill ${variable.name} on the ground`,
          changes: [{ path: [...variable.path, 'refill'], value: 'grounded' }],
        },
      ];
    }
    case 'IN3':
    case 'AG1': {
      if (crossing === undefined || lane === undefined) return [];
      const rank =
        finding.code === 'AG1' ? crossing.rank + 1 : Math.max(...lane.crossings.map((c) => c.rank)) + 1;
      return [
        {
          title: `Raise the rank of the crossing to ${machine.states[crossing.to]!.name} to ${rank}`,
          changes: [{ path: [...crossing.path, 'rank'], value: rank }],
        },
      ];
    }
    case 'AG2':
      return yielding(machine, parts[1]!, finding.lane, parts[3]!);
    case 'AG6': {
      const timer = machine.timers.find((t) => t.name === parts[1]);
      if (timer === undefined) return [];
      return [
        {
          title: `Let a running ${timer.name} go on when it is started again`,
          changes: [{ path: [...timer.path, 'again'], value: 'ignore' }],
        },
      ];
    }
    case 'RK2': {
      if (crossing?.when === undefined) return [];
      const when = print(crossing.when.syntax);
      const pressed = when.replace(/\bheld\((\w+)\)/, 'pressed($1)');
      return [
        { title: `Ask for \`${pressed}\``, changes: [{ path: [...crossing.path, 'when'], value: pressed }] },
      ];
    }
    case 'RK4':
      return lengthened(machine, parts[1]!);
    case 'RK6': {
      const stance = machine.stances.find((s) => s.name === parts[1]!.split('>')[1]);
      if (stance === undefined) return [];
      return [
        {
          title: `Anchor ${stance.name} at the feet`,
          changes: [{ path: [...stance.path, 'anchor'], value: 'feet' }],
        },
      ];
    }
    case 'TD4':
      return [{ title: 'Remove the second one', changes: [{ path: finding.path }] }];
    case 'TD7': {
      const dial = machine.dials.find((d) => d.name === parts[2]);
      if (dial === undefined) return [];
      const bound = dial.value < dial.min ? 'min' : 'max';
      const value = formatValue(dial[bound], dial.dimension);
      return [
        { title: `Turn ${dial.name} to ${value}`, changes: [{ path: [...dial.path, 'value'], value }] },
      ];
    }
    default:
      return [];
  }
}

/** The home of a state's lane, or where the lane begins. */
function homeOf(machine: Machine, { lane }: State): State {
  const { states, initial } = machine.lanes[lane]!;
  const home = states.find((s) => machine.states[s]!.home && machine.states[s]!.members.length === 0);
  return machine.states[home ?? leafFrom(machine, initial)]!;
}

const textsOf = (effects: readonly Effect[]): string[] => effects.map((e) => e.text);

const addedOnEntry = (state: State, effect: string): Repair => ({
  title: `${effect[0]!.toUpperCase()}${effect.slice(1)} on entering ${state.name}`,
  changes: [{ path: [...state.path, 'enter'], value: [...textsOf(state.enter), effect] }],
});

/** The lane whose write wins leaves the channel to the others. */
function yielding(machine: Machine, channel: string, lost: string, winner: string): Repair[] {
  const name = winner.split(' ')[0];
  const state = machine.states.find((s) => s.name === name);
  const lane = state === undefined ? undefined : machine.lanes[state.lane];
  if (lane === undefined || lane.name === lost) return [];
  return [
    {
      title: `Let the lane ${lane.name} leave ${channel} to the others`,
      changes: [{ path: [...lane.path, 'yields'], value: [...lane.yields, channel] }],
    },
  ];
}

/** A probe that goes sideways, made to end 10 cm outside the widest stance. */
function lengthened(machine: Machine, name: string): Repair[] {
  const probe = machine.probes.find((p) => p.name === name);
  if (probe === undefined || 'aim' in probe.direction || probe.direction.y !== 0) return [];
  const half = Math.max(...machine.stances.flatMap((s) => s.parts.map((p) => p.ox + p.width / 2)));
  const reach = Math.round((half - probe.x + 0.1) * 100) / 100;
  return [
    {
      title: `Let ${name} reach ${reach} m, 10 cm beyond the body`,
      changes: [{ path: [...probe.path, 'reach'], value: `${reach} m` }],
    },
  ];
}
