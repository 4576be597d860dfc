import { present } from '../../present.js';
import { type Crossing, declaredIn, type Machine } from '../../machine/index.js';
import type { Path } from '../../model/index.js';
import type { ClosedWay, Hindrance, Writer } from '../catalogue/evidence.js';
import type { Finding } from '../sentences/finding.js';
import { constantWords, quoted, wayLines, writerWords } from '../sentences/words.js';

/** A place of the moveset that is part of the reason of a finding, and what is to be seen there. */
export interface ReasonPlace {
  path: Path;
  words: string;
}

/**
 * The places of a moveset that a finding comes from: crossings, writes, and what things are declared as. Its own place, and
 * what is in that, is left out.
 */
export function reasonPlaces(machine: Machine, finding: Finding): ReasonPlace[] {
  const seen = new Set<string>();
  return placesOf(machine, finding).filter(({ path, words }) => {
    const key = JSON.stringify([path, words]);
    if (finding.path.every((step, depth) => step === path[depth]) || seen.has(key)) return false;
    seen.add(key);
    return true;
  });
}

function placesOf(machine: Machine, finding: Finding): ReasonPlace[] {
  const { code, evidence, lane } = finding;
  if ('ways' in evidence) return evidence.ways.flatMap((way) => placesOfWay(machine, lane, way));
  if (code === 'OUT5') return placesOfWriters(machine, evidence.writers.name, evidence.writers.by);
  if (code === 'AG1') {
    const crossings = machine.lanes.find(({ name }) => name === lane)?.crossings ?? [];
    return evidence.crossings.map(({ index, to, when }) => ({
      path: pathOf(present(crossings[index])),
      words: `to ${to}: ${when === null ? 'always open' : quoted(when)}`,
    }));
  }
  if (code === 'AG2')
    return [evidence.first, evidence.last].flatMap(({ by, state, value }) =>
      declared(machine, [state]).map(({ path }) => ({ path, words: `${by} writes ${value}` })),
    );
  return declared(machine, Object.values(evidence).flat());
}

function placesOfWay(machine: Machine, laneName: string, way: ClosedWay): ReasonPlace[] {
  const lane = machine.lanes.find(({ name }) => name === laneName);
  const crossing = lane?.crossings[way.crossing.index];
  const own = crossing === undefined ? [] : [{ path: pathOf(crossing), words: present(wayLines(way)[0]) }];
  return [...own, ...placesOfHindrance(machine, lane?.crossings ?? [], way.hindrance)];
}

function placesOfHindrance(
  machine: Machine,
  crossings: readonly Crossing[],
  hindrance: Hindrance,
): ReasonPlace[] {
  switch (hindrance.kind) {
    case 'shut':
      return hindrance.constants.flatMap((constant) =>
        declared(machine, [constant.name]).map(({ path }) => ({ path, words: constantWords(constant) })),
      );
    case 'overshadowed':
      return hindrance.winners.flatMap(({ from, to, rank, when }) =>
        crossings
          .filter((c) => c.rank === rank && nameOf(machine, c.to) === to)
          .map((c) => ({
            path: pathOf(c),
            words: `${from} → ${to} comes first (rank ${rank}): ${when === null ? 'always open' : quoted(when)}`,
          })),
      );
    case 'blocked':
      return hindrance.writers.flatMap(({ name, by }) => placesOfWriters(machine, name, by));
  }
}

/** Where a thing is declared, and where it is written. */
function placesOfWriters(machine: Machine, thing: string, writers: readonly Writer[]): ReasonPlace[] {
  if (writers.length === 0)
    return declared(machine, [thing]).map(({ path }) => ({ path, words: `nothing writes ${thing}` }));
  return writers.flatMap((writer) =>
    writerPaths(machine, writer).map((path) => ({ path, words: `${writerWords(writer)} writes ${thing}` })),
  );
}

const FIELDS = { entering: 'enter', leaving: 'exit', 'every tick in': 'each' } as const;

function writerPaths(machine: Machine, { how, state, from }: Writer): Path[] {
  if (how !== 'crossing')
    return machine.states.filter(({ name }) => name === state).map(({ path }) => [...path, FIELDS[how]]);
  return machine.lanes
    .flatMap(({ crossings }) => crossings)
    .filter((c) => nameOf(machine, c.to) === state)
    .filter((c) => c.from.length === 0 || c.from.some((s) => nameOf(machine, s) === from))
    .map(({ path }) => [...path, 'do']);
}

/** Where what is called so is declared; what is no name is left out. */
const declared = (machine: Machine, names: readonly unknown[]): ReasonPlace[] =>
  declaredIn(machine)
    .filter(({ name }) => names.includes(name))
    .map(({ kind, name, path }) => ({ path, words: `the ${kind} ${name}` }));

const nameOf = ({ states }: Machine, state: number): string => present(states[state]).name;
const pathOf = ({ path, when }: Crossing): Path => (when === undefined ? path : [...path, 'when']);
