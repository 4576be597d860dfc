import { allExpressions, type Crossing, type Machine } from '../machine/index.js';
import type { Path } from '../model/index.js';
import { type Expression, print, visit } from '../notation/index.js';
import { controlsOf } from '../scout/index.js';
import type { Code, Finding } from './catalogue.js';
import { allEffects, constantFacts } from './constants.js';
import { placeOf, sourcesOf } from './guard.js';
import { type Formula, formulaOf, truth } from './literals.js';
import { equivalent, implies } from './questions.js';
import { canHold } from './solver.js';

/** TD1 to TD7: what loads and hurts nothing, but somebody meant something by it. All proved. */
export const tidyFindings = (machine: Machine): Finding[] => [
  ...unread(machine),
  ...unwritten(machine),
  ...unbound(machine),
  ...machine.lanes.flatMap((lane) => [
    ...twins(machine, lane.crossings),
    ...lane.crossings.flatMap((c) => [...saidTwice(machine, c), ...deadBranches(machine, c)]),
  ]),
  ...outOfRange(machine),
];

type Told = Pick<Finding, 'code' | 'sentence' | 'path' | 'fingerprint'> &
  Partial<Pick<Finding, 'lane' | 'state' | 'crossing' | 'reason'>>;

/** What is declared beside the lanes stands in no lane and no state. */
const proved = (told: Told): Finding => ({
  certainty: 'proved',
  lane: '',
  state: '',
  crossing: null,
  reason: [],
  witness: null,
  ...told,
});

const named = (code: Code, kind: string, name: string, path: Path, sentence: string): Finding =>
  proved({ code, sentence, path, fingerprint: `${code}/${kind}/${name}` });

/** What the facts of all expressions are of: the fact itself, or the words in its brackets. */
function wordsRead(machine: Machine): ReadonlySet<string> {
  const words = new Set<string>();
  for (const e of allExpressions(machine))
    visit(e, (part) => {
      if (part.kind !== 'fact') return;
      for (const word of part.key.replace(/^\w+\(/, '').match(/\w+/g) ?? []) words.add(word);
    });
  return words;
}

/** TD1. */
function unread(machine: Machine): Finding[] {
  const read = wordsRead(machine);
  const listened = new Set(controlsOf(machine).flat());
  const followed = [...machine.probes.map((p) => p.direction), ...machine.tethers]
    .map((x) => ('aim' in x ? (x.aim ?? '') : ''))
    .join(' ');
  const crossings = machine.lanes.flatMap((l) => l.crossings);
  const none = <T extends { name: string; path: Path }>(
    kind: string,
    list: readonly T[],
    isUsed: (thing: T, index: number) => boolean,
    sentence: (name: string) => string,
  ): Finding[] =>
    list
      .filter((thing, i) => !read.has(thing.name) && !isUsed(thing, i))
      .map(({ name, path }) => named('TD1', kind, name, path, sentence(name)));
  const never = (): boolean => false;
  const isSaid = ({ name, path }: { name: string; path: Path }): boolean =>
    machine.texts.some(
      (t) => t.path.join('/') !== [...path, 'value'].join('/') && new RegExp(`\\b${name}\\b`).test(t.text),
    );
  return [
    ...none('dial', machine.dials, isSaid, (name) => `Nothing is worked out from the dial ${name}.`),
    ...none('variable', machine.variables, never, (name) => `Nothing reads the variable ${name}.`),
    ...none('timer', machine.timers, never, (name) => `Nothing reads the timer ${name}.`),
    ...none('cooldown', machine.cooldowns, never, (name) => `Nothing asks whether ${name} is ready.`),
    ...none(
      'probe',
      machine.probes,
      (p) => machine.tagHits.some((h) => h.probe === p.name),
      (name) => `Nothing asks for the probe ${name}.`,
    ),
    // The first stance is the one that a body without states' stances has.
    ...none(
      'stance',
      machine.stances,
      (s, i) => s.hidden || i === 0 || machine.states.some((state) => state.stance === i),
      (name) => `No state takes the stance ${name}.`,
    ),
    ...none(
      'ability',
      machine.abilities,
      (_, i) => machine.states.some((s) => s.ability === i) || crossings.some((c) => c.ability === i),
      (name) => `No state or crossing needs the ability ${name}.`,
    ),
    ...none(
      'control',
      machine.controls,
      (c, i) => listened.has(i) || new RegExp(`\\b${c.name}\\b`).test(followed),
      (name) => `Nothing listens to the control ${name}.`,
    ),
  ];
}

/** TD2. */
function unwritten(machine: Machine): Finding[] {
  const effects = allEffects(machine);
  const read = wordsRead(machine);
  return [
    ...machine.variables
      .filter(
        (v, i) =>
          read.has(v.name) &&
          !effects.some(
            (e) =>
              (e.kind === 'variable' && e.variable === i) ||
              ((e.kind === 'spend' || e.kind === 'refill') && e.what === 'count' && e.index === i),
          ),
      )
      .map((v) => named('TD2', 'variable', v.name, v.path, `Nothing ever writes ${v.name}.`)),
    ...machine.timers
      .filter((_, i) => !effects.some((e) => e.kind === 'start' && e.timer === i))
      .map((t) => named('TD2', 'timer', t.name, t.path, `Nothing ever starts the timer ${t.name}.`)),
    ...machine.cooldowns
      .filter((_, i) => !effects.some((e) => e.kind === 'spend' && e.what === 'cooldown' && e.index === i))
      .map((c) => named('TD2', 'cooldown', c.name, c.path, `Nothing ever spends the cooldown ${c.name}.`)),
  ];
}

/** TD3: what has neither key nor pad; an aim always has its device. */
const unbound = (machine: Machine): Finding[] =>
  machine.controls
    .filter((c) => c.kind !== 'aim' && c.keys.length === 0 && c.pad.length === 0)
    .map((c) =>
      named('TD3', 'control', c.name, c.path, `The control ${c.name} has no key and no pad button.`),
    );

const guardText = (e: Expression | undefined): string => (e === undefined ? 'always' : print(e.syntax));

/** TD4: a later crossing that leaves the same states for the same target under the same guard. */
function twins(machine: Machine, crossings: readonly Crossing[]): Finding[] {
  return crossings.flatMap((crossing, i): Finding[] => {
    const twin = crossings
      .slice(0, i)
      .find(
        (c) =>
          c.to === crossing.to &&
          c.from.length === crossing.from.length &&
          c.from.every((s) => crossing.from.includes(s)) &&
          equivalent(machine, c.when, crossing.when),
      );
    if (twin === undefined) return [];
    const place = placeOf(machine, crossing);
    return [
      inGuard(machine, crossing, {
        code: 'TD4',
        sentence: `The crossing from ${place.from} to ${place.to} stands there twice.`,
        reason: [`\`${guardText(twin.when)}\` and \`${guardText(crossing.when)}\` hold at the same times.`],
        path: crossing.path,
        fingerprint: '',
      }),
    ];
  });
}

/** TD5: a term of `and` that others of its terms imply already. */
function saidTwice(machine: Machine, crossing: Crossing): Finding[] {
  const terms = crossing.when?.kind === 'logic' && crossing.when.op === 'and' ? crossing.when.parts : [];
  const found = terms.find((term, i) =>
    terms.some(
      (other, j) => i !== j && (j < i || !implies(machine, term, other)) && implies(machine, other, term),
    ),
  );
  if (found === undefined) return [];
  const other = terms.find((t) => t !== found && implies(machine, t, found))!;
  const [text, by] = [guardText(found), guardText(other)];
  return [
    inGuard(machine, crossing, {
      code: 'TD5',
      sentence:
        text === by ? `The guard asks for \`${text}\` twice.` : `The guard need not ask for \`${text}\`.`,
      reason: text === by ? [] : [`Whenever \`${by}\` holds, \`${text}\` holds too.`],
      path: [...crossing.path, 'when'],
      fingerprint: text,
    }),
  ];
}

/** TD6: a part of an `or`, or a branch of an `if`, that can never be the one that counts. */
function deadBranches(machine: Machine, crossing: Crossing): Finding[] {
  if (crossing.when === undefined) return [];
  const sources = sourcesOf(machine, crossing);
  // A passing state is left on the facts of the state before it.
  const isPassing = sources.some((s) => machine.states[s]!.passing);
  const given: Formula[] = [
    ...constantFacts(machine).map((c) => c.formula),
    ...(isPassing || sources.length === 0
      ? []
      : [{ kind: 'or' as const, parts: sources.map((s) => truth(`in(${machine.states[s]!.name})`)) }]),
  ];
  // A guard that cannot hold at all is told as such.
  if (!canHold(machine, [...given, formulaOf(crossing.when)])) return [];
  const dead: Expression[] = [];
  visit(crossing.when, (e) => {
    if (e.kind === 'logic' && e.op === 'or')
      dead.push(...e.parts.filter((part) => !canHold(machine, [...given, formulaOf(part)])));
    if (e.kind === 'choice') {
      if (!canHold(machine, [...given, formulaOf(e.when)])) dead.push(e.then);
      if (!canHold(machine, [...given, formulaOf(e.when, false)])) dead.push(e.otherwise);
    }
  });
  return dead.map((part) =>
    inGuard(machine, crossing, {
      code: 'TD6',
      sentence: `\`${guardText(part)}\` never decides anything: it cannot come to hold there.`,
      path: [...crossing.path, 'when'],
      fingerprint: guardText(part),
    }),
  );
}

/** A finding at a crossing; its fingerprint names lane, ends and what it is about. */
function inGuard(machine: Machine, crossing: Crossing, told: Told): Finding {
  const place = placeOf(machine, crossing);
  const lane = machine.lanes[crossing.lane]!.name;
  const about = told.fingerprint === '' ? '' : `/${told.fingerprint}`;
  return proved({
    ...told,
    lane,
    state: place.to,
    crossing: place,
    fingerprint: `${told.code}/${lane}/${place.from}>${place.to}${about}`,
  });
}

/** TD7. */
const outOfRange = (machine: Machine): Finding[] =>
  machine.dials.flatMap((dial): Finding[] => {
    const { name, value, min, max } = dial;
    const side = value < min ? 'below the least' : value > max ? 'above the most' : undefined;
    if (side === undefined) return [];
    return [named('TD7', 'dial', name, dial.path, `The dial ${name} is ${side} that its own range allows.`)];
  });
