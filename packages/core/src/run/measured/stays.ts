import { present } from '../../present.js';
import type { Machine } from '../../machine/index.js';
import type { Watch } from './moment.js';

/** Of each state that holds no others, by index: times in ticks, ways in metres. */
export interface Stays {
  /** All ticks of the run in it, and the most of one stay. */
  total: number[];
  longest: number[];
  /** The longest way of one stay. */
  along: number[];
  /** Where the feet were, sideways, when it was left first; NaN if it never was. */
  leftAt: number[];
}

export function watchStays(machine: Machine, start: { x: number; y: number }): { see: Watch; stays: Stays } {
  const zeros = (): number[] => machine.states.map(() => 0);
  const stays: Stays = {
    total: zeros(),
    longest: zeros(),
    along: zeros(),
    leftAt: machine.states.map(() => NaN),
  };
  const stay = zeros();
  const way = zeros();
  return {
    stays,
    see(now, before) {
      const last = before ?? start;
      const moved = Math.sqrt((now.x - last.x) ** 2 + (now.y - last.y) ** 2);
      for (let lane = 0; lane < now.leaves.length; lane++) {
        const leaf = present(now.leaves[lane]);
        const was = before === undefined ? leaf : present(before.leaves[lane]);
        if (was !== leaf) {
          if (Number.isNaN(present(stays.leftAt[was]))) stays.leftAt[was] = last.x;
          stay[leaf] = 0;
          way[leaf] = 0;
        }
        const ticks = present(stay[leaf]) + 1;
        const length = present(way[leaf]) + moved;
        stay[leaf] = ticks;
        way[leaf] = length;
        stays.total[leaf] = present(stays.total[leaf]) + 1;
        if (ticks > present(stays.longest[leaf])) stays.longest[leaf] = ticks;
        if (length > present(stays.along[leaf])) stays.along[leaf] = length;
      }
    },
  };
}
