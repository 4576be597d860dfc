import {
  type Compiled,
  lower,
  type Machine,
  place as at,
  type Place,
  type Program,
  type Statement,
  type Term,
  terms,
  unshared,
} from '../machine/index.js';
import { locate, type Path, type Source } from '../model/index.js';
import { present } from '../present.js';
import { type Constants, constantsOf } from './dials.js';
import { distinctLocals } from './locals.js';
import { type Member, type Members, membersOf, type Owner } from './members.js';
import { type Bare, prune } from './prune.js';
import { castIn, keptAloft, rewriter } from './rewrite.js';
import { seeStatements, seeTerm, termsOf } from './walk.js';

/** A function of the generated code: its name in words, what it does, and which values it needs. */
export interface Procedure {
  name: string;
  note: string;
  body: readonly Statement[];
  needs: ReadonlySet<Owner>;
}

/** All that a language needs in order to print a moveset: names, types, and functions over them. */
export interface Outline {
  machine: Machine;
  source: Source;
  members: Members;
  /** The members that are used, by owner, in the order in which they are listed. */
  used: Record<Owner, Member[]>;
  constants: Constants;
  /** The tethers that something casts, by index; the others never hold. */
  cast: readonly number[];
  /** Where the program counts the anchors of each tether. */
  anchorPlaces: readonly number[];
  /** Where it keeps the state of the first lane; those of the others follow. */
  leafPlace: number;
  /** Callees first. */
  procedures: Procedure[];
  /** The steps of a tick, as names of procedures. */
  steps: Procedure[];
}

/**
 * Lays out a moveset for printing: its lowered tick, without what only our own tools need, with a name for every value.
 * @throws {RangeError} for a moveset that does not load
 */
export function outlineOf(compiled: Compiled): Outline {
  const { machine, source } = compiled;
  if (machine === undefined || source === undefined)
    throw new RangeError('a moveset that does not load has no code');
  const program = unshared(lower(machine, { origins: true }));
  const constants = constantsOf(compiled, program);
  const members = membersOf(machine, program);
  const cast = castIn(program);
  const rewrite = rewriter(machine, program, members, cast);
  const steps = program.steps.map(({ name, statements }) => ({
    name: `step ${name}`,
    body: rewrite(statements),
  }));
  const procedures = program.procedures.map(({ name, statements }) => ({ name, body: rewrite(statements) }));
  present(steps[0]).body.unshift(...keptAloft(machine));
  const motion = present(steps.find(({ name }) => name === 'step motion'));
  motion.body.unshift(terms.set(terms.field(members.beyond.gravityScale), terms.number(0)));
  if (writes([...steps, ...procedures], members.beyond.drops))
    present(steps[0]).body.unshift(terms.set(terms.field(members.beyond.drops), terms.any()));
  const keeps = kept(machine, program, members, cast);
  const pruned = prune([...procedures, ...steps], keeps, (t) => constants.named.has(t));
  const ordered = inOrder(pruned, members);
  return {
    machine,
    source,
    members,
    used: usedIn(ordered, members, keeps),
    constants,
    cast,
    anchorPlaces: program.layout.anchors,
    leafPlace: program.layout.leaves,
    procedures: ordered,
    steps: program.steps.flatMap(({ name }) => ordered.filter((p) => p.name === `step ${name}`)),
  };
}

/** The line of the moveset that a path is at, from 1. */
export const lineOf = ({ source }: Pick<Outline, 'source'>, path: Path): number => locate(source, path).line;

/** Whether some statement writes to a field. */
function writes(list: readonly Bare[], place: number): boolean {
  let found = false;
  for (const { body } of list)
    seeStatements(body, (s) => {
      if (s.kind === 'set' && s.to.kind === 'field' && s.to.place === place) found = true;
    });
  return found;
}

/** Fields that stay though nothing of the tick reads them: what a game, or whoever debugs it, wants to see. */
function kept(
  machine: Machine,
  { layout }: Program,
  { beyond }: Members,
  cast: readonly number[],
): ReadonlySet<number> {
  const list = (first: number, count: number): number[] => Array.from({ length: count }, (_, i) => first + i);
  return new Set([
    ...[at.TICK, at.VX, at.VY, at.FACING, at.WANTED, beyond.gravityScale, beyond.drops, ...beyond.laneSince],
    ...list(layout.leaves, machine.lanes.length),
    ...list(layout.variables, machine.variables.length),
    ...list(layout.timers, machine.timers.length),
    ...list(layout.charges, machine.cooldowns.length),
    ...list(layout.clocks, machine.cooldowns.length),
    ...list(layout.unlocked, machine.abilities.length),
    ...cast.map((tether) => present(layout.anchors[tether])),
    ...list(layout.travel, machine.integration === 'semi-implicit' ? 0 : 2),
  ]);
}

/** What is called, before who calls it; each with the values that it needs. */
function inOrder(list: readonly Bare[], members: Members): Procedure[] {
  const bare = new Map(list.map((p) => [p.name, p]));
  const done = new Map<string, Procedure>();
  const add = (name: string): ReadonlySet<Owner> => {
    const known = done.get(name);
    if (known !== undefined) return known.needs;
    const { body } = present(bare.get(name));
    const needs = new Set<Owner>();
    seeStatements(body, (s) => {
      if (s.kind === 'call') for (const owner of add(s.procedure)) needs.add(owner);
      for (const owner of ownersIn(s, members)) needs.add(owner);
    });
    done.set(name, { name, note: noteOf(name), body: distinctLocals(body), needs });
    return needs;
  };
  for (const { name, body } of list) if (name.startsWith('step ') && body.length > 0) add(name);
  return [...done.values()];
}

const noteOf = (name: string): string => {
  const [, state] = /^decide in (.+)$/.exec(name) ?? [];
  if (state !== undefined) return `The ways out of ${state}, in the order in which they are considered.`;
  return NOTES[name] ?? '';
};

const NOTES: Partial<Record<string, string>> = {
  'step sense': 'What this tick finds: the facts that the lanes decide on.',
  'step begin': 'Before the first tick decides, the first states are entered.',
  'step clocks': 'Timers, cooldowns, and what is remembered of earlier ticks.',
  'step decide': 'Each lane chooses a way out of its state, or none.',
  'step act': 'The chosen ways are taken, with what is done on them.',
  'step motion': 'The rules of the active states turn the velocity into that of this tick.',
  'step keep': 'What the next tick compares itself with.',
  'own facts': 'The facts of what the clocks and lanes have.',
};

function ownersIn(s: Statement, members: Members): Owner[] {
  const owners = membersIn(s, members).map(({ owner }) => owner);
  if (s.kind === 'world' && s.act !== 'release') owners.push('senses');
  if (s.kind === 'world' && s.act !== 'blow') owners.push('situation');
  for (const whole of termsOf(s))
    seeTerm(whole, (t) => {
      if (t.kind === 'sense') owners.push(...SENSED[t.sense]);
      if (t.kind === 'fact' && t.asked) owners.push('senses');
    });
  return owners;
}

/** What the functions behind senses need. */
const SENSED: Record<Extract<Term, { kind: 'sense' }>['sense'], Owner[]> = {
  downward: ['situation', 'senses'],
  aimX: [],
  aimY: [],
  tetherLength: ['situation', 'senses'],
  windUp: ['senses'],
  hangs: ['situation'],
  centreX: ['situation'],
  centreY: ['situation'],
  middle: ['senses'],
};

/** The members that a statement reads or writes by itself. */
function membersIn(s: Statement, members: Members): Member[] {
  const found: Member[] = [];
  const add = (t: Term | Place): void => {
    const member = memberAt(members, t);
    if (member !== undefined) found.push(member);
  };
  if (s.kind === 'set') add(s.to);
  for (const whole of termsOf(s)) seeTerm(whole, add);
  return found;
}

/** The member that a term stands for, if it is one. */
export function memberAt({ fields, facts, registers, inputs }: Members, t: Term): Member | undefined {
  switch (t.kind) {
    case 'field':
      return fields.get(t.place);
    case 'fact':
      return t.asked ? undefined : facts.get(t.slot);
    case 'register':
      return registers.get(t.index);
    case 'input':
      return inputs[t.control];
    default:
      return undefined;
  }
}

/** The senses that functions behind senses read. */
const READ_BEHIND: Partial<Record<string, number[]>> = {
  downward: [at.GROUND, at.GROUND_NX, at.GROUND_NY],
  slope: [at.GROUND, at.GROUND_NX, at.GROUND_NY],
  tetherLength: [at.X],
};

/** The members that are used by somebody, in the order of the program; those of the situation that are kept among them. */
function usedIn(
  procedures: readonly Procedure[],
  members: Members,
  keeps: ReadonlySet<number>,
): Record<Owner, Member[]> {
  const used = new Set<Member>();
  const behind = (name: string): void => {
    for (const place of READ_BEHIND[name] ?? []) used.add(present(members.fields.get(place)));
    if (name === 'tetherLength') used.add(present(members.fields.get(members.beyond.middle)));
  };
  for (const { body } of procedures)
    seeStatements(body, (s) => {
      for (const member of membersIn(s, members)) used.add(member);
      for (const whole of termsOf(s))
        seeTerm(whole, (t) => {
          if (t.kind === 'sense') behind(t.sense);
          if (t.kind === 'fact' && t.asked) behind('slope');
        });
    });
  for (const place of keeps) {
    const member = members.fields.get(place);
    if (member?.owner === 'situation' && place !== members.beyond.drops) used.add(member);
  }
  const all = [
    ...[...members.fields.entries()].sort(([a], [b]) => a - b).map(([, member]) => member),
    ...members.facts.values(),
    ...members.registers.values(),
  ].filter((member) => used.has(member));
  const of = (owner: Owner): Member[] => all.filter((member) => member.owner === owner);
  return { situation: of('situation'), senses: of('senses'), working: of('working'), inputs: members.inputs };
}
