import { present } from '../../present.js';
import type { Change, Path } from '../../model/index.js';
import { type Effect, leafFrom, type Machine, type State } from '../../machine/index.js';
import { type Expression, formatValue, mapParts, print, type Syntax } from '../../notation/index.js';
import type { Finding } from '../sentences/finding.js';

/** A mechanical repair: what it does in words, and as changes of the moveset's document. */
export interface Repair {
  title: string;
  changes: Change[];
}

/**
 * Repairs of a finding that might be made by machine; none for most, where somebody must say what was meant. Nobody is
 * offered one that was not tried: see `triedRepairs`.
 */
export function repairsOf(machine: Machine, finding: Finding): Repair[] {
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
      const idle = finding.evidence.ways
        .flatMap(({ hindrance }) => (hindrance.kind === 'shut' ? hindrance.constants : []))
        .find((c) => c.kind === 'neverStarted');
      return state === undefined || idle === undefined ? [] : [addedOnEntry(state, `start ${idle.name}`)];
    }
    case 'OUT5': {
      const variable = machine.variables.find((v) => v.name === finding.evidence.thing);
      if (variable?.kind === 'count' && finding.evidence.end.value < finding.evidence.start.value)
        return change(variable, `Refill ${variable.name} on the ground`, 'refill', 'grounded');
      return variable?.kind === 'count'
        ? []
        : change(variable, `Reset ${variable?.name} on the ground`, 'reset', 'grounded');
    }
    case 'IN3':
    case 'AG1': {
      if (crossing === undefined || lane === undefined) return [];
      const taken = new Set(lane.crossings.map((c) => c.rank));
      // The next rank that makes no other tie: just above its own, or above all that it loses to.
      let rank = finding.code === 'AG1' ? crossing.rank + 1 : Math.max(...taken) + 1;
      while (taken.has(rank)) rank++;
      const to = present(machine.states[crossing.to]).name;
      return change(crossing, `Raise the rank of the crossing to ${to} to ${rank}`, 'rank', rank);
    }
    case 'AG2': {
      const { channel, first, last } = finding.evidence;
      const winner = machine.lanes.find((l) => l.name === last.lane);
      if (winner === undefined || winner.name === first.lane) return [];
      return change(winner, `Let the lane ${winner.name} leave ${channel} to the others`, 'yields', [
        ...winner.yields,
        channel,
      ]);
    }
    case 'AG6': {
      const timer = machine.timers.find((t) => t.name === finding.evidence.timer);
      return change(timer, `Let a running ${timer?.name} go on when it is started again`, 'again', 'ignore');
    }
    case 'RK2': {
      if (crossing?.when === undefined) return [];
      const pressed = asPress(crossing.when, finding.evidence.control);
      return change(crossing, `Ask for \`${pressed}\``, 'when', pressed);
    }
    case 'RK4':
      return lengthened(machine, finding.evidence.probe);
    case 'RK6': {
      const stance = machine.stances.find((s) => s.name === finding.evidence.to);
      return change(stance, `Anchor ${stance?.name} at the feet`, 'anchor', 'feet');
    }
    case 'TD4':
      return [{ title: 'Remove the one that comes second', changes: [{ path: finding.path }] }];
    case 'TD7': {
      const dial = machine.dials.find((d) => d.name === finding.evidence.name);
      if (dial === undefined) return [];
      const bound = finding.evidence.side === 'below' ? 'min' : 'max';
      const value = formatValue(dial[bound], dial.dimension);
      return change(dial, `Turn ${dial.name} to ${value}`, 'value', value);
    }
    case 'TD8':
      return [{ title: `Remove \`${finding.evidence.field}\``, changes: [{ path: finding.path }] }];
    default:
      return [];
  }
}

/** One field of a thing given a value; nothing where the thing is no more. */
const change = (thing: { path: Path } | undefined, title: string, field: string, value: unknown): Repair[] =>
  thing === undefined ? [] : [{ title, changes: [{ path: [...thing.path, field], value }] }];

/** A guard that asks for a press where it asked for a button to be held. */
function asPress(when: Expression, control: string): string {
  const swapped = (node: Syntax): Syntax => {
    if (node.kind === 'call' && node.name === 'held') {
      const [arg] = node.args;
      return arg?.kind === 'name' && arg.name === control ? { ...node, name: 'pressed' } : node;
    }
    return mapParts(node, swapped);
  };
  return print(swapped(when.syntax));
}

/** The home of a state's lane, or where the lane begins. */
function homeOf(machine: Machine, { lane }: State): State {
  const { states, initial } = present(machine.lanes[lane]);
  const home = states.find(
    (s) => present(machine.states[s]).home && present(machine.states[s]).members.length === 0,
  );
  return present(machine.states[home ?? leafFrom(machine, initial)]);
}

const textsOf = (effects: readonly Effect[]): string[] => effects.map((e) => e.text);

const addedOnEntry = (state: State, effect: string): Repair => ({
  title: `${present(effect[0]).toUpperCase()}${effect.slice(1)} on entering ${state.name}`,
  changes: [{ path: [...state.path, 'enter'], value: [...textsOf(state.enter), effect] }],
});

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
