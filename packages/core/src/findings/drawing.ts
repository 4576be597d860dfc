import { type Crossing, exitsOf, type Machine } from '../machine/index.js';
import { type Expression, factsIn, print, unitOf } from '../notation/index.js';
import type { Finding } from './catalogue.js';
import { constantFacts } from './constants.js';
import { conjuncts, shutGuard } from './guard.js';
import { type Bound, type Formula, formulaOf } from './literals.js';
import { shadowOf } from './overshadow.js';
import { digitRead, writersInWords } from './skeleton/index.js';

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
  const lane = machine.lanes.find((l) => l.name === finding.lane);
  const crossing = finding.crossing === null ? undefined : lane?.crossings[finding.crossing.index];
  if (finding.code === 'AG1') return tieOf(machine, finding, crossing?.rank ?? 0);
  if (finding.code === 'AG2') {
    const [, channel, first, last] = finding.fingerprint.split('/');
    return { kind: 'lost', channel: channel!, first: first!, last: last! };
  }
  if (!/^(IN[235]|OUT[235])$/.test(finding.code) || crossing === undefined) return undefined;
  const shut = shutGuard(machine, crossing, constantFacts(machine));
  if (shut === undefined) {
    const winners = shadowOf(machine, crossing, constantFacts(machine));
    if (winners !== undefined)
      return { kind: 'order', considered: [...winners, crossing].map((c) => consideredOf(machine, c)) };
  }
  const terms = conjuncts(crossing.when);
  if (shut !== undefined && shut.because.length === 0) {
    const clashing = terms.filter((term) => shut.terms.includes(print(term.syntax)));
    return lineOf(clashing) ?? { kind: 'clash', terms: shut.terms, because: [] };
  }
  const told = [finding.sentence, ...finding.reason].join('\n');
  const dry = finding.code === 'OUT5' ? finding.fingerprint.split('/')[1] : undefined;
  const asked = terms.filter(
    (term) =>
      told.includes(`\`${print(term.syntax)}\``) ||
      factsIn(term).some(({ fact, of }) => fact === 'variable' && of === dry),
  );
  return writesOf(machine, asked) ?? (shut && { kind: 'clash', terms: shut.terms, because: shut.because });
}

const guardText = ({ when }: Crossing): string => (when === undefined ? 'always' : print(when.syntax));

const consideredOf = (machine: Machine, crossing: Crossing) => ({
  to: machine.states[crossing.to]!.name,
  when: guardText(crossing),
  rank: crossing.rank,
});

function tieOf(machine: Machine, { state, fingerprint }: Finding, rank: number): Drawing | undefined {
  const leaf = machine.states.find((s) => s.name === state);
  const targets = fingerprint.split('/')[3]?.split('+') ?? [];
  if (leaf === undefined || targets.length < 2) return undefined;
  const sides = exitsOf(machine, leaf.index).flatMap(({ crossing }) => {
    const to = machine.states[crossing.to]!.name;
    if (crossing.rank !== rank || !targets.includes(to)) return [];
    return [{ to, when: guardText(crossing) }];
  });
  return sides.length < 2 ? undefined : { kind: 'tie', state, rank, sides };
}

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
    for (const { op, value } of bounds!) {
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
  return parts.some((p) => p === undefined) ? undefined : parts.flatMap((p) => p!);
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
        writers: writersInWords(machine, { ...read, name, size: 0, leaves: [], saturated: false }),
      };
      thing.asked.push(print(term.syntax));
      things.set(name, thing);
    }
  }
  return things.size === 0 ? undefined : { kind: 'writes', things: [...things.values()] };
}
