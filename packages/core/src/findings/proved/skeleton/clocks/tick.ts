import { present } from '../../../../present.js';
import type { Machine } from '../../../../machine/index.js';
import { canHold, formulaOf } from '../../../../solver/index.js';
import { DONE, RUNNING, type Slice } from '../space.js';
import type { Clock } from './clocks.js';
import { advance, copyOf, forget, type Pace, restrict, setClock, tighten } from './difference-bounds.js';
import { begin, clockOfDigit, isUnbegun, spenderOf, type Timed } from './effects.js';

/** What one tick does to clocks by itself. */
export function createTick(machine: Machine, { digits }: Slice, clocks: readonly Clock[]) {
  const timers = digits.flatMap((d, i) =>
    d.kind === 'timer' ? [{ digit: i, clock: clockOfDigit(clocks, d) }] : [],
  );
  const recharges = digits.flatMap((d, i) => {
    if (d.kind !== 'charges') return [];
    const cooldown = present(machine.cooldowns[d.index]);
    const isSteady = cooldown.from === 'spend' && cooldown.ticks > 0;
    const sole = cooldown.from === 'exit' && spenderOf(machine, d.index) >= 0;
    return [{ digit: i, clock: clockOfDigit(clocks, d), cooldown, isSteady, sole }];
  });
  const refills = new Map(
    recharges.map(({ digit, cooldown }) => [
      digit,
      cooldown.refill !== undefined && canHold(machine, [formulaOf(cooldown.refill)]),
    ]),
  );
  const paceOf = (clock: Clock, at: number, { values, bounds }: Timed): Pace => {
    switch (clock.kind) {
      case 'leaf':
      case 'group':
        return 'steady';
      case 'airtime':
        return 'resettable';
      case 'timer':
        return present(machine.timers[clock.timer]).runs === undefined ? 'steady' : 'pausable';
      case 'recharge': {
        const recharge = present(recharges.find((r) => r.clock === at));
        if (values[recharge.digit] === recharge.cooldown.charges) return 'frozen';
        if (recharge.isSteady) return 'steady';
        return recharge.sole && isUnbegun(bounds, at, recharge.cooldown.ticks) ? 'frozen' : 'pausable';
      }
    }
  };
  /** Gives back a charge, or all of them. */
  const giveBack = (
    { digit, clock, cooldown }: (typeof recharges)[number],
    { values, bounds }: Timed,
  ): Timed => {
    const charges = cooldown.order === 'together' ? cooldown.charges : present(values[digit]) + 1;
    const next = { values: values.with(digit, charges), bounds: copyOf(bounds) };
    if (clock === 0) return next;
    if (charges === cooldown.charges) forget(next.bounds, clock);
    else if (cooldown.from === 'exit') begin(next.bounds, clock, cooldown.ticks);
    else setClock(next.bounds, clock, -cooldown.ticks);
    return next;
  };
  return {
    /** A tick later, before the lanes decide: timers may be done, charges come back. */
    advanced(timed: Timed): Timed[] {
      const bounds = copyOf(timed.bounds);
      advance(
        bounds,
        clocks.map((clock, i) => paceOf(clock, i + 1, timed)),
      );
      let results: Timed[] = tighten(bounds) ? [{ values: timed.values, bounds }] : [];
      for (const { digit, clock } of timers) {
        if (timed.values[digit] !== RUNNING) continue;
        results = results.flatMap((before) => {
          const done = { values: before.values.with(digit, DONE), bounds: copyOf(before.bounds) };
          if (clock === 0) return [before, done];
          const runsOut = restrict(done.bounds, 0, clock, 0);
          forget(done.bounds, clock);
          const goesOn = restrict(before.bounds, clock, 0, -1);
          return [...(goesOn ? [before] : []), ...(runsOut ? [done] : [])];
        });
      }
      for (const recharge of recharges) {
        const { digit, clock, cooldown, isSteady } = recharge;
        if (timed.values[digit] === cooldown.charges || clock === 0) continue;
        results = results.flatMap((before) => {
          if (!isSteady) return restrict(before.bounds, clock, 0, 0) ? [before] : [];
          const back = { values: before.values, bounds: copyOf(before.bounds) };
          const isBack = restrict(back.bounds, 0, clock, 0);
          const goesOn = restrict(before.bounds, clock, 0, -1);
          return [...(goesOn ? [before] : []), ...(isBack ? [giveBack(recharge, back)] : [])];
        });
      }
      return results;
    },
    /** What else may come back before the lanes decide, one after the other. */
    recharged(timed: Timed): Timed[] {
      return recharges.flatMap((recharge): Timed[] => {
        const { digit, clock, cooldown, isSteady } = recharge;
        if (timed.values[digit] === cooldown.charges) return [];
        const full = { values: timed.values.with(digit, cooldown.charges), bounds: copyOf(timed.bounds) };
        if (clock > 0) forget(full.bounds, clock);
        const refilled = refills.get(digit) === true ? [full] : [];
        if (clock > 0 && isSteady) return refilled;
        const back = { values: timed.values, bounds: copyOf(timed.bounds) };
        const mayBeBack = clock === 0 || restrict(back.bounds, 0, clock, 0);
        return mayBeBack ? [...refilled, giveBack(recharge, back)] : refilled;
      });
    },
  };
}
