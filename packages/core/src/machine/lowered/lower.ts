import { present } from '../../present.js';
import { idOfRef } from '../../notation/index.js';
import type { Machine } from '../definition/machine.js';
import { slotOf } from '../definition/facts.js';
import { act, enterInitial, keepSpeed } from './act.js';
import { clocks, own, OWN } from './clocks.js';
import { decide } from './decide.js';
import { raised } from './effects.js';
import { IN_ZONES, TICK } from './layout.js';
import { createLowering, type Lowering, NOBODY, WRITABLE, writer } from './lowering.js';
import { motion } from './motion.js';
import type { Asked, Program, Statement, Step, WorldAct } from './program.js';
import { fact, field, input, is, isNot, number, plus, set, when } from './terms.js';
import { isYielded, yielding } from './yielding.js';

export interface LowerOptions {
  /** Find every fact in every tick, as the reference does, not only what something reads; for recording. */
  allFacts?: boolean;
  /** Tell which piece of the moveset a statement is made from, for who prints it for people; ties are not told then. */
  origins?: boolean;
}

/** Lowers a machine to a program: what a tick of it does, as data. */
export function lower(machine: Machine, { allFacts = false, origins = false }: LowerOptions = {}): Program {
  const lowering = createLowering(machine, origins);
  const zones = (act: WorldAct): Statement[] =>
    when(isNot(field(IN_ZONES), 0), [{ kind: 'world', act, index: 0 }]);
  const acts = act(lowering);
  const moves = motion(lowering);
  const steps: Step[] = [
    { name: 'begin', statements: [...begin(lowering), ...zones('pickUp')] },
    { name: 'clocks', statements: clocks(lowering) },
    { name: 'decide', statements: decide(lowering) },
    {
      name: 'act',
      statements: [...fresh(lowering), ...acts, ...keepSpeed(lowering), ...zones('launch')],
    },
    { name: 'motion', statements: moves },
    { name: 'keep', statements: keep(lowering) },
  ];
  // By now it is known what is read; probes and tethers are cast along the aim.
  for (const { kind, name } of machine.controls)
    if (kind === 'aim') lowering.used.add(slotOf(machine.facts, 'aim', name));
  const isUsed = (slot: number): boolean => allFacts || lowering.used.has(slot);
  const { sources } = lowering;
  const found = (moment: 'start' | 'own'): Statement[] =>
    sources.flatMap((source, slot) =>
      source?.when === moment && isUsed(slot) ? [set(fact(slot), source.value)] : [],
    );
  const asked = sources.flatMap((source, slot) =>
    source?.when === 'asked' ? [{ slot, ref: present(machine.facts.refs[slot]) }] : [],
  );
  return {
    layout: lowering.layout,
    facts: machine.facts.refs.map((ref) => (ref === undefined ? 'memory' : idOfRef(ref))),
    registers: lowering.registers,
    asked,
    steps: [
      { name: 'sense', statements: [...found('start'), ...(allFacts ? asked.map(ask) : [])] },
      ...steps,
    ],
    procedures: [...lowering.procedures.values(), { name: OWN, statements: found('own') }],
  };
}

/** Asks for a fact before any expression comes to it. */
const ask = ({ slot }: Asked): Statement => set(fact(slot), fact(slot, true));

/** Nothing is raised yet, no channel is written. */
const fresh = (lowering: Lowering): Statement[] => [
  ...lowering.machine.events.map((_, i) => set(raised(lowering, i), number(0))),
  ...WRITABLE.flatMap((channel) => [
    set(writer(lowering, channel), number(NOBODY)),
    ...(isYielded(lowering, channel) ? [set(yielding(lowering, channel), number(-1))] : []),
  ]),
];

/** Before the first tick decides, its initial states are entered. Nobody is told of what they write: no lane has acted. */
function begin(lowering: Lowering): Statement[] {
  const { machine, layout } = lowering;
  const entered = silent(enterInitial(lowering));
  const heard = machine.events.flatMap((event, i) => [
    // There is no tick before in which they could have been raised: the first tick sees them.
    set(field(layout.events + i), raised(lowering, i)),
    set(fact(slotOf(machine.facts, 'event', event)), raised(lowering, i)),
  ]);
  return when(is(field(TICK), 0), [
    ...machine.memories.map(({ slot }) => set(fact(slot), number(0))),
    ...own(lowering, field(TICK)),
    ...fresh(lowering),
    ...entered,
    ...heard,
  ]);
}

/** Statements without what they tell. */
const silent = (statements: readonly Statement[]): Statement[] =>
  statements.flatMap((statement): Statement[] => {
    switch (statement.kind) {
      case 'tell':
        return [];
      case 'block':
        return [{ ...statement, body: silent(statement.body) }];
      case 'if':
        return when(statement.when, silent(statement.then), silent(statement.otherwise));
      case 'switch':
        return [
          {
            ...statement,
            cases: statement.cases.map(({ of, body }) => ({ of, body: silent(body) })),
            otherwise: silent(statement.otherwise),
          },
        ];
      default:
        return [statement];
    }
  });

/** Keeps what the next tick compares itself with. */
const keep = (lowering: Lowering): Statement[] => {
  const { machine, layout } = lowering;
  return [
    ...machine.events.map((_, i) => set(field(layout.events + i), raised(lowering, i))),
    ...machine.controls.map((_, i) => set(field(layout.input + i), input(i))),
    set(field(TICK), plus(field(TICK), number(1))),
  ];
};
