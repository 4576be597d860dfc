import { present } from '../../../../present.js';
import { chainOf, type Machine, refOf } from '../../../../machine/index.js';
import { factId, type FactName } from '../../../../notation/index.js';
import { type Digit, RUNNING, type Slice } from '../space.js';

/**
 * Something that counts ticks. All of them count upward: what counts down, as `left` of a timer does, is followed
 * negated, so that it ends at 0.
 */
export type Clock =
  /** Ticks since a lane entered its state. */
  | { kind: 'leaf'; lane: number }
  /** Ticks since a group was entered. */
  | { kind: 'group'; state: number }
  | { kind: 'airtime' }
  /** Minus the ticks that a running timer has left. */
  | { kind: 'timer'; timer: number }
  /** Minus the ticks until a cooldown gives a charge back. */
  | { kind: 'recharge'; cooldown: number };

/** A clock as an expression reads it: the number with a key is `sign` times what the clock at a place shows. */
export interface Reading {
  key: string;
  clock: number;
  sign: 1 | -1;
}

/** More clocks than this are not followed: what is known of them grows with the square of their number. */
const MAX_CLOCKS = 8;

/** The digits that say where time stands: the states of lanes, timers and charges. */
export const isTimed = ({ kind }: Digit): boolean =>
  kind === 'leaf' || kind === 'timer' || kind === 'charges';

/**
 * The clocks of a slice, given all numbers that its guards compare. How long its own lane has been in its state is
 * always among them: it explains what the others show.
 */
export function clocksOf(
  machine: Machine,
  { digits, lanes, lane: own }: Slice,
  keys: ReadonlySet<string>,
): Clock[] {
  const read = (fact: 'elapsed' | 'laneElapsed' | 'airtime', of?: string): boolean =>
    keys.has(factId(fact, of));
  const states = (lane: number) => present(machine.lanes[lane]).states.map((s) => present(machine.states[s]));
  const leaves = lanes
    .filter(
      (lane) =>
        lane === own ||
        read('laneElapsed', present(machine.lanes[lane]).name) ||
        states(lane).some((s) => s.members.length === 0 && read('elapsed', s.name)),
    )
    .map((lane): Clock => ({ kind: 'leaf', lane }));
  const groups = lanes
    .flatMap(states)
    .filter((s) => s.members.length > 0 && read('elapsed', s.name))
    .map((s): Clock => ({ kind: 'group', state: s.index }));
  const running = digits.flatMap(({ kind, index }): Clock[] => {
    if (kind === 'timer') return [{ kind, timer: index }];
    return kind === 'charges' ? [{ kind: 'recharge', cooldown: index }] : [];
  });
  const air: Clock[] = read('airtime') ? [{ kind: 'airtime' }] : [];
  return [...leaves, ...groups, ...air, ...running].slice(0, MAX_CLOCKS);
}

/** Facts that time decides. */
const OF_TIME: ReadonlySet<FactName> = new Set([
  'elapsed',
  'laneElapsed',
  'airtime',
  'left',
  'running',
  'done',
  'ready',
  'charges',
]);

/** Whether what keys stand for has to do with time. */
export const readTime = (machine: Machine, keys: Iterable<string>): boolean =>
  [...keys].some((key) => {
    const fact = refOf(machine.facts, key)?.fact;
    return fact !== undefined && OF_TIME.has(fact);
  });

/** Numbers that count time. */
const COMPARED: readonly FactName[] = ['elapsed', 'laneElapsed', 'airtime', 'left'];

/** Whether clocks can tell anything: some guard compares one, two run side by side, or one waits for a state to be left. */
export function areTelling(machine: Machine, clocks: readonly Clock[], keys: ReadonlySet<string>): boolean {
  const running = clocks.filter((c) => c.kind === 'timer' || c.kind === 'recharge');
  const compared = [...keys].some((key) => {
    const fact = refOf(machine.facts, key)?.fact;
    return fact !== undefined && COMPARED.includes(fact);
  });
  return (
    compared ||
    running.length > 1 ||
    clocks.some((c) => c.kind === 'recharge' && present(machine.cooldowns[c.cooldown]).from === 'exit')
  );
}

/** How expressions read the clocks while lanes are in some leaves; a timer only while it runs. */
export function readingsIn(
  machine: Machine,
  clocks: readonly Clock[],
  leaves: readonly number[],
  isRunning: (timer: number) => boolean,
): Reading[] {
  return clocks.flatMap((clock, i): Reading[] => {
    const reading = (key: string, sign: 1 | -1 = 1): Reading => ({ key, clock: i + 1, sign });
    switch (clock.kind) {
      case 'leaf': {
        const leaf = present(leaves.find((s) => present(machine.states[s]).lane === clock.lane));
        return [
          reading(factId('laneElapsed', present(machine.lanes[clock.lane]).name)),
          reading(factId('elapsed', present(machine.states[leaf]).name)),
        ];
      }
      case 'group': {
        const isIn = leaves.some((leaf) => chainOf(machine, leaf).includes(clock.state));
        return isIn ? [reading(factId('elapsed', present(machine.states[clock.state]).name))] : [];
      }
      case 'airtime':
        return [reading(factId('airtime'))];
      case 'timer':
        return isRunning(clock.timer)
          ? [reading(factId('left', present(machine.timers[clock.timer]).name), -1)]
          : [];
      case 'recharge':
        return [];
    }
  });
}

/** The same in a situation of a slice. */
export function readingsAt(
  machine: Machine,
  { digits }: Slice,
  clocks: readonly Clock[],
  values: readonly number[],
): Reading[] {
  const leaves = digits.flatMap((d, i) => (d.kind === 'leaf' ? [present(d.leaves[present(values[i])])] : []));
  return readingsIn(
    machine,
    clocks,
    leaves,
    (timer) => values[digits.findIndex((d) => d.kind === 'timer' && d.index === timer)] === RUNNING,
  );
}
