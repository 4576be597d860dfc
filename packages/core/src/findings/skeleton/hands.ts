import { type Channel, type Effect, type Machine, wayBetween } from '../../machine/index.js';
import { evaluate, type Expression, factsIn, print } from '../../notation/index.js';
import type { Finding } from '../catalogue.js';
import { placeOf } from '../guard.js';
import { truthOf } from '../literals.js';
import { CHANNEL_WORDS } from '../runs/hands.js';
import { canHold } from '../solver.js';
import { digitsIn, type Exit, situationsByLeaf, type Skeleton } from './explore.js';

/** One write that may happen in a tick. */
interface Hand {
  channel: Channel;
  author: string;
  /** What it sets, as text: two that set the same are no quarrel. */
  value: string;
}

/**
 * AG2, suspected: what a crossing sets on the way in, while another lane is in a state that holds the same channel, or
 * the entered state itself holds it. The hold comes last in the tick, so what was set never moves anything.
 */
export function suspectedHands(machine: Machine, skeleton: Skeleton): Finding[] {
  const { slice } = skeleton;
  const found = new Map<string, Finding>();
  for (const [leaf, situations] of situationsByLeaf(skeleton)) {
    for (const exit of skeleton.exits.get(leaf)!) {
      for (const { leaf: target } of exit.targets) {
        const sets = setsOf(machine, exit, target);
        if (sets.length === 0) continue;
        for (const other of machine.states) {
          if (other.members.length > 0) continue;
          const isOwn = other.index === target;
          if (!isOwn && other.lane === slice.lane) continue;
          const holds = holdsOf(machine, other.index, isOwn ? -1 : slice.lane);
          for (const set of sets) {
            // A lane that yields the channel takes back what it set.
            if (!isOwn && machine.lanes[slice.lane]!.yields.includes(set.channel)) continue;
            const hold = holds.find((h) => h.channel === set.channel && h.value !== set.value);
            if (hold === undefined || (isOwn && / exit$/.test(set.author))) continue;
            const fingerprint = `AG2/${set.channel}/${set.author}/${hold.author}`;
            if (found.has(fingerprint)) continue;
            if (!mayMeet(machine, skeleton, exit, situations, isOwn ? undefined : other.index)) continue;
            found.set(fingerprint, quarrel(machine, exit, target, set, hold, isOwn ? undefined : other.lane));
          }
        }
      }
    }
  }
  return [...found.values()];
}

/** Whether an exit may be taken while another lane is in a state. */
function mayMeet(
  machine: Machine,
  { slice, isOpen }: Skeleton,
  exit: Exit,
  situations: readonly number[][],
  other: number | undefined,
): boolean {
  const beside = other === undefined ? [] : [truthOf('in', machine.states[other]!.name)];
  const formulas = [...exit.formulas, ...beside];
  if (!canHold(machine, formulas)) return false;
  const both = { formulas, digits: digitsIn(machine, slice.digits, formulas) };
  return situations.some((values) => isOpen(both, values));
}

function quarrel(
  machine: Machine,
  exit: Exit,
  target: number,
  set: Hand,
  hold: Hand,
  other: number | undefined,
): Finding {
  const lane = machine.lanes[exit.crossing.lane]!;
  const of = other === undefined ? '' : ` of the lane ${machine.lanes[other]!.name}`;
  return {
    code: 'AG2',
    certainty: 'suspected',
    lane: lane.name,
    state: machine.states[target]!.name,
    crossing: {
      from: machine.states[exit.leaf]!.name,
      to: placeOf(machine, exit.crossing).to,
      index: exit.crossing.index,
    },
    sentence: `${set.author} and ${hold.author}${of} may both write ${CHANNEL_WORDS[set.channel]} in one tick: what ${set.author} writes is lost before it moves anything.`,
    reason: [
      `${set.author} sets ${CHANNEL_WORDS[set.channel]} to \`${set.value}\`; ${hold.author}, later in the tick, to \`${hold.value}\`.`,
      'No run has come there yet.',
    ],
    witness: null,
    path: exit.crossing.path,
    fingerprint: `AG2/${set.channel}/${set.author}/${hold.author}`,
  };
}

/** What is set on the way along an exit; the last of each channel is what counts. */
function setsOf(machine: Machine, { crossing, leaf }: Exit, target: number): Hand[] {
  const name = (s: number): string => machine.states[s]!.name;
  const { left, entered } = wayBetween(machine, leaf, crossing, target);
  const hands = (effects: readonly Effect[], author: string): Hand[] =>
    effects.flatMap((e): Hand[] =>
      e.kind === 'velocity' && e.op === ':='
        ? [{ channel: e.channel, author, value: valueText(e.value) }]
        : [],
    );
  return [
    ...left.flatMap((s) => hands(machine.states[s]!.exit, `${name(s)} exit`)),
    ...hands(crossing.do, `${name(leaf)} → ${name(target)} do`),
    ...entered.flatMap((s) => hands(machine.states[s]!.enter, `${name(s)} enter`)),
  ].filter((hand, i, all) => !all.slice(i + 1).some((later) => later.channel === hand.channel));
}

/** What a state holds, but for what its lane yields to a lane that has written. */
function holdsOf(machine: Machine, leaf: number, to: number): Hand[] {
  const { motion, name, lane } = machine.states[leaf]!;
  return (['vx', 'vy'] as const).flatMap((channel): Hand[] => {
    const value = motion.hold?.[channel];
    if (value === undefined || (to >= 0 && machine.lanes[lane]!.yields.includes(channel))) return [];
    return [{ channel, author: `${name} hold`, value: valueText(value) }];
  });
}

/** What a value is: the number when it is one whatever happens, else its text. */
const valueText = (e: Expression): string =>
  factsIn(e).length === 0 ? String(Math.round(evaluate(e, []) * 100) / 100) : print(e.syntax);
