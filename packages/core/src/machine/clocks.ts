import { holds } from '../notation/index.js';
import type { Machine } from './definition.js';
import { senseOwn } from './sense.js';
import { NEVER, type Situation } from './situation.js';

/**
 * Step 3 of a tick: advances timers that run, cooldowns and elapsed times, applies `refill` and `reset`, then brings
 * facts and memories up to date. `runs`, `refill` and `reset` see the senses of this tick and the values of the last.
 */
export function advanceClocks(machine: Machine, s: Situation, facts: Float64Array): void {
  machine.timers.forEach((timer, i) => {
    if (s.timers[i]! > 0 && holds(timer.runs, facts)) s.timers[i]!--;
  });
  machine.cooldowns.forEach((cooldown, i) => {
    const c = s.cooldowns[i]!;
    if (c.clock > 0 && --c.clock === 0) {
      c.charges = cooldown.order === 'together' ? cooldown.charges : c.charges + 1;
      if (c.charges < cooldown.charges) c.clock = cooldown.ticks;
    }
    if (cooldown.refill !== undefined && holds(cooldown.refill, facts)) {
      c.charges = cooldown.charges;
      c.clock = 0;
    }
  });
  machine.variables.forEach((variable, i) => {
    if (variable.refill === undefined || !holds(variable.refill, facts)) return;
    s.variables[i] = variable.kind === 'count' ? variable.max : variable.initial;
  });
  for (let i = 0; i < s.elapsed.length; i++) s.elapsed[i]!++;
  senseOwn(machine, s, facts);
  machine.memories.forEach((memory, i) => {
    const now = holds(memory.of, facts);
    if (memory.mode === 'within') {
      s.memories[i] = now ? 0 : Math.min(s.memories[i]! + 1, NEVER);
      facts[memory.slot] = s.memories[i]! < memory.ticks ? 1 : 0;
    } else {
      s.memories[i] = now ? Math.min(s.memories[i]! + 1, NEVER) : 0;
      facts[memory.slot] = s.memories[i]! >= memory.ticks ? 1 : 0;
    }
  });
}
