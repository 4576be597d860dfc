import { chainOf, type Crossing, leafFrom, levelOf, type Machine } from '../machine/index.js';
import type { Finding } from './catalogue.js';
import { constantFacts } from './constants.js';
import { describeShut, type Shut, shutGuard, sourcesOf, targetsOf } from './guard.js';

/** What can be said without running anything: IN1, IN2 and OUT1. Every answer is proved. */
export function structuralFindings(machine: Machine): Finding[] {
  const constants = constantFacts(machine);
  const shut = new Map<Crossing, Shut | undefined>();
  const whyShut = (crossing: Crossing): Shut | undefined => {
    if (!shut.has(crossing)) shut.set(crossing, shutGuard(machine, crossing, constants));
    return shut.get(crossing);
  };
  return machine.lanes.flatMap((lane) => {
    const leaves = lane.states.filter((s) => machine.states[s]!.members.length === 0);
    if (leaves.length === 1) return [];
    const start = leafFrom(machine, lane.initial);
    return leaves.flatMap((leaf) => [
      ...(leaf === start
        ? []
        : entranceFindings(machine, leaf, waysIn(machine, lane.crossings, leaf), whyShut)),
      ...exitFindings(machine, leaf, lane.crossings),
    ]);
  });
}

/** Crossings that lead into a state from another one. */
export const waysIn = (machine: Machine, crossings: readonly Crossing[], leaf: number): Crossing[] =>
  crossings.filter(
    (c) => targetsOf(machine, c).includes(leaf) && sourcesOf(machine, c).some((s) => s !== leaf),
  );

/** Crossings that lead out of a state to another one. */
export const waysOut = (machine: Machine, crossings: readonly Crossing[], leaf: number): Crossing[] =>
  crossings.filter(
    (c) =>
      levelOf(machine, c, leaf, chainOf(machine, leaf)) >= 0 && targetsOf(machine, c).some((t) => t !== leaf),
  );

function entranceFindings(
  machine: Machine,
  leaf: number,
  ways: Crossing[],
  whyShut: (c: Crossing) => Shut | undefined,
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
  const reasons = ways.map(whyShut);
  if (reasons.some((r) => r === undefined)) return [];
  const from = (c: Crossing): string =>
    c.from.length === 0 ? 'everywhere' : c.from.map((s) => machine.states[s]!.name).join(', ');
  const first = ways[0]!;
  const lines = ways.map(
    (c, i) => `${from(c)} → ${machine.states[c.to]!.name}: ${describeShut(reasons[i]!)}.`,
  );
  const which =
    ways.length === 1
      ? `its only way in, from ${from(first)},`
      : `none of its ${ways.length} ways in can ever open; the one from ${from(first)}`;
  return [
    {
      ...base,
      code: 'IN2',
      crossing: { from: from(first), to: machine.states[first.to]!.name, index: first.index },
      sentence: `${state.name} can never be entered: ${which} ${shutSentence(reasons[0]!)}.`,
      reason: lines,
      path: first.path,
      fingerprint: `IN2/${lane}/${state.name}`,
    },
  ];
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

function exitFindings(machine: Machine, leaf: number, crossings: readonly Crossing[]): Finding[] {
  const state = machine.states[leaf]!;
  const final = chainOf(machine, leaf).some((s) => machine.states[s]!.final);
  if (final || waysOut(machine, crossings, leaf).length > 0) return [];
  const lane = machine.lanes[state.lane]!.name;
  return [
    {
      code: 'OUT1',
      certainty: 'proved',
      lane,
      state: state.name,
      crossing: null,
      sentence: `${state.name} can never be left: no crossing leads out of it, and it is not final.`,
      reason: [
        `The lane ${lane} has no crossing from ${state.name}, from a group around it, or from everywhere, that leads elsewhere.`,
      ],
      witness: null,
      path: state.path,
      fingerprint: `OUT1/${lane}/${state.name}`,
    },
  ];
}
