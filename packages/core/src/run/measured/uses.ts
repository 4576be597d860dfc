import { present } from '../../present.js';
import type { Watch } from './moment.js';

/** The fewest ticks between two uses of each cooldown, by index; NaN for one that was not used twice. */
export function watchUses(count: number): { see: Watch; shortest: number[] } {
  const shortest = new Array<number>(count).fill(NaN);
  const last = new Array<number>(count).fill(-1);
  let tick = -1;
  return {
    shortest,
    see(now, before) {
      tick++;
      if (before === undefined) return;
      for (let i = 0; i < count; i++) {
        if (present(now.charges[i]) >= present(before.charges[i])) continue;
        const between = tick - present(last[i]);
        if (present(last[i]) >= 0 && !(between >= present(shortest[i]))) shortest[i] = between;
        last[i] = tick;
      }
    },
  };
}
