import type { Fast } from '../machine/index.js';

/**
 * Makes a function that gives a whole number for what all lanes are in together: the same number for the same leaves,
 * and another one for others. They are counted as they are met, so that no number of lanes and states is too large.
 */
export function createLeafCodes({ machine, layout }: Fast): (s: Float64Array) => number {
  const codes = new Map<number, number>();
  return (s) => {
    let code = 0;
    for (let i = 0; i < machine.lanes.length; i++) {
      const step = code * machine.states.length + s[layout.leaves + i]!;
      let next = codes.get(step);
      if (next === undefined) codes.set(step, (next = codes.size + 1));
      code = next;
    }
    return code;
  };
}
