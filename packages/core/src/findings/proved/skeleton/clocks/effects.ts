import { present } from '../../../../present.js';
import { type Crossing, type Effect, type Machine, wayBetween } from '../../../../machine/index.js';
import { DONE, type Digit, IDLE, RUNNING, type Slice, writes } from '../space.js';
import { type Bounds, forget, setClock, shiftClock, rangeOf, restrict } from './difference-bounds.js';
import type { Clock } from './clocks.js';

/** Discrete values, and what the clocks may show with them. */
export interface Timed {
  values: number[];
  bounds: Bounds;
}

/** What an effect, or a crossing by itself, does to clocks and to the digits that go with them; in place. */
export type ClockOp = (timed: Timed) => void;

/** Where the clock of a digit is among the clocks; 0 when it is not followed. */
export const clockOfDigit = (clocks: readonly Clock[], { kind, index }: Digit): number =>
  clocks.findIndex(
    (c) =>
      (kind === 'timer' && c.kind === 'timer' && c.timer === index) ||
      (kind === 'charges' && c.kind === 'recharge' && c.cooldown === index),
  ) + 1;

/** What a list of effects does. */
export const opsOfEffects = (
  machine: Machine,
  { digits }: Pick<Slice, 'digits'>,
  clocks: readonly Clock[],
  effects: readonly Effect[],
): ClockOp[] =>
  effects.flatMap((effect): ClockOp[] => {
    const digit = digits.findIndex((d) => writes(effect, d.kind, d.index));
    if (digit < 0) return [];
    return [opOf(machine, { effect, digit, clock: clockOfDigit(clocks, present(digits[digit])) })];
  });

function opOf(
  machine: Machine,
  { effect, digit, clock }: { effect: Effect; digit: number; clock: number },
): ClockOp {
  switch (effect.kind) {
    case 'start': {
      const { ticks, again } = present(machine.timers[effect.timer]);
      return ({ values, bounds }) => {
        const isRunning = values[digit] === RUNNING;
        if (isRunning && again === 'ignore') return;
        values[digit] = ticks > 0 || (isRunning && again === 'extend') ? RUNNING : DONE;
        if (clock === 0) return;
        if (isRunning && again === 'extend') shiftClock(bounds, clock, -ticks);
        else if (ticks > 0) setClock(bounds, clock, -ticks);
        else forget(bounds, clock);
      };
    }
    case 'stop':
      return ({ values, bounds }) => {
        values[digit] = IDLE;
        if (clock > 0) forget(bounds, clock);
      };
    case 'spend':
    case 'refill': {
      const { charges, ticks } = present(machine.cooldowns[effect.index]);
      if (effect.kind === 'refill')
        return ({ values, bounds }) => {
          values[digit] = charges;
          if (clock > 0) forget(bounds, clock);
        };
      // While a charge is missing already, its recharging goes on.
      return ({ values, bounds }) => {
        if (clock > 0 && values[digit] === charges) setClock(bounds, clock, -ticks);
        values[digit] = Math.max(0, present(values[digit]) - 1);
      };
    }
    default:
      throw new RangeError(`no clock is written by ${effect.kind}`);
  }
}

/**
 * What a crossing does to clocks between two leaves: the effects of what is left, the recharging that begins with it,
 * what the crossing and the entered states do, and the times of those, which begin.
 */
export function opsOfCrossing(
  machine: Machine,
  slice: Pick<Slice, 'digits'>,
  clocks: readonly Clock[],
  { crossing, leaf, target }: { crossing: Crossing; leaf: number; target: number },
): ClockOp[] {
  const { left, entered } = wayBetween(machine, leaf, crossing, target);
  const ops = (list: readonly Effect[]): ClockOp[] => opsOfEffects(machine, slice, clocks, list);
  return [
    ...ops(left.flatMap((s) => present(machine.states[s]).exit)),
    ...clocks.flatMap((clock, i) => begunByLeaving(machine, clock, i + 1, crossing.lane)),
    ...ops([...crossing.do, ...entered.flatMap((s) => present(machine.states[s]).enter)]),
    ...clocks.flatMap((clock, i): ClockOp[] => {
      const begins =
        (clock.kind === 'leaf' && clock.lane === crossing.lane) ||
        (clock.kind === 'group' && entered.includes(clock.state));
      return begins ? [({ bounds }) => setClock(bounds, i + 1, 0)] : [];
    }),
  ];
}

/**
 * A cooldown `from: exit` begins to recharge when the state that spent it is left. Until then its clock stands where it
 * was set.
 */
function begunByLeaving(machine: Machine, clock: Clock, at: number, lane: number): ClockOp[] {
  if (clock.kind !== 'recharge') return [];
  const { from, ticks } = present(machine.cooldowns[clock.cooldown]);
  if (from !== 'exit' || spenderOf(machine, clock.cooldown) !== lane) return [];
  return [
    ({ bounds }) => {
      if (isUnbegun(bounds, at, ticks)) begin(bounds, at, ticks);
    },
  ];
}

/** Begins a recharging: its clock may be one tick further already, by which it is known to have begun. */
export function begin(bounds: Bounds, clock: number, ticks: number): void {
  forget(bounds, clock);
  restrict(bounds, clock, 0, 1 - ticks);
  restrict(bounds, 0, clock, ticks);
}

/** Whether a recharging `from: exit` has surely not begun. */
export function isUnbegun(bounds: Bounds, clock: number, ticks: number): boolean {
  const { low, high } = rangeOf(bounds, clock);
  return low === -ticks && high === -ticks;
}

/** The one lane that spends a cooldown, or −1. */
export function spenderOf(machine: Machine, cooldown: number): number {
  const spends = (effects: readonly Effect[]): boolean =>
    effects.some((e) => e.kind === 'spend' && e.what === 'cooldown' && e.index === cooldown);
  const [lane, ...others] = machine.lanes.filter(
    ({ crossings, states }) =>
      crossings.some((c) => spends(c.do)) ||
      states.some((s) => {
        const { enter, exit, each } = present(machine.states[s]);
        return spends(enter) || spends(exit) || spends(each);
      }),
  );
  return lane === undefined || others.length > 0 ? -1 : lane.index;
}
