import { present } from '../../present.js';
import { chainOf, type Crossing, leavesOf } from '../definition/machine.js';
import { MAX_PASSING, wayBetween } from '../reference/act.js';
import { NEVER } from '../reference/memories.js';
import { chosen, decideInPassing, elapsedIn, leavesIn, spent, targetOf } from './decide.js';
import { perform, write } from './effects.js';
import * as at from './layout.js';
import { type Lowering, nameOf, procedure, register } from './lowering.js';
import { slotOf } from '../definition/facts.js';
import type { Statement } from './program.js';
import { any, compare, field, isNot, letBe, local, number, plus, set, switchOn, when } from './terms.js';

/** Step 5, as `act` of the reference: lane by lane what was chosen is taken; then `each` of all active states. */
export function act(lowering: Lowering): Statement[] {
  const { machine } = lowering;
  const taken = register(lowering, 'taken');
  const crossed = machine.lanes.flatMap(({ index }) => takeChosen(lowering, index));
  const each = machine.lanes.flatMap(({ index: lane }) =>
    byLeaf(lowering, lane, (leaf) =>
      chainOf(machine, leaf)
        .reverse()
        .flatMap((state) =>
          perform(lowering, present(machine.states[state]).each, {
            lane,
            kind: 'each',
            who: number(state),
            to: number(-1),
          }),
        ),
    ),
  );
  const anyTaken = isNot(taken, 0);
  return [
    set(taken, number(0)),
    ...crossed,
    ...each,
    // What the active states ask for is as before while they are the same.
    ...when(anyTaken, [...wantStance(lowering), ...forgetPresses(lowering)]),
  ];
}

/** The rules of motion may read `speed`: as it is when the lanes have acted. */
export function keepSpeed(lowering: Lowering): Statement[] {
  if (!lowering.registers.includes('speed')) return [];
  const source = lowering.after[slotOf(lowering.machine.facts, 'speed')];
  return source === undefined || source.when === 'asked'
    ? []
    : [set(register(lowering, 'speed'), source.value)];
}

/** Before the first tick decides, the initial states and their groups are entered, outer to inner. */
export function enterInitial(lowering: Lowering): Statement[] {
  const { machine } = lowering;
  return machine.lanes.flatMap(({ index }) =>
    byLeaf(lowering, index, (leaf) => enter(lowering, chainOf(machine, leaf).reverse())),
  );
}

/** Statements for each state that a lane may be in. */
export const byLeaf = (
  { machine, layout }: Lowering,
  lane: number,
  make: (leaf: number) => Statement[],
): Statement[] =>
  switchOn(
    field(layout.leaves + lane),
    leavesIn(machine, lane).map((leaf) => ({ of: leaf, body: make(leaf) })),
  );

const enter = (lowering: Lowering, states: readonly number[]): Statement[] =>
  states.flatMap((state) => {
    const { lane, enter: effects } = present(lowering.machine.states[state]);
    return perform(lowering, effects, { lane, kind: 'enter', who: number(state), to: number(-1) });
  });

/** Takes the crossing that a lane has chosen; a passing state is left at once, so many times in a row at most. */
function takeChosen(lowering: Lowering, lane: number): Statement[] {
  const { machine } = lowering;
  const choice = chosen(lowering, lane);
  const leaves = leavesIn(machine, lane);
  const take = byLeaf(lowering, lane, (leaf) => takeFrom(lowering, lane, leaf));
  const isChosen = compare(choice, '>=', number(0));
  const passing = leaves.filter((leaf) => present(machine.states[leaf]).passing);
  if (passing.length === 0) return when(isChosen, take);
  const elapsed = elapsedIn(lowering, lane);
  const pass = switchOn(
    field(lowering.layout.leaves + lane),
    passing.map((leaf) => ({ of: leaf, body: decideInPassing(lowering, leaf) })),
  );
  const body: Statement[] = [
    ...take,
    set(choice, number(-1)),
    // What a passing state sees: the facts of this tick, and that the lane has been there for no time.
    letBe('elapsed', elapsed),
    set(elapsed, number(0)),
    ...pass,
    set(elapsed, local('elapsed')),
  ];
  return [{ kind: 'repeat', times: MAX_PASSING, while: isChosen, body }];
}

/** What taking a chosen crossing from a state does. */
const takeFrom = (lowering: Lowering, lane: number, leaf: number): Statement[] =>
  procedure(lowering, `take from ${nameOf(lowering, leaf)}`, () => {
    const crossings = present(lowering.machine.lanes[lane]).crossings.filter((c) =>
      leaves(lowering, c, leaf),
    );
    const cases = crossings.map((crossing) => ({
      of: crossing.index,
      body: crossFrom(lowering, leaf, crossing),
    }));
    return switchOn(chosen(lowering, lane), cases);
  });

/** Whether a crossing leaves a state. */
const leaves = ({ machine }: Lowering, { from }: Crossing, leaf: number): boolean =>
  from.length === 0 || chainOf(machine, leaf).some((state) => from.includes(state));

function crossFrom(lowering: Lowering, leaf: number, crossing: Crossing): Statement[] {
  const target = targetOf(lowering, leaf, crossing.to);
  if (target.kind === 'number') return cross(lowering, leaf, crossing, target.value);
  const possible = leavesOf(lowering.machine, crossing.to);
  return [
    letBe('target', target),
    ...switchOn(
      local('target'),
      possible.map((to) => ({ of: to, body: cross(lowering, leaf, crossing, to) })),
    ),
  ];
}

/** A crossing from one state to another: what is left, inner to outer; what the crossing does; what is entered. */
function cross(lowering: Lowering, leaf: number, crossing: Crossing, target: number): Statement[] {
  const { machine, layout } = lowering;
  const { lane, index } = crossing;
  const { left, entered } = wayBetween(machine, leaf, crossing, target);
  const taken = register(lowering, 'taken');
  return [
    ...leave(lowering, leaf, left),
    ...chainOf(machine, leaf).map((state) => set(field(layout.last + state), number(leaf))),
    // What the crossing does counts as done by the state it leads to: a charge spent here is that state's.
    set(field(layout.leaves + lane), number(target)),
    ...doEffects(lowering, crossing, leaf, target),
    ...procedure(lowering, `enter ${entered.length} to ${nameOf(lowering, target)}`, () => [
      ...entered.flatMap((state) => [
        set(field(layout.entered + state), field(at.TICK)),
        ...enter(lowering, [state]),
      ]),
      ...takeStance(lowering, lane, target),
    ]),
    set(taken, plus(taken, number(1))),
    { kind: 'tell', what: { kind: 'taken', lane, crossing: index, from: leaf, to: target } },
  ];
}

/** The effects of leaving states, inner to outer; then what was spent in them begins to recharge. */
const leave = (lowering: Lowering, leaf: number, left: readonly number[]): Statement[] =>
  procedure(lowering, `leave ${left.length} from ${nameOf(lowering, leaf)}`, () => {
    const { machine } = lowering;
    const { lane } = present(machine.states[leaf]);
    return [
      ...left.flatMap((state) =>
        perform(lowering, present(machine.states[state]).exit, {
          lane,
          kind: 'exit',
          who: number(state),
          to: number(-1),
        }),
      ),
      ...startRecharging(lowering, left),
    ];
  });

/** Cooldowns with `from: exit` begin to recharge when the state that spent them is left. */
function startRecharging({ machine, layout }: Lowering, left: readonly number[]): Statement[] {
  return machine.cooldowns.flatMap(({ from, charges, ticks }, i) => {
    if (from !== 'exit') return [];
    const spentIn = field(layout.spentIn + i);
    const clock = field(layout.clocks + i);
    const isEmpty = compare(field(layout.charges + i), '<', number(charges));
    return when(any(...left.map((state) => compare(spentIn, '=', number(state)))), [
      set(spentIn, number(-1)),
      ...when(compare(clock, '=', number(0)), when(isEmpty, [set(clock, number(ticks))])),
    ]);
  });
}

/** The effects of a crossing. Who performs them depends on where it leads from and to. */
function doEffects(lowering: Lowering, crossing: Crossing, leaf: number, target: number): Statement[] {
  if (crossing.do.length === 0) return [];
  const { lane, index } = crossing;
  const [from, to] = [register(lowering, 'from'), register(lowering, 'to')];
  return [
    set(from, number(leaf)),
    set(to, number(target)),
    ...procedure(lowering, `do ${lane} ${index}`, () =>
      perform(lowering, crossing.do, { lane, kind: 'do', who: from, to }),
    ),
  ];
}

function takeStance(lowering: Lowering, lane: number, target: number): Statement[] {
  const { stance } = present(lowering.machine.states[target]);
  if (stance < 0) return [];
  const by = { lane, kind: 'stance' as const, who: number(target), to: number(-1) };
  return write(lowering, 'stance', by, { replaces: true, change: [], value: number(stance) });
}

/** The stance that the active states ask for, as `wantedStance` of the reference. */
function wantStance(lowering: Lowering): Statement[] {
  const { lanes, states } = lowering.machine;
  const wanted = local('wanted');
  const asks = (yielding: boolean): Statement[] =>
    lanes
      .filter((lane) => lane.yields.includes('stance') === yielding)
      .flatMap(({ index }) =>
        byLeaf(lowering, index, (leaf) => {
          const { stance } = present(states[leaf]);
          return stance < 0 ? [] : [set(wanted, number(stance))];
        }),
      );
  // A lane that yields its stance counts only while no other names one: the later goes over the earlier.
  const asked = [...asks(true), ...asks(false)];
  const now = field(at.WANTED);
  return asked.length === 0
    ? []
    : [letBe('wanted', number(-1)), ...asked, ...when(compare(wanted, '>=', number(0)), [set(now, wanted)])];
}

/** A press that opened a crossing is no longer remembered by any other. */
function forgetPresses(lowering: Lowering): Statement[] {
  const { machine, layout } = lowering;
  const controls = [...new Set(machine.memories.flatMap((m) => m.presses))];
  return [
    ...machine.memories.flatMap(({ presses }, i) =>
      presses.length === 0
        ? []
        : when(any(...presses.map((c) => isNot(spent(lowering, c), 0))), [
            set(field(layout.memories + i), number(NEVER)),
          ]),
    ),
    ...controls.map((c) => set(spent(lowering, c), number(0))),
  ];
}
