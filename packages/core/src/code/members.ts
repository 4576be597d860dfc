import {
  type Expression,
  type FactName,
  type FactRef,
  FACTS,
  FACTS_OF,
  idOfRef,
  isNamedFact,
  isPlainFact,
} from '../notation/index.js';
import {
  firstStance,
  type Layout,
  leafFrom,
  type Machine,
  type Memory,
  place as at,
  type Program,
  startOfMemory,
} from '../machine/index.js';
import { present } from '../present.js';

/** What the generated code keeps a value as. `whole` is a small whole number; `any…` are indexes, −1 for none. */
export type Type =
  | { kind: 'number' | 'truth' | 'whole' | 'stance' | 'anyStance' | 'anyLeaf' }
  /** A state, or a crossing, of a lane. */
  | { kind: 'leaf' | 'way'; lane: number };

/**
 * Where a value is kept: `situation` is what the game keeps of a character, `senses` and `inputs` what it fills in before
 * a tick, `working` what a tick needs while it works.
 */
export type Owner = 'situation' | 'senses' | 'inputs' | 'working';

/** A value that the generated code keeps, by its name in words; each language makes an identifier of them. */
export interface Member {
  owner: Owner;
  words: string;
  type: Type;
  /** What it is at the start: a number of the program. */
  initial: number;
  /** What it means, as a phrase. */
  note: string;
}

export const NUMBER: Type = { kind: 'number' };
export const TRUTH: Type = { kind: 'truth' };
export const WHOLE: Type = { kind: 'whole' };

/** All that a program keeps and reads, by where the program has it, and what generated code needs beyond that. */
export interface Members {
  fields: Map<number, Member>;
  facts: Map<number, Member>;
  registers: Map<number, Member>;
  inputs: Member[];
  /** The places of what no situation of ours has: what the game senses, and what it is told. */
  beyond: Beyond;
}

/** Places beyond those of a layout, by what they keep. */
export interface Beyond {
  laneSince: number[];
  /** By slot, what is asked of the world. */
  asked: Map<number, number>;
  launched: number;
  launchX: number;
  launchY: number;
  /** Whether a zone gives an ability, by the ability. */
  gives: number[];
  gravityScale: number;
  drops: number;
  middle: number;
}

/** Gives every place of a program a name and a type. */
export function membersOf(machine: Machine, program: Program): Members {
  const { layout } = program;
  const fields = new Map<number, Member>();
  let next = layout.size;
  const beyond = (member: Member): number => {
    fields.set(next, member);
    return next++;
  };
  const situation = (words: string, type: Type, initial: number, note: string): Member => ({
    owner: 'situation',
    words,
    type,
    initial,
    note,
  });
  const senses = (words: string, type: Type, note: string): Member => ({
    owner: 'senses',
    words,
    type,
    initial: 0,
    note,
  });
  const put = (first: number, members: readonly Member[]): void =>
    members.forEach((member, i) => fields.set(first + i, member));

  put(at.TICK, [situation('ticks', NUMBER, 0, 'ticks since the start')]);
  put(at.VX, [
    situation('vx', NUMBER, 0, 'm/s; the game writes back what is left of it after the move'),
    situation('vy', NUMBER, 0, 'm/s, upward; the same'),
    situation('facing', NUMBER, 1, '1 right, -1 left'),
  ]);
  put(at.WANTED, [
    situation('stance', { kind: 'stance' }, firstStance(machine), 'the stance that the body shall have'),
  ]);
  putBody(put, senses, situation);
  putMachine(machine, layout, put, situation);
  put(
    layout.leaves,
    machine.lanes.map(({ index, name, initial }) =>
      situation(name, { kind: 'leaf', lane: index }, leafFrom(machine, initial), `where the lane ${name} is`),
    ),
  );
  return {
    fields,
    facts: factsOf(machine, program),
    registers: registersOf(machine, program),
    inputs: machine.controls.map(({ name, kind }) => ({
      owner: 'inputs',
      words: name,
      type: kind === 'button' ? TRUTH : NUMBER,
      initial: 0,
      note: kind === 'button' ? 'held in this tick' : kind === 'axis' ? '-1 to 1' : 'degrees: 0 right, 90 up',
    })),
    beyond: {
      laneSince: machine.lanes.map(({ name }) =>
        beyond(situation(`${name} since`, NUMBER, 0, `the tick in which ${name} entered its state`)),
      ),
      asked: new Map(
        program.asked.flatMap(({ slot, ref }): [number, number][] =>
          ref.fact === 'slope' ? [] : [[slot, beyond(askedMember(ref))]],
        ),
      ),
      launched: beyond(senses('launched', TRUTH, 'a zone that launches was entered by the last move')),
      launchX: beyond(senses('launch vx', NUMBER, 'm/s; what it launches with')),
      launchY: beyond(senses('launch vy', NUMBER, 'm/s, upward')),
      gives: machine.abilities.map(({ name }) =>
        beyond(senses(`gives ${name}`, TRUTH, `the body is in a zone that unlocks ${name}`)),
      ),
      gravityScale: beyond(
        situation(
          'gravity scale',
          NUMBER,
          0,
          'how strongly gravity worked in this tick; 0 on the ground and while vy is held',
        ),
      ),
      drops: beyond(situation('drops', TRUTH, 0, 'drop through the one-way platforms that are touched')),
      middle: beyond(senses('middle y', NUMBER, 'm; the height of the middle of the body')),
    },
  };

  function askedMember({ fact, of = '', tag = '' }: FactRef): Member {
    switch (fact) {
      case 'fits':
        return senses(`fits ${of}`, TRUTH, `there is room for the stance ${of} here`);
      case 'inside':
        return senses(`inside ${of}`, TRUTH, `the body is in a zone with the tag ${of}`);
      case 'probe':
        return senses(`${of} hits`, TRUTH, `the probe ${of} meets something`);
      case 'distance':
        return senses(`${of} distance`, NUMBER, `m; how far the probe ${of} sees`);
      case 'angle':
        return senses(
          `${of} angle`,
          NUMBER,
          `degrees; how steep what the probe ${of} meets is, 0 for nothing`,
        );
      case 'hits':
        return senses(`${of} hits ${tag}`, TRUTH, `the probe ${of} meets something with the tag ${tag}`);
      default:
        return senses(`${of} catches`, TRUTH, `the tether ${of} would take hold of something`);
    }
  }
}

type Put = (first: number, members: readonly Member[]) => void;

function putBody(
  put: Put,
  senses: (words: string, type: Type, note: string) => Member,
  situation: (words: string, type: Type, initial: number, note: string) => Member,
): void {
  put(at.X, [senses('x', NUMBER, 'm; where the feet are'), senses('y', NUMBER, 'm, upward')]);
  put(at.GROUND, [
    senses('grounded', TRUTH, 'the body touches ground that can be walked on'),
    senses('ground normal x', NUMBER, 'of that ground, a unit vector; 0 aloft'),
    senses('ground normal y', NUMBER, 'the same'),
  ]);
  put(at.STEEP, [
    senses('steep', TRUTH, 'the body touches ground that is too steep to walk'),
    senses('steep normal x', NUMBER, 'of that ground, a unit vector; 0 elsewhere'),
    senses('steep normal y', NUMBER, 'the same'),
    senses('wall', NUMBER, 'the side of the wall that is touched: -1 left, 1 right, 0 none'),
    senses('ceiling', TRUTH, 'the body touches a ceiling'),
    senses('crushed', TRUTH, 'something overlaps the body'),
    situation('ground y', NUMBER, 0, 'm; where the feet last were on the ground'),
    situation('air ticks', NUMBER, 0, 'ticks since the body left the ground'),
  ]);
  put(at.CRAMPED, [senses('cramped', TRUTH, 'there was no room for the stance that is asked for')]);
}

function putMachine(
  machine: Machine,
  layout: Layout,
  put: Put,
  situation: (words: string, type: Type, initial: number, note: string) => Member,
): void {
  const { states, variables, timers, cooldowns, abilities, events, memories, controls, tethers } = machine;
  put(
    layout.entered,
    states.map(({ name }) =>
      situation(`${name} since`, NUMBER, 0, `the tick in which the group ${name} was entered`),
    ),
  );
  put(
    layout.last,
    states.map(({ name }) =>
      situation(`last in ${name}`, { kind: 'anyLeaf' }, -1, `the last state in ${name}, -1 none`),
    ),
  );
  put(
    layout.variables,
    variables.map(({ name, kind, initial }) =>
      situation(name, kind === 'flag' ? TRUTH : NUMBER, initial, `the ${kind} ${name}`),
    ),
  );
  put(
    layout.timers,
    timers.map(({ name }) =>
      situation(`${name} left`, NUMBER, -1, 'ticks; 0 when done, -1 when not started'),
    ),
  );
  put(
    layout.charges,
    cooldowns.map(({ name, charges }) => situation(`${name} charges`, NUMBER, charges, 'charges left')),
  );
  put(
    layout.clocks,
    cooldowns.map(({ name }) => situation(`${name} next`, NUMBER, 0, 'ticks until the next charge')),
  );
  put(
    layout.spentIn,
    cooldowns.map(({ name }) =>
      situation(
        `${name} spent in`,
        { kind: 'anyLeaf' },
        -1,
        'the state in which the last charge was spent, -1 none',
      ),
    ),
  );
  put(
    layout.unlocked,
    abilities.map(({ name, locked }) =>
      situation(`${name} unlocked`, TRUTH, locked ? 0 : 1, `the ability ${name}`),
    ),
  );
  put(
    layout.events,
    events.map((name) => situation(`${name} raised`, TRUTH, 0, `${name} was raised in the last tick`)),
  );
  put(
    layout.memories,
    memories.map((memory, i) => {
      const { mode } = memory;
      const what = rememberedBy(memory, i);
      return situation(
        mode === 'within' ? `since ${what}` : `ticks ${what}`,
        NUMBER,
        startOfMemory(memory),
        mode === 'within' ? 'ticks since that was so last' : 'ticks for which that has been so',
      );
    }),
  );
  put(
    layout.input,
    controls.map(({ name, kind }) =>
      situation(`${name} before`, kind === 'button' ? TRUTH : NUMBER, 0, 'in the last tick'),
    ),
  );
  tethers.forEach(({ name }, i) =>
    put(present(layout.anchors[i]), [situation(`${name} count`, NUMBER, 0, 'how many anchors hold')]),
  );
  put(
    layout.travel,
    [
      situation('travel vx', NUMBER, 0, 'm/s; what the body moves by in this tick'),
      situation('travel vy', NUMBER, 0, 'm/s, upward'),
    ].slice(0, machine.integration === 'semi-implicit' ? 0 : 2),
  );
}

/** What a memory remembers, in words: the condition where that is short. */
function rememberedBy({ of }: Memory, index: number): string {
  const words = (e: Expression): string | undefined => {
    if (e.kind === 'fact') return idOfRef(e.ref);
    const inner = e.kind === 'not' ? words(e.of) : undefined;
    return inner === undefined ? undefined : `not ${inner}`;
  };
  return words(of) ?? `memory ${index + 1}`;
}

/** Facts that are found in a tick, by slot; those that are asked of the world are members of the senses. */
function factsOf(machine: Machine, { asked }: Program): Map<number, Member> {
  const isAsked = new Set(asked.map(({ slot }) => slot));
  const facts = new Map<number, Member>();
  machine.facts.refs.forEach((ref, slot) => {
    if (isAsked.has(slot)) return;
    const index = machine.memories.findIndex((m) => m.slot === slot);
    const memory = machine.memories[index];
    const words =
      ref !== undefined
        ? idOfRef(ref)
        : memory === undefined
          ? `fact ${slot}`
          : `${rememberedBy(memory, index)} ${memory.mode} ${memory.ticks} ticks`;
    const type = ref === undefined || isTruthFact(ref.fact) || isFlag(machine, ref) ? TRUTH : NUMBER;
    facts.set(slot, { owner: 'working', words, type, initial: 0, note: '' });
  });
  return facts;
}

const isTruthFact = (name: FactName): boolean =>
  isPlainFact(name) ? FACTS[name].dimension.truth : isNamedFact(name) && FACTS_OF[name].dimension.truth;

const isFlag = ({ variables }: Machine, { fact, of }: FactRef): boolean =>
  fact === 'variable' && variables.some(({ name, kind }) => name === of && kind === 'flag');

/** What a tick keeps while it works, by the names that the program gives it. */
function registersOf(machine: Machine, { registers }: Program): Map<number, Member> {
  return new Map(
    registers.map((name, i): [number, Member] => {
      const [first = '', second = ''] = name.split(' ');
      const lane = machine.lanes[Number(second)];
      const working = (words: string, type: Type): [number, Member] => [
        i,
        { owner: 'working', words, type, initial: type.kind === 'way' ? -1 : 0, note: '' },
      ];
      switch (first) {
        case 'chosen':
          return working(`${lane?.name ?? ''} way`, { kind: 'way', lane: Number(second) });
        case 'spent':
        case 'raised':
          return working(`${second} ${first}`, TRUTH);
        case 'refilled':
          return working(name, TRUTH);
        case 'wrote':
          return working(`${second} writer`, WHOLE);
        case 'yielding':
          return working(`${second} yielder`, WHOLE);
        case 'from':
        case 'to':
          return working(`way ${name}`, { kind: 'anyLeaf' });
        default:
          return working(name === 'speed' ? 'speed acted' : name, NUMBER);
      }
    }),
  );
}
