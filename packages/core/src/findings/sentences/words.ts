import { present } from '../../present.js';
import type {
  ClockRange,
  ClosedWay,
  ConstantRef,
  CrossingPlace,
  Hindrance,
  TakenValues,
  ThingValue,
  Writer,
  Writers,
} from '../catalogue/evidence.js';

/** What people read of a fault: a sentence, and the lines of its reason. */
export interface Words {
  sentence: string;
  reason: string[];
}

/** Parts of sentences that several findings share. */

export const NO_RUN = 'No run has come there yet.';

/** A crossing at the beginning of a sentence. */
export function crossingWords(crossing: CrossingPlace | null): string {
  const { from, to } = present(crossing);
  return `The crossing from ${from} to ${to}`;
}

export const listed = (names: readonly string[], word: 'and' | 'or' = 'and'): string =>
  names.length < 2 ? (names[0] ?? '') : `${names.slice(0, -1).join(', ')} ${word} ${names[names.length - 1]}`;

export const quoted = (term: string): string => `\`${term}\``;

/** "at most 2.13 m above what it stood on, at up to 6 m/s sideways". */
export const riseWords = ({ height, sideways }: { height: number; sideways: number }): string =>
  `at most ${height} m above what it stood on, at up to ${sideways} m/s sideways`;

const CONSTANTS: Record<ConstantRef['kind'], (name: string, courses: string, ref: ConstantRef) => string> = {
  unbound: (name) => `the control ${name} has no key or pad bound to it`,
  neverStarted: (name) => `nothing ever starts ${name}`,
  neverRuns: (name) => `${name} never runs: what its \`runs\` asks for can never hold`,
  neverSet: (name) => `nothing ever sets ${name}`,
  neverCleared: (name) => `nothing ever clears ${name}`,
  neverGivenBack: (name) => `nothing ever gives ${name} back`,
  noZone: (name, courses) => `${courses} has no zone that is tagged ${name}`,
  noSolid: (name, courses) => `${courses} has nothing solid that is tagged ${name}`,
  noAnchor: (name, courses) => `${courses} has no anchor that is tagged ${name}`,
  neverUnlocked: (name, courses) => `nothing on ${courses} unlocks ${name}`,
  walledOff: (name, courses) => `no way to ${name} on ${courses} has room for the body`,
  tooHigh: (name, courses, { rise }) =>
    `${name} on ${courses} is higher than the body rises: ${riseWords(present(rise))}`,
  noRoom: (name, courses) => `no place that the body comes to on ${courses} has room for ${name}`,
};

/** A fact that no run can change, as the end of a sentence. */
export const constantWords = (ref: ConstantRef): string =>
  CONSTANTS[ref.kind](ref.name, listed(ref.courses ?? [], 'or'), ref);

/** Why a guard can never hold: for the line under a guard that is being written. */
export function shutWords(terms: readonly string[], constants: readonly ConstantRef[]): string {
  const because = constants.map(constantWords);
  if (because.length > 0) {
    const asks = terms.length === 0 ? '' : `it asks for ${terms.map(quoted).join(' and ')}, but `;
    return asks + because.join(' and ');
  }
  return terms.length === 1
    ? `${quoted(present(terms[0]))} can never hold`
    : `${terms.map(quoted).join(' and ')} exclude each other`;
}

/** Why a crossing cannot be taken, as what comes after its name: "asks for …, but …". */
export function hindranceWords(hindrance: Hindrance): string {
  switch (hindrance.kind) {
    case 'overshadowed': {
      const targets = [...new Set(hindrance.winners.map((w) => w.to))];
      return `always loses to the crossing to ${targets.join(' or ')}, which is open whenever it is`;
    }
    case 'blocked': {
      const taken = [...hindrance.taken.flatMap(takenWords), ...hindrance.clocks.map(clockWords)];
      const why = taken.length === 0 ? 'which never holds there' : `but ${taken.join(' and ')}`;
      return `asks for ${hindrance.terms.join(' and ')}, ${why}`;
    }
    case 'shut': {
      const terms = hindrance.terms.map(quoted);
      const because = hindrance.constants.map(constantWords);
      if (because.length > 0)
        return terms.length > 0
          ? `asks for ${terms.join(' and ')}, but ${because.join(' and ')}`
          : `stays shut, because ${because.join(' and ')}`;
      if (terms.length === 1) return `asks for ${terms[0]}, which can never hold`;
      return `asks for ${listed(terms)} at once, and they exclude each other`;
    }
  }
}

/** The lines of reason about one crossing. */
export function wayLines({ crossing: { from, to }, rank, state, hindrance }: ClosedWay): string[] {
  switch (hindrance.kind) {
    case 'shut':
      return [`${from} → ${to}: ${shutWords(hindrance.terms, hindrance.constants)}.`];
    case 'overshadowed': {
      const winners = hindrance.winners.map((w) => {
        const guard = w.when === null ? 'which is always open' : quoted(w.when);
        return `${w.from} → ${w.to} (rank ${w.rank}), ${guard}`;
      });
      return [`${from} → ${to} (rank ${rank}) always loses to ${winners.join('; or to ')}.`];
    }
    case 'blocked': {
      const head = `${state} → ${to} ${hindranceWords(hindrance)}`;
      const where = from === state ? '' : ` (listed from ${from})`;
      return [`${head}${where}.`, ...hindrance.writers.map(writersLine)];
    }
  }
}

function writersLine(writers: Writers): string {
  const { name, by, fromExit } = writers;
  if (by.length === 0) return `Nothing writes ${name}.`;
  const line = `${name} is written only by ${writersWords(writers)}.`;
  return fromExit === true ? `${line} It recharges only once the state that spent it is left.` : line;
}

export const writersWords = ({ by }: Pick<Writers, 'by'>): string => by.map(writerWords).join(', ');

/** "entering Gust", "the crossing from Trot to Rise". */
export const writerWords = ({ how, state, from }: Writer): string =>
  how === 'crossing' ? `the crossing from ${from} to ${state}` : `${how} ${state}`;

const TIMER = ['not started', 'running', 'done'];

/** A value of something discrete, as the end of "while …". */
export function valueWords({ kind, name, value, state, orMore, between }: ThingValue): string {
  switch (kind) {
    case 'leaf':
      return `in ${state}`;
    case 'flag':
      return `${name} is ${value === 1 ? 'set' : 'clear'}`;
    case 'timer':
      return `${name} is ${TIMER[value]}`;
    case 'charges':
      return `${name} has ${value === 0 ? 'no charge' : `${value} charge${value === 1 ? '' : 's'}`} left`;
    case 'lock':
      return `${name} is ${value === 1 ? 'unlocked' : 'locked'}`;
    case 'event':
      return `${name} ${value === 1 ? 'was' : 'was not'} raised`;
    case 'number':
      return `${name} is ${betweenWords(between ?? [null, null])}`;
    case 'count':
      return `${name} is ${value}${orMore === true ? ' or more' : ''}`;
  }
}

/** "below 3", "3", "between 3 and 5". */
function betweenWords([low, high]: readonly [string | null, string | null]): string {
  if (low === high) return low ?? 'anything';
  if (low === null) return `below ${high}`;
  return high === null ? `above ${low}` : `between ${low} and ${high}`;
}

export const whileWords = (values: readonly ThingValue[]): string => values.map(valueWords).join(' and ');

/** "elapsed is never more than 0.3 s". */
function clockWords({ name, least, most }: ClockRange): string {
  if (most === null) return `${name} is never less than ${least ?? 0} s`;
  return least === null || least <= 0 || least < most / 2
    ? `${name} is never more than ${most} s`
    : least === most
      ? `${name} is always ${most} s`
      : `${name} is always between ${least} s and ${most} s`;
}

/** What is always so of something discrete. */
function takenWords({ kind, name, values }: TakenValues): string[] {
  const [only] = values;
  if (only === undefined) return [];
  if (values.length === 1) return [valueWords(only).replace(/ is | has /, '$&always ')];
  if (kind === 'leaf')
    return [
      `the lane ${name} is only ever in ${listed(
        values.map((v) => v.state ?? ''),
        'or',
      )}`,
    ];
  if (kind === 'timer') {
    const never = ['idle', 'running', 'done'].find((_, v) => !values.some(({ value }) => value === v));
    return [`${name} is never ${never}`];
  }
  return [
    `${name} is only ever ${listed(
      values.map(({ value, between }) => (between === undefined ? String(value) : betweenWords(between))),
      'or',
    )}`,
  ];
}
