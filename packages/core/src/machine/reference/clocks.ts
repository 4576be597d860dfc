import { present } from '../../present.js';
import { holds } from '../../notation/index.js';
import type { Machine } from '../definition/machine.js';
import { remember } from './memories.js';
import { senseOwn } from './sense.js';
import type { Situation } from './situation.js';

/**
 * Step 3 of a tick: advances timers that run, cooldowns and elapsed times, applies `refill` and `reset`, and brings the
 * facts and the memories behind `within` and `for` up to date. All conditions see facts that belong together: `runs`
 * sees this tick's senses with the clocks as the last tick left them, `refill` and `reset` see the advanced clocks, and
 * the lanes see what those made of it. No time has passed before the first tick: there, clocks stand still.
 */
export function advanceClocks(machine: Machine, s: Situation, facts: Float64Array): void {
  const before = s.memories;
  if (s.tick > 0) {
    remember(machine.memories, before, facts);
    machine.timers.forEach((timer, i) => {
      const left = present(s.timers[i]);
      if (left > 0 && holds(timer.runs, facts)) s.timers[i] = left - 1;
    });
    machine.cooldowns.forEach((cooldown, i) => {
      const c = present(s.cooldowns[i]);
      if (c.clock === 0 || --c.clock > 0) return;
      c.charges = cooldown.order === 'together' ? cooldown.charges : c.charges + 1;
      if (c.charges < cooldown.charges) c.clock = cooldown.ticks;
    });
    s.elapsed.forEach((ticks, i) => (s.elapsed[i] = ticks + 1));
  }
  senseOwn(machine, s, facts);
  s.memories = remember(machine.memories, before, facts);
  refill(machine, s, facts);
  senseOwn(machine, s, facts);
  s.memories = remember(machine.memories, before, facts);
}

function refill(machine: Machine, s: Situation, facts: Float64Array): void {
  machine.cooldowns.forEach((cooldown, i) => {
    if (cooldown.refill === undefined || !holds(cooldown.refill, facts)) return;
    present(s.cooldowns[i]).charges = cooldown.charges;
    present(s.cooldowns[i]).clock = 0;
  });
  machine.variables.forEach((variable, i) => {
    if (variable.refill === undefined || !holds(variable.refill, facts)) return;
    s.variables[i] = variable.kind === 'count' ? variable.max : variable.initial;
  });
}
