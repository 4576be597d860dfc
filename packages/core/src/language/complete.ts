import { declaredIn, type Machine, scopeOf, VERBS } from '../machine/index.js';
import type { Kind } from '../model/index.js';
import { complete, type Dimension, type Scope, TRUTH } from '../notation/index.js';
import { EXPECTATION_FORMS, expectedFrom } from '../run/index.js';
import { expectedAt } from './fields.js';
import { writingPlace } from './writing-place.js';

/** Something that can be written at a caret. */
export interface Suggestion {
  /** What replaces the text from `start` up to `end`. */
  text: string;
  start: number;
  end: number;
  help: string;
  kind: 'field' | 'value' | 'name' | 'notation';
}

/** Fields whose value is the name of something of a moveset. */
const NAMED_BY: Readonly<Record<string, 'state' | 'stance' | 'ability'>> = {
  from: 'state',
  to: 'state',
  initial: 'state',
  stance: 'stance',
  ability: 'ability',
};
/** Fields that hold, or do not. */
const GUARDS = new Set(['when', 'runs', 'refill', 'reset']);
const EFFECTS = new Set(['do', 'enter', 'exit', 'each']);

/** What a verb of an effect can be followed by. */
const AFTER_VERB: Readonly<Record<string, readonly string[]>> = {
  start: ['timer'],
  stop: ['timer'],
  spend: ['cooldown', 'variable'],
  refill: ['cooldown', 'variable'],
  lock: ['ability'],
  unlock: ['ability'],
  cast: ['tether'],
  release: ['tether'],
  face: ['axis'],
};
const WORDS_AFTER: Readonly<Record<string, readonly string[]>> = {
  face: ['left', 'right', 'turn', 'away'],
  drop: ['through'],
};

/**
 * What can be written at a caret of a document, best first: the keys of its mapping, the values that the format names, the
 * names of the moveset, and the notation. `machine` is that of the moveset, or of the one that a tape is
 * played with; without one only the format is known.
 */
export function suggestionsAt(
  { text, kind }: { text: string; kind: Kind | undefined },
  machine: Machine | undefined,
  caret: number,
): Suggestion[] {
  const place = kind === undefined ? undefined : writingPlace(text, caret);
  if (kind === undefined || place === undefined) return [];
  const { path, mayBeKey, start } = place;
  const word = text.slice(start, caret);
  const expected = expectedAt(kind, path);
  const item =
    (kind: Suggestion['kind'], from: number) =>
    (text: string, help: string): Suggestion => ({ text, help, kind, start: from, end: caret });
  if (mayBeKey && expected.fields.length > 0) {
    const field = item('field', start);
    return expected.fields
      .filter(({ name }) => begins(name, word))
      .map(({ name, help }) => field(`${name}: `, help));
  }
  if (mayBeKey && kind === 'tape' && path.join() === 'inputs' && machine !== undefined)
    return machine.controls
      .filter(({ name }) => begins(name, word))
      .map(({ name, kind }) => item('name', start)(`${name}: `, kind));
  if (expected.values.length > 0)
    return expected.values
      .filter((value) => begins(value, word))
      .map((value) => item('value', start)(value, 'value'));
  if (machine === undefined) return [];
  const field = path.findLast((step) => step !== '-') ?? '';
  // Others of these keys hold notation, as the `to` of a drive does.
  const isName = kind === 'moveset' && !expected.isNotation && Object.hasOwn(NAMED_BY, field);
  const named = isName ? NAMED_BY[field] : undefined;
  if (named !== undefined)
    return namesOf(machine, [named], word).map(([name, help]) => item('name', start)(name, help));
  if (kind === 'moveset' && EFFECTS.has(field)) return effectsAt(machine, word, start);
  if (kind === 'tape' && field === 'expect') return expectationsAt(machine, word, start);
  if (!expected.isNotation) return [];
  return notationAt(scopeOf(machine), word, start, GUARDS.has(field) ? wantedAfter(word) : undefined);
}

/** Names of a moveset's things of some kinds that begin so, each with what it is. */
const namesOf = (machine: Machine, kinds: readonly string[], word: string): [name: string, help: string][] =>
  declaredIn(machine)
    .filter(({ kind, name }) => kinds.includes(kind) && begins(name, word))
    .map(({ kind, name }) => [name, kind === 'state' ? stateWords(machine, name) : kind]);

function stateWords(machine: Machine, name: string): string {
  const state = machine.states.find((s) => s.name === name);
  const lane = machine.lanes[state?.lane ?? 0]?.name ?? '';
  return `${state === undefined || state.members.length === 0 ? 'state' : 'group'} of ${lane}`;
}

function effectsAt(machine: Machine, word: string, start: number): Suggestion[] {
  const write = /^.*?[:+-]=\s*/.exec(word);
  if (write !== null) {
    const lead = write[0].length;
    return notationAt(scopeOf(machine), word.slice(lead), start + lead);
  }
  const verb = /^(\w+)\s+(\w*)$/.exec(word);
  const [, name, begun = word] = verb ?? [];
  const end = start + word.length;
  return (name === undefined ? effects(machine) : afterVerb(machine, name))
    .filter(([text]) => begins(text, begun))
    .map(([text, help]) => ({ text, help, kind: 'notation', start: end - begun.length, end }));
}

/** What an effect can begin with: a verb, or what it writes. */
const effects = (machine: Machine): [text: string, help: string][] => [
  ...Object.entries(VERBS).map(([name, after]): [string, string] => [`${name} `, `${name} ${after}`]),
  ...['vx', 'vy'].map((name): [string, string] => [`${name} := `, 'the velocity of the body']),
  ...machine.variables.map(({ name, kind }): [string, string] => [`${name} := `, kind]),
];

/** What can stand behind a verb. */
function afterVerb(machine: Machine, verb: string): [text: string, help: string][] {
  const own = <T>(table: Readonly<Record<string, readonly T[]>>): readonly T[] =>
    Object.hasOwn(table, verb) ? (table[verb] ?? []) : [];
  const words = verb === 'raise' ? machine.events : own(WORDS_AFTER);
  return [
    ...namesOf(machine, own(AFTER_VERB), ''),
    ...words.map((word): [string, string] => [word, VERBS[verb] ?? '']),
  ];
}

function expectationsAt(machine: Machine, word: string, start: number): Suggestion[] {
  const lead = expectedFrom(word);
  if (lead !== undefined) return notationAt(scopeOf(machine), word.slice(lead), start + lead);
  return EXPECTATION_FORMS.filter(({ text }) => begins(text, word)).map(({ text, help }) => ({
    text,
    help,
    kind: 'notation',
    start,
    end: start + word.length,
  }));
}

/** What a term of a guard is, by what stands before it: behind a comparison or a sign a number, else a truth value. */
const wantedAfter = (written: string): Dimension | undefined =>
  /[<>=+\-*/(,]\s*\w*$/.test(written) ? undefined : TRUTH;

function notationAt(scope: Scope, piece: string, start: number, wanted?: Dimension): Suggestion[] {
  const { items, start: from, end } = complete(piece, piece.length, scope, wanted);
  return items.map(({ text, help }) => ({
    text,
    help,
    kind: 'notation',
    start: start + from,
    end: start + end,
  }));
}

const begins = (text: string, word: string): boolean => text.toLowerCase().startsWith(word.toLowerCase());
