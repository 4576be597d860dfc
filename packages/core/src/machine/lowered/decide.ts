import { present } from '../../present.js';
import type { Expression } from '../../notation/index.js';
import { type Crossing, guardOf, leavesOf, type Machine } from '../definition/machine.js';
import { slotOf } from '../definition/facts.js';
import { exitsOf } from '../reference/decide.js';
import { truthOf } from './expressions.js';
import { factAt, found, type Lowering, nameOf, procedure, register } from './lowering.js';
import type { Place, Statement, Term } from './program.js';
import {
  all,
  any,
  choice,
  compare,
  field,
  is,
  isNever,
  isNot,
  not,
  number,
  set,
  switchOn,
  when,
} from './terms.js';

/** The crossing that a lane takes in this tick, by its place among those of the lane; −1 none. */
export const chosen = (lowering: Lowering, lane: number): Place => register(lowering, `chosen ${lane}`);

/** Step 4: each lane chooses, on the facts of the tick, the first open crossing; and tells which others tie with it. */
export const decide = (lowering: Lowering): Statement[] =>
  lowering.machine.lanes.flatMap(({ index }) => [
    set(chosen(lowering, index), number(-1)),
    ...switchOn(
      field(lowering.layout.leaves + index),
      leavesIn(lowering.machine, index).map((leaf) => ({
        of: leaf,
        body: procedure(lowering, `decide in ${nameOf(lowering, leaf)}`, () =>
          first(lowering, index, groupsOf(lowering, leaf), !lowering.origins),
        ),
      })),
    ),
  ]);

/** What a lane chooses in a passing state that it has just entered; ties are told only of what a tick began with. */
export const decideInPassing = (lowering: Lowering, leaf: number): Statement[] => {
  const { lane } = present(lowering.machine.states[leaf]);
  return procedure(lowering, `pass through ${nameOf(lowering, leaf)}`, () =>
    first(lowering, lane, groupsOf(lowering, leaf), false),
  );
};

/** The states of a lane, its groups apart. */
export const leavesIn = (machine: Machine, lane: number): number[] =>
  present(machine.lanes[lane]).states.filter((state) => present(machine.states[state]).members.length === 0);

/** A crossing that leaves a state, and when it is open. */
interface Way {
  crossing: Crossing;
  isOpen: Term;
}

/** The ways out of a state in the order they are considered, those of one level and rank together. */
function groupsOf(lowering: Lowering, leaf: number): Way[][] {
  const groups: (Way[] & { label?: string })[] = [];
  for (const { crossing, level } of exitsOf(lowering.machine, leaf)) {
    const label = `${level} ${crossing.rank}`;
    const last = groups[groups.length - 1];
    const way = { crossing, isOpen: isOpen(lowering, leaf, crossing) };
    if (last?.label === label) last.push(way);
    else groups.push(Object.assign([way], { label }));
  }
  return groups;
}

/** Chooses the first open way; of those after it in its group it tells that they tie. */
function first(lowering: Lowering, lane: number, groups: readonly Way[][], tells: boolean): Statement[] {
  const [group, ...rest] = groups;
  if (group === undefined) return [];
  const choice = chosen(lowering, lane);
  const take = ({ crossing }: Way): Statement[] => [
    set(choice, number(crossing.index)),
    ...(crossing.when === undefined ? [] : spend(lowering, crossing.when)),
  ];
  const otherwise = first(lowering, lane, rest, tells);
  const origin = ({ crossing }: Way): Statement[] => originOf(lowering, crossing);
  if (group.length === 1) {
    const way = present(group[0]);
    return [...origin(way), ...when(way.isOpen, take(way), otherwise)];
  }
  const isFree = is(choice, -1);
  const tried = group.flatMap((way, i): Statement[] => {
    if (i === 0) return [...origin(way), ...when(way.isOpen, take(way))];
    if (!tells) return [...origin(way), ...when(all(isFree, way.isOpen), take(way))];
    const tie: Statement = {
      kind: 'tell',
      what: { kind: 'tie', lane, chosen: choice, crossing: way.crossing.index },
    };
    return when(way.isOpen, when(isFree, take(way), [tie]));
  });
  return [...tried, ...when(isFree, otherwise)];
}

/** A crossing as the moveset has it: where it leads, and when. */
function originOf({ machine, origins }: Lowering, crossing: Crossing): Statement[] {
  if (!origins) return [];
  const { path, to } = crossing;
  const guard = guardOf(machine, crossing);
  const text = `to ${present(machine.states[to]).name}${guard === undefined ? '' : ` when ${guard.text}`}`;
  return [{ kind: 'tell', what: { kind: 'origin', path: guard?.path ?? path, text } }];
}

/** When a crossing is open: its ability and its target's unlocked, its guard true, room for what it leads to. */
function isOpen(lowering: Lowering, leaf: number, crossing: Crossing): Term {
  const { machine } = lowering;
  const target = targetOf(lowering, leaf, crossing.to);
  const conditions = [...unlocked(lowering, crossing.ability)];
  const guard = crossing.when === undefined ? [] : [truthOf(lowering, 'decide', crossing.when)];
  if (target.kind === 'number')
    conditions.push(
      ...unlocked(lowering, present(machine.states[target.value]).ability),
      ...guard,
      ...room(lowering, target.value),
    );
  else {
    conditions.push(...guard);
    for (const possible of leavesOf(machine, crossing.to)) {
      const needs = [
        ...unlocked(lowering, present(machine.states[possible]).ability),
        ...room(lowering, possible),
      ];
      if (needs.length > 0) conditions.push(any(isNot(target, possible), all(...needs)));
    }
  }
  return all(...conditions);
}

const unlocked = (lowering: Lowering, ability: number): Term[] =>
  ability < 0
    ? []
    : [isNot(found(lowering, 'unlocked', present(lowering.machine.abilities[ability]).name), 0)];

function room(lowering: Lowering, state: number): Term[] {
  const { stance, ifBlocked } = present(lowering.machine.states[state]);
  if (stance < 0 || ifBlocked !== 'refuse') return [];
  return [isNot(found(lowering, 'fits', present(lowering.machine.stances[stance]).name), 0)];
}

/** The state that a crossing from a leaf enters, as `leafFrom` of the reference: known beforehand but where a group resumes. */
export function targetOf(lowering: Pick<Lowering, 'machine' | 'layout'>, leaf: number, to: number): Term {
  const { machine, layout } = lowering;
  const { members, resumes, initial } = present(machine.states[to]);
  if (members.length === 0) return number(to);
  const begins = targetOf(lowering, leaf, initial);
  if (!resumes) return begins;
  if (leavesOf(machine, to).includes(leaf)) return number(leaf);
  const last = field(layout.last + to);
  return choice(compare(last, '>=', number(0)), last, begins);
}

/** Whether a control's press was spent in this tick. */
export const spent = (lowering: Lowering, control: string): Place => register(lowering, `spent ${control}`);

/** Marks the presses that made a guard hold, as `pressesUsed` of the reference finds them. */
function spend(lowering: Lowering, e: Expression): Statement[] {
  const mark = (controls: readonly string[]): Statement[] =>
    controls.filter((c) => isForgotten(lowering.machine, c)).map((c) => set(spent(lowering, c), number(1)));
  const holds = (part: Expression): Term => truthOf(lowering, 'decide', part);
  switch (e.kind) {
    case 'fact':
      return e.ref.fact === 'pressed' ? mark([present(e.ref.of)]) : [];
    case 'memory':
      return mark(e.presses);
    case 'choice':
      return when(holds(e.when), spend(lowering, e.then), spend(lowering, e.otherwise));
    case 'logic': {
      if (e.op === 'and') return e.parts.flatMap((part) => spend(lowering, part));
      const marks = e.parts.reduceRight<Statement[]>(
        (otherwise, part) => when(holds(part), spend(lowering, part), otherwise),
        [],
      );
      // Nothing is used when a part holds without a press, else what the first part that holds has used.
      return marks.length === 0 ? [] : when(usesPress(lowering, e), marks);
    }
    default:
      return [];
  }
}

/** Whether some memory forgets a press of a control once it was used. */
export const isForgotten = ({ memories }: Machine, control: string): boolean =>
  memories.some(({ presses }) => presses.includes(control));

/** Whether an expression that holds used a press. */
function usesPress(lowering: Lowering, e: Expression): Term {
  switch (e.kind) {
    case 'fact':
      return e.ref.fact === 'pressed' ? all() : any();
    case 'memory':
      return e.presses.length > 0 ? all() : any();
    case 'choice':
      return choice(
        truthOf(lowering, 'decide', e.when),
        usesPress(lowering, e.then),
        usesPress(lowering, e.otherwise),
      );
    case 'logic': {
      if (e.op === 'and') return any(...e.parts.map((part) => usesPress(lowering, part)));
      const free = e.parts.map((part) =>
        all(truthOf(lowering, 'decide', part), not(usesPress(lowering, part))),
      );
      return not(any(...free.filter((f) => !isNever(f))));
    }
    default:
      return any();
  }
}

/** The fact of how long a lane has been in its state. */
export const elapsedIn = (lowering: Lowering, lane: number): Place => {
  const slot = slotOf(lowering.machine.facts, 'laneElapsed', present(lowering.machine.lanes[lane]).name);
  return factAt(lowering, 'decide', slot) as Place;
};
