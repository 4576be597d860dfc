import { allEffects, type Crossing, type Machine } from '../machine/index.js';
import type { Path } from '../model/index.js';
import { type Expression, print, type SymbolKind, visit } from '../notation/index.js';
import { controlsOf } from '../scout/index.js';
import type { Code, Finding } from './catalogue.js';
import { constantFacts } from './constants.js';
import { placeOf, sourcesOf } from './guard.js';
import { type Formula, formulaOf, truthOf } from './literals.js';
import { equivalent, implies } from './questions.js';
import { canHold } from './solver.js';

/** TD1 to TD8: what loads and hurts nothing, but somebody meant something by it. All proved. */
export const tidyFindings = (machine: Machine): Finding[] => [
  ...unread(machine),
  ...unwritten(machine),
  ...unbound(machine),
  ...machine.lanes.flatMap((lane) => [
    ...twins(machine, lane.crossings),
    ...lane.crossings.flatMap((c) => [...saidTwice(machine, c), ...deadBranches(machine, c)]),
  ]),
  ...outOfRange(machine),
  ...withoutEffect(machine),
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

const declared = (code: Code, kind: string, name: string, path: Path, sentence: string): Finding =>
  proved({ code, sentence, path, fingerprint: `${code}/${kind}/${name}` });

/** The names of a kind that expressions read: those of conditions and motion, and not those inside other dials. */
const namesRead = (machine: Machine, ...kinds: SymbolKind[]): ReadonlySet<string> =>
  new Set(machine.references.filter((r) => r.use === 'read' && kinds.includes(r.kind)).map((r) => r.name));

/** TD1. */
function unread(machine: Machine): Finding[] {
  const listened = new Set(controlsOf(machine).flat());
  const named = (kind: SymbolKind): ReadonlySet<string> =>
    new Set(machine.references.filter((r) => r.kind === kind && r.use !== 'written').map((r) => r.name));
  const none = <T extends { name: string; path: Path }>(
    kind: SymbolKind | 'control',
    list: readonly T[],
    isUsed: (thing: T, index: number) => boolean,
    sentence: (name: string) => string,
  ): Finding[] =>
    list
      .filter((thing, i) => !isUsed(thing, i))
      .map(({ name, path }) => declared('TD1', kind, name, path, sentence(name)));
  const unnamed = (
    kind: SymbolKind,
    list: readonly { name: string; path: Path }[],
    sentence: (name: string) => string,
  ) => {
    const names = named(kind);
    return none(kind, list, ({ name }) => names.has(name), sentence);
  };
  const stances = named('stance');
  const aims = named('aim');
  return [
    ...unnamed('dial', machine.dials, (name) => `Nothing is worked out from the dial ${name}.`),
    ...unnamed('variable', machine.variables, (name) => `Nothing reads the variable ${name}.`),
    ...unnamed('timer', machine.timers, (name) => `Nothing reads the timer ${name}.`),
    ...unnamed('cooldown', machine.cooldowns, (name) => `Nothing asks whether ${name} is ready.`),
    ...unnamed('probe', machine.probes, (name) => `Nothing asks for the probe ${name}.`),
    // The first stance is the one that a body without states' stances has.
    ...none(
      'stance',
      machine.stances,
      ({ name, hidden }, i) => hidden || i === 0 || stances.has(name),
      (name) => `No state takes the stance ${name}.`,
    ),
    ...unnamed('ability', machine.abilities, (name) => `No state or crossing needs the ability ${name}.`),
    ...none(
      'control',
      machine.controls,
      ({ name }, i) => listened.has(i) || aims.has(name),
      (name) => `Nothing listens to the control ${name}.`,
    ),
  ];
}

/** TD2. */
function unwritten(machine: Machine): Finding[] {
  const effects = allEffects(machine);
  const read = namesRead(machine, 'variable');
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
      .map((v) => declared('TD2', 'variable', v.name, v.path, `Nothing ever writes ${v.name}.`)),
    ...machine.timers
      .filter((_, i) => !effects.some((e) => e.kind === 'start' && e.timer === i))
      .map((t) => declared('TD2', 'timer', t.name, t.path, `Nothing ever starts the timer ${t.name}.`)),
    ...machine.cooldowns
      .filter((_, i) => !effects.some((e) => e.kind === 'spend' && e.what === 'cooldown' && e.index === i))
      .map((c) => declared('TD2', 'cooldown', c.name, c.path, `Nothing ever spends the cooldown ${c.name}.`)),
  ];
}

/** TD3: what has neither key nor pad; an aim always has its device. */
const unbound = (machine: Machine): Finding[] =>
  machine.controls
    .filter((c) => c.kind !== 'aim' && c.keys.length === 0 && c.pad.length === 0)
    .map((c) =>
      declared('TD3', 'control', c.name, c.path, `The control ${c.name} has no key and no pad button.`),
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
      : [{ kind: 'or' as const, parts: sources.map((s) => truthOf('in', machine.states[s]!.name)) }]),
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
    return [
      declared('TD7', 'dial', name, dial.path, `The dial ${name} is ${side} that its own range allows.`),
    ];
  });

/** TD8. */
const withoutEffect = (machine: Machine): Finding[] =>
  machine.idle.map(({ field, because, path }) => {
    const state = machine.states.findLast((s) => s.path.every((step, i) => step === path[i]));
    const where = state?.name ?? path.slice(0, -1).join('.');
    return proved({
      code: 'TD8',
      lane: state === undefined ? '' : machine.lanes[state.lane]!.name,
      state: state?.name ?? '',
      sentence: `\`${field}\` has no effect in ${where}: ${because}.`,
      path,
      fingerprint: `TD8/${where}/${field}`,
    });
  });
