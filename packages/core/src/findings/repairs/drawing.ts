import { present } from '../../present.js';
import type { Crossing, Machine } from '../../machine/index.js';
import { type Expression, factsIn, print, unitOf } from '../../notation/index.js';
import type { ClosedWay } from '../catalogue/evidence.js';
import type { Finding } from '../sentences/finding.js';
import { conjuncts, guardText } from '../proved/guard.js';
import { type Bound, type Formula, formulaOf } from '../../solver/index.js';
import { digitRead, writersOfThing } from '../proved/skeleton/index.js';
import { constantWords, writerWords } from '../sentences/words.js';

/** One term of a guard as the stretch of a number line on which it holds; infinite where it has no end. */
export interface Stretch {
  term: string;
  from: number;
  to: number;
  /** Whether the ends themselves are left out. */
  fromOpen: boolean;
  toOpen: boolean;
}

/** What a reason looks like, as plain data. */
export type Drawing =
  /** Terms about one number that never hold together, on its line. */
  | { kind: 'line'; of: string; unit: string; stretches: Stretch[] }
  /** Terms that never hold together, and what is always so. */
  | { kind: 'clash'; terms: string[]; because: string[] }
  /** Things that a guard waits for, with all that writes them. */
  | { kind: 'writes'; things: { name: string; asked: string[]; writers: string[] }[] }
  /** Crossings of one rank that open together. */
  | { kind: 'tie'; state: string; rank: number; sides: { to: string; when: string }[] }
  /** Crossings in the order in which they are considered: the last always loses. */
  | { kind: 'order'; considered: { to: string; when: string; rank: number }[] }
  /** Two writes of one channel in one tick, in their order: the first is lost. */
  | { kind: 'lost'; channel: string; first: string; last: string };

/** The reason of a finding as a drawing; undefined when words say it all. */
export function drawingOf(machine: Machine, finding: Finding): Drawing | undefined {
  switch (finding.code) {
    case 'AG1': {
      const { rank, crossings } = finding.evidence;
      const sides = crossings.map(({ to, when }) => ({ to, when: when ?? 'always' }));
      return sides.length < 2 ? undefined : { kind: 'tie', state: finding.state, rank, sides };
    }
    case 'AG2': {
      const { channel, first, last } = finding.evidence;
      return { kind: 'lost', channel, first: first.by, last: last.by };
    }
    case 'OUT5': {
      const { writers } = finding.evidence;
      return {
        kind: 'writes',
        things: [
          {
            name: writers.name,
            asked: askedOf(machine, finding, writers.name),
            writers: writers.by.map(writerWords),
          },
        ],
      };
    }
    case 'IN2':
    case 'IN3':
    case 'IN5':
    case 'OUT2':
      return hindranceOf(machine, finding, finding.evidence.ways);
    case 'OUT3':
      return finding.evidence.kind === 'while'
        ? hindranceOf(machine, finding, finding.evidence.ways)
        : undefined;
    default:
      return undefined;
  }
}

/** The crossing that a finding names. */
const crossingOf = (machine: Machine, { lane, crossing }: Finding): Crossing | undefined =>
  crossing === null ? undefined : machine.lanes.find((l) => l.name === lane)?.crossings[crossing.index];

/** The terms of a finding's crossing that ask for a thing. */
const askedOf = (machine: Machine, finding: Finding, name: string): string[] =>
  conjuncts(crossingOf(machine, finding)?.when)
    .filter((term) => factsIn(term).some(({ of }) => of === name))
    .map((term) => print(term.syntax));

/** What hinders the first of some ways. */
function hindranceOf(machine: Machine, finding: Finding, ways: readonly ClosedWay[]): Drawing | undefined {
  const crossing = crossingOf(machine, finding);
  const hindrance = ways[0]?.hindrance;
  if (crossing === undefined || hindrance === undefined) return undefined;
  switch (hindrance.kind) {
    case 'overshadowed': {
      const winners = hindrance.winners.map(({ to, when, rank }) => ({ to, when: when ?? 'always', rank }));
      return { kind: 'order', considered: [...winners, consideredOf(machine, crossing)] };
    }
    case 'shut': {
      const { terms, constants } = hindrance;
      const clashing = conjuncts(crossing.when).filter((term) => terms.includes(print(term.syntax)));
      if (constants.length === 0) return lineOf(clashing) ?? { kind: 'clash', terms, because: [] };
      return writesOf(machine, clashing) ?? { kind: 'clash', terms, because: constants.map(constantWords) };
    }
    case 'blocked': {
      const things = hindrance.writers.map((writers) => ({
        name: writers.name,
        asked: askedOf(machine, finding, writers.name),
        writers: writers.by.map(writerWords),
      }));
      return things.length === 0 ? undefined : { kind: 'writes', things };
    }
  }
}

const consideredOf = (machine: Machine, crossing: Crossing) => ({
  to: present(machine.states[crossing.to]).name,
  when: guardText(crossing.when),
  rank: crossing.rank,
});

/** Comparisons of one number with constants, on its line; undefined when there is anything else among the terms. */
function lineOf(terms: readonly Expression[]): Drawing | undefined {
  const read = terms.map((term) => ({ term, bounds: boundsOf(formulaOf(term)) }));
  const keys = new Set(read.flatMap(({ bounds }) => bounds?.map((b) => b.key) ?? [undefined]));
  const [key] = keys;
  const first = terms[0];
  if (keys.size !== 1 || key === undefined || first?.kind !== 'compare') return undefined;
  // Lengths of time are compared in ticks; people read seconds.
  const scale = first.rate === undefined ? 1 : 1 / first.rate;
  const stretches = read.map(({ term, bounds }): Stretch => {
    const stretch = {
      term: print(term.syntax),
      from: -Infinity,
      to: Infinity,
      fromOpen: true,
      toOpen: true,
    };
    for (const { op, value } of present(bounds)) {
      const isOpen = op === '<' || op === '>';
      if (op === '<' || op === '<=') Object.assign(stretch, { to: value * scale, toOpen: isOpen });
      else Object.assign(stretch, { from: value * scale, fromOpen: isOpen });
    }
    return stretch;
  });
  // Of the fact behind the number people read what they wrote; a part that is no fact is not shown on a line.
  const ref = factsIn(first)[0];
  if (ref === undefined) return undefined;
  return {
    kind: 'line',
    of: print(first.left.kind === 'constant' ? first.right.syntax : first.left.syntax),
    unit: unitOf(first.left.dimension),
    stretches,
  };
}

function boundsOf(formula: Formula): Bound[] | undefined {
  if (formula.kind === 'bound') return [formula];
  if (formula.kind !== 'and') return undefined;
  const parts = formula.parts.map(boundsOf);
  return parts.some((p) => p === undefined) ? undefined : parts.flatMap((p) => present(p));
}

/** What the terms of a guard wait for, of all that effects write. */
function writesOf(machine: Machine, terms: readonly Expression[]): Drawing | undefined {
  const things = new Map<string, { name: string; asked: string[]; writers: string[] }>();
  for (const term of terms) {
    for (const ref of factsIn(term)) {
      const read = digitRead(machine, ref);
      const name = ref.of;
      if (read === undefined || read.kind === 'leaf' || name === undefined) continue;
      const thing = things.get(name) ?? {
        name,
        asked: [],
        writers: writersOfThing(machine, { ...read, name }).by.map(writerWords),
      };
      thing.asked.push(print(term.syntax));
      things.set(name, thing);
    }
  }
  return things.size === 0 ? undefined : { kind: 'writes', things: [...things.values()] };
}
