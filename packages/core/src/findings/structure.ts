import { chainOf, type Crossing, leafFrom, type Machine } from '../machine/index.js';
import { print } from '../notation/index.js';
import type { Finding } from './catalogue.js';
import { constantFacts } from './constants.js';
import {
  describeShut,
  fromOf,
  placeOf,
  type Shut,
  shutGuard,
  sourcesOf,
  targetsOf,
  waysIn,
  waysOut,
} from './guard.js';
import { shadowOf } from './overshadow.js';

/** Why a crossing can never be taken: its guard, or those it always loses to. */
type Dead = { shut: Shut } | { shadow: Crossing[] };

/** What can be said without running anything: IN1, IN2, IN3, IN5, OUT1 and OUT2. Every answer is proved. */
export function structuralFindings(machine: Machine): Finding[] {
  const constants = constantFacts(machine);
  return machine.lanes.flatMap((lane) => {
    const leaves = lane.states.filter((s) => machine.states[s]!.members.length === 0);
    const dead = new Map<Crossing, Dead>();
    for (const crossing of lane.crossings) {
      const shut = shutGuard(machine, crossing, constants);
      const shadow = shut === undefined ? shadowOf(machine, crossing, constants) : undefined;
      if (shut !== undefined) dead.set(crossing, { shut });
      else if (shadow !== undefined) dead.set(crossing, { shadow });
    }
    const start = leafFrom(machine, lane.initial);
    const entrances =
      leaves.length === 1
        ? []
        : leaves
            .filter((leaf) => leaf !== start)
            .flatMap((leaf) => entranceFindings(machine, leaf, waysIn(machine, lane.crossings, leaf), dead));
    const exits =
      leaves.length === 1 ? [] : leaves.flatMap((leaf) => exitFindings(machine, leaf, lane.crossings, dead));
    // What leads to a state that nobody can enter, or out of one that nobody can leave, is told there.
    const closed = new Set(entrances.map((f) => f.state));
    const sealed = new Set(exits.map((f) => f.state));
    const isTold = (names: ReadonlySet<string>, states: readonly number[]): boolean =>
      states.every((s) => names.has(machine.states[s]!.name));
    const crossings = [...dead].filter(
      ([c]) => !isTold(closed, targetsOf(machine, c)) && !isTold(sealed, sourcesOf(machine, c)),
    );
    return [
      ...entrances,
      ...exits,
      ...onePerFault(crossings.map(([crossing, why]) => deadFinding(machine, crossing, why))),
    ];
  });
}

/** Crossings that are word for word the same are one fault. */
const onePerFault = (findings: readonly Finding[]): Finding[] =>
  findings.filter((f, i) => findings.findIndex((g) => g.fingerprint === f.fingerprint) === i);

function entranceFindings(
  machine: Machine,
  leaf: number,
  ways: Crossing[],
  dead: ReadonlyMap<Crossing, Dead>,
): Finding[] {
  const state = machine.states[leaf]!;
  const lane = machine.lanes[state.lane]!.name;
  const base = { certainty: 'proved' as const, lane, state: state.name, witness: null };
  if (ways.length === 0) {
    return [
      {
        ...base,
        code: 'IN1',
        crossing: null,
        sentence: `${state.name} can never be entered: no crossing leads to it.`,
        reason: [
          `The lane ${lane} has no crossing with ${state.name} or a group that starts in it as its target.`,
        ],
        path: state.path,
        fingerprint: `IN1/${lane}/${state.name}`,
      },
    ];
  }
  const reasons = ways.flatMap((c) => dead.get(c) ?? []);
  if (reasons.length < ways.length) return [];
  const first = ways[0]!;
  const which =
    ways.length === 1
      ? `its only way in, from ${fromOf(machine, first)},`
      : `none of its ${ways.length} ways in can ever open; the one from ${fromOf(machine, first)}`;
  const code = reasons.some((r) => 'shadow' in r) ? 'IN3' : 'IN2';
  return [
    {
      ...base,
      code,
      crossing: placeOf(machine, first),
      sentence: `${state.name} can never be entered: ${which} ${deadSentence(machine, reasons[0]!)}.`,
      reason: ways.map((c, i) => reasonLine(machine, c, reasons[i]!)),
      path: first.path,
      fingerprint: `${code}/${lane}/${state.name}`,
    },
  ];
}

function deadFinding(machine: Machine, crossing: Crossing, why: Dead): Finding {
  const lane = machine.lanes[crossing.lane]!.name;
  const place = placeOf(machine, crossing);
  const guard = crossing.when === undefined ? 'always' : print(crossing.when.syntax);
  return {
    code: 'IN5',
    certainty: 'proved',
    lane,
    state: place.to,
    crossing: place,
    sentence: `The crossing from ${place.from} to ${place.to} can never be taken: it ${deadSentence(machine, why)}.`,
    reason: [reasonLine(machine, crossing, why)],
    witness: null,
    path: crossing.path,
    fingerprint: `IN5/${lane}/${place.from}>${place.to}/${guard}`,
  };
}

function reasonLine(machine: Machine, c: Crossing, why: Dead): string {
  const { from, to } = placeOf(machine, c);
  if ('shut' in why) return `${from} → ${to}: ${describeShut(why.shut)}.`;
  const winners = why.shadow.map((w) => {
    const guard = w.when === undefined ? 'which is always open' : `\`${print(w.when.syntax)}\``;
    return `${fromOf(machine, w)} → ${machine.states[w.to]!.name} (rank ${w.rank}), ${guard}`;
  });
  return `${from} → ${to} (rank ${c.rank}) always loses to ${winners.join('; or to ')}.`;
}

function deadSentence(machine: Machine, why: Dead): string {
  if ('shut' in why) return shutSentence(why.shut);
  const targets = [...new Set(why.shadow.map((w) => machine.states[w.to]!.name))];
  return `always loses to the crossing to ${targets.join(' or ')}, which is open whenever it is`;
}

function shutSentence(shut: Shut): string {
  const quoted = shut.terms.map((t) => `\`${t}\``);
  if (shut.because.length > 0)
    return quoted.length > 0
      ? `asks for ${quoted.join(' and ')}, but ${shut.because.join(' and ')}`
      : `stays shut, because ${shut.because.join(' and ')}`;
  if (quoted.length === 1) return `asks for ${quoted[0]}, which can never hold`;
  return `asks for ${quoted.slice(0, -1).join(', ')} and ${quoted[quoted.length - 1]} at once, and they exclude each other`;
}

function exitFindings(
  machine: Machine,
  leaf: number,
  crossings: readonly Crossing[],
  dead: ReadonlyMap<Crossing, Dead>,
): Finding[] {
  const state = machine.states[leaf]!;
  if (chainOf(machine, leaf).some((s) => machine.states[s]!.final)) return [];
  const lane = machine.lanes[state.lane]!.name;
  const base = { certainty: 'proved' as const, lane, state: state.name, witness: null };
  const ways = waysOut(machine, crossings, leaf);
  if (ways.length === 0)
    return [
      {
        ...base,
        code: 'OUT1',
        crossing: null,
        sentence: `${state.name} can never be left: no crossing leads out of it, and it is not final.`,
        reason: [
          `The lane ${lane} has no crossing from ${state.name}, from a group around it, or from everywhere, that leads elsewhere.`,
        ],
        path: state.path,
        fingerprint: `OUT1/${lane}/${state.name}`,
      },
    ];
  // One that loses to another still lets the lane leave: by that other one.
  const shut = ways.flatMap((c) => {
    const why = dead.get(c);
    return why !== undefined && 'shut' in why ? [why.shut] : [];
  });
  if (shut.length < ways.length) return [];
  const first = ways[0]!;
  const which =
    ways.length === 1
      ? `its only way out, to ${machine.states[first.to]!.name},`
      : `none of its ${ways.length} ways out can ever open; the one to ${machine.states[first.to]!.name}`;
  return [
    {
      ...base,
      code: 'OUT2',
      crossing: placeOf(machine, first),
      sentence: `${state.name} can never be left: ${which} ${shutSentence(shut[0]!)}.`,
      reason: ways.map((c, i) => reasonLine(machine, c, { shut: shut[i]! })),
      path: first.path,
      fingerprint: `OUT2/${lane}/${state.name}`,
    },
  ];
}
