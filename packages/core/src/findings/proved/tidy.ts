import { present } from '../../present.js';
import { allEffects, type Crossing, type Machine } from '../../machine/index.js';
import type { Path } from '../../model/index.js';
import { type Expression, print, type SymbolKind, visit } from '../../notation/index.js';
import { controlsOf } from '../../scout/index.js';
import { type Finding, createFinding } from '../sentences/finding.js';
import { constantFacts } from './constants.js';
import { placeOf, sourcesOf } from './guard.js';
import { canHold, equivalent, type Formula, formulaOf, implies, truthOf } from '../../solver/index.js';

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

/** What is declared beside the lanes stands in no lane and no state. */
const BESIDE = { certainty: 'proved' as const, lane: '', state: '', crossing: null, witness: null };

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
  ): Finding[] =>
    list
      .filter((thing, i) => !isUsed(thing, i))
      .map(({ name, path }) => createFinding({ ...BESIDE, code: 'TD1', path, evidence: { kind, name } }));
  const unnamed = (kind: SymbolKind, list: readonly { name: string; path: Path }[]): Finding[] => {
    const names = named(kind);
    return none(kind, list, ({ name }) => names.has(name));
  };
  const stances = named('stance');
  const aims = named('aim');
  return [
    ...unnamed('dial', machine.dials),
    ...unnamed('variable', machine.variables),
    ...unnamed('timer', machine.timers),
    ...unnamed('cooldown', machine.cooldowns),
    ...unnamed('probe', machine.probes),
    // The first stance is the one that a body without states' stances has.
    ...none('stance', machine.stances, ({ name, hidden }, i) => hidden || i === 0 || stances.has(name)),
    ...unnamed('ability', machine.abilities),
    ...none('control', machine.controls, ({ name }, i) => listened.has(i) || aims.has(name)),
  ];
}

/** TD2. */
function unwritten(machine: Machine): Finding[] {
  const effects = allEffects(machine);
  const read = namesRead(machine, 'variable');
  const never = (kind: string, list: readonly { name: string; path: Path }[]): Finding[] =>
    list.map(({ name, path }) => createFinding({ ...BESIDE, code: 'TD2', path, evidence: { kind, name } }));
  return [
    ...never(
      'variable',
      machine.variables.filter(
        (v, i) =>
          read.has(v.name) &&
          !effects.some(
            (e) =>
              (e.kind === 'variable' && e.variable === i) ||
              ((e.kind === 'spend' || e.kind === 'refill') && e.what === 'count' && e.index === i),
          ),
      ),
    ),
    ...never(
      'timer',
      machine.timers.filter((_, i) => !effects.some((e) => e.kind === 'start' && e.timer === i)),
    ),
    ...never(
      'cooldown',
      machine.cooldowns.filter(
        (_, i) => !effects.some((e) => e.kind === 'spend' && e.what === 'cooldown' && e.index === i),
      ),
    ),
  ];
}

/** TD3: what has neither key nor pad; an aim always has its device. */
const unbound = (machine: Machine): Finding[] =>
  machine.controls
    .filter((c) => c.kind !== 'aim' && c.keys.length === 0 && c.pad.length === 0)
    .map(({ name, path }) =>
      createFinding({ ...BESIDE, code: 'TD3', path, evidence: { kind: 'control', name } }),
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
    return [
      createFinding({
        ...ofCrossing(machine, crossing),
        code: 'TD4',
        path: crossing.path,
        evidence: { guards: [guardText(twin.when), guardText(crossing.when)] },
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
  const other = present(terms.find((t) => t !== found && implies(machine, t, found)));
  return [
    createFinding({
      ...ofCrossing(machine, crossing),
      code: 'TD5',
      path: [...crossing.path, 'when'],
      evidence: { term: guardText(found), by: guardText(other) },
    }),
  ];
}

/** TD6: a part of an `or`, or a branch of an `if`, that can never be the one that counts. */
function deadBranches(machine: Machine, crossing: Crossing): Finding[] {
  if (crossing.when === undefined) return [];
  const sources = sourcesOf(machine, crossing);
  // A passing state is left on the facts of the state before it.
  const isPassing = sources.some((s) => present(machine.states[s]).passing);
  const given: Formula[] = [
    ...constantFacts(machine).map((c) => c.formula),
    ...(isPassing || sources.length === 0
      ? []
      : [{ kind: 'or' as const, parts: sources.map((s) => truthOf('in', present(machine.states[s]).name)) }]),
  ];
  // A guard that cannot hold at all is reported as such.
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
    createFinding({
      ...ofCrossing(machine, crossing),
      code: 'TD6',
      path: [...crossing.path, 'when'],
      evidence: { term: guardText(part) },
    }),
  );
}

/** What findings at a crossing have in common. */
function ofCrossing(machine: Machine, crossing: Crossing) {
  const place = placeOf(machine, crossing);
  const lane = present(machine.lanes[crossing.lane]).name;
  return { certainty: 'proved' as const, lane, state: place.to, crossing: place, witness: null };
}

/** TD7. */
const outOfRange = (machine: Machine): Finding[] =>
  machine.dials.flatMap(({ name, value, min, max, path }): Finding[] => {
    const side = value < min ? 'below' : value > max ? 'above' : undefined;
    return side === undefined
      ? []
      : [createFinding({ ...BESIDE, code: 'TD7', path, evidence: { name, side } })];
  });

/** TD8. */
const withoutEffect = (machine: Machine): Finding[] =>
  machine.idle.map(({ field, because, path }) => {
    const state = machine.states.findLast((s) => s.path.every((step, i) => step === path[i]));
    const where = state?.name ?? path.slice(0, -1).join('.');
    const lane = state === undefined ? '' : present(machine.lanes[state.lane]).name;
    return createFinding({
      ...BESIDE,
      code: 'TD8',
      lane,
      state: state?.name ?? '',
      path,
      evidence: { field, where, because },
    });
  });
