import { present } from '../../../present.js';
import {
  type Author,
  authorText,
  type Channel,
  effectsBetween,
  type Machine,
  type State,
} from '../../../machine/index.js';
import { evaluate, type Expression, factsIn, print } from '../../../notation/index.js';
import { type Finding, createFinding } from '../../sentences/finding.js';
import { canHold, truthOf } from '../../../solver/index.js';
import { writeEvidence } from '../conflicts.js';
import { digitsIn, type Exit } from './explore/exits.js';
import { situationsByLeaf, type Skeleton } from './explore/explore.js';

/** One write that may happen in a tick. */
interface ChannelWrite {
  channel: Channel;
  author: Author;
  /** What it sets, as text: two that set the same are no conflict. */
  value: string;
}

/**
 * AG2, suspected: what a crossing sets on the way in, while another lane is in a state that holds the same channel, or
 * the entered state itself holds it. The hold comes last in the tick, so what was set never moves anything.
 */
export function suspectedWriteConflicts(machine: Machine, skeleton: Skeleton): Finding[] {
  const { slice } = skeleton;
  const found = new Map<string, Finding>();
  for (const [leaf, situations] of situationsByLeaf(skeleton)) {
    for (const exit of present(skeleton.exits.get(leaf))) {
      for (const { leaf: target } of exit.targets) {
        const sets = setsOf(machine, exit, target);
        if (sets.length === 0) continue;
        for (const other of machine.states) {
          if (other.members.length > 0) continue;
          const isOwn = other.index === target;
          if (!isOwn && other.lane === slice.lane) continue;
          const holds = holdsOf(machine, other.index, isOwn ? -1 : slice.lane);
          if (!isOwn)
            for (const set of sets) {
              const finding = undoneLater(machine, exit, target, set, other);
              if (finding === undefined || found.has(finding.fingerprint)) continue;
              if (mayMeet(machine, skeleton, exit, situations, other.index))
                found.set(finding.fingerprint, finding);
            }
          for (const set of sets) {
            // A lane that yields the channel takes back what it set.
            if (!isOwn && present(machine.lanes[slice.lane]).yields.includes(set.channel)) continue;
            const hold = holds.find((h) => h.channel === set.channel && h.value !== set.value);
            if (hold === undefined || (isOwn && set.author.kind === 'exit')) continue;
            const finding = conflict(machine, exit, target, [set, hold]);
            if (found.has(finding.fingerprint)) continue;
            if (!mayMeet(machine, skeleton, exit, situations, isOwn ? undefined : other.index)) continue;
            found.set(finding.fingerprint, finding);
          }
        }
      }
    }
  }
  return [...found.values()];
}

/**
 * RK3, suspected: what a crossing sets while another lane is in a state that holds the same channel and yields it. That
 * lane leaves the tick to it, and holds the channel again from the next one on, unless the entered state moves it.
 */
function undoneLater(
  machine: Machine,
  exit: Exit,
  target: number,
  set: ChannelWrite,
  other: State,
): Finding | undefined {
  const { channel } = set;
  const { yields, name: lane } = present(machine.lanes[other.lane]);
  const value = channel === 'vx' || channel === 'vy' ? other.motion.hold?.[channel] : undefined;
  if (value === undefined || !yields.includes(channel) || valueText(value) === set.value) return undefined;
  const { motion } = present(machine.states[target]);
  const moves =
    channel === 'vx'
      ? (motion.hold?.vx ?? motion.push?.x ?? motion.drive)
      : (motion.hold?.vy ?? motion.push?.y ?? motion.tether);
  if (moves !== undefined || set.author.kind === 'exit') return undefined;
  return createFinding({
    code: 'RK3',
    ...onTheWay(machine, exit, target),
    evidence: {
      kind: 'nextTick',
      by: authorText(machine, set.author),
      channel: channel as 'vx' | 'vy',
      value: set.value,
      hold: {
        by: authorText(machine, { kind: 'hold', lane: other.lane, state: other.index, to: -1 }),
        state: other.name,
        lane,
        value: valueText(value),
      },
    },
  });
}

/** Whether an exit may be taken while another lane is in a state. */
function mayMeet(
  machine: Machine,
  { slice, isOpen }: Skeleton,
  exit: Exit,
  situations: readonly number[][],
  other: number | undefined,
): boolean {
  const beside = other === undefined ? [] : [truthOf('in', present(machine.states[other]).name)];
  const formulas = [...exit.formulas, ...beside];
  if (!canHold(machine, formulas)) return false;
  const both = { formulas, digits: digitsIn(machine, slice.digits, formulas) };
  return situations.some((values) => isOpen(both, values));
}

function conflict(
  machine: Machine,
  exit: Exit,
  target: number,
  [set, hold]: [ChannelWrite, ChannelWrite],
): Finding {
  return createFinding({
    code: 'AG2',
    ...onTheWay(machine, exit, target),
    evidence: {
      channel: set.channel,
      first: writeEvidence(machine, set.author, set.value),
      last: writeEvidence(machine, hold.author, hold.value),
    },
  });
}

/** Where a fault of an exit is reported. */
const onTheWay = (machine: Machine, { crossing, leaf }: Exit, target: number) => ({
  certainty: 'suspected' as const,
  lane: present(machine.lanes[crossing.lane]).name,
  state: present(machine.states[target]).name,
  crossing: {
    from: present(machine.states[leaf]).name,
    to: present(machine.states[crossing.to]).name,
    index: crossing.index,
  },
  path: crossing.path,
  witness: null,
});

/** What is set on the way along an exit; the last of each channel is what counts. */
const setsOf = (machine: Machine, { crossing, leaf }: Exit, target: number): ChannelWrite[] =>
  effectsBetween(machine, leaf, crossing, target)
    .flatMap(({ effect, author }): ChannelWrite[] =>
      effect.kind === 'velocity' && effect.op === ':='
        ? [{ channel: effect.channel, author, value: valueText(effect.value) }]
        : [],
    )
    .filter((write, i, all) => !all.slice(i + 1).some((later) => later.channel === write.channel));

/** What a state holds, but for what its lane yields to a lane that has written. */
function holdsOf(machine: Machine, leaf: number, to: number): ChannelWrite[] {
  const { motion, lane } = present(machine.states[leaf]);
  return (['vx', 'vy'] as const).flatMap((channel): ChannelWrite[] => {
    const value = motion.hold?.[channel];
    if (value === undefined || (to >= 0 && present(machine.lanes[lane]).yields.includes(channel))) return [];
    return [{ channel, author: { kind: 'hold', lane, state: leaf, to: -1 }, value: valueText(value) }];
  });
}

/** What a value is: the number when it is one whatever happens, else its text. */
const valueText = (e: Expression): string =>
  factsIn(e).length === 0 ? String(Math.round(evaluate(e, []) * 100) / 100) : print(e.syntax);
