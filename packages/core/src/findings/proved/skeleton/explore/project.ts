import { present } from '../../../../present.js';
import type { Layout } from '../../../../machine/index.js';
import { regionOf } from '../regions.js';
import { type Digit, DONE, IDLE, RUNNING } from '../space.js';

/** What a situation of the fast machine, as it is after a tick, is to some digits. */
export function projectionOf(
  digits: readonly Digit[],
  layout: Layout,
): (s: Float64Array, values: number[]) => void {
  const places = digits.map((digit): number => {
    const { index } = digit;
    switch (digit.kind) {
      case 'leaf':
        return layout.leaves + index;
      case 'flag':
      case 'number':
      case 'count':
        return layout.variables + index;
      case 'timer':
        return layout.timers + index;
      case 'charges':
        return layout.charges + index;
      case 'lock':
        return layout.unlocked + index;
      case 'event':
        return layout.events + index;
    }
  });
  return (s, values) => {
    for (let i = 0; i < digits.length; i++) {
      const { kind, leaves, size, cuts } = digits[i]!;
      const value = present(s[places[i]!]);
      values[i] =
        kind === 'leaf'
          ? leaves.indexOf(value)
          : kind === 'timer'
            ? value < 0
              ? IDLE
              : value > 0
                ? RUNNING
                : DONE
            : kind === 'number'
              ? regionOf(cuts, value)
              : kind === 'flag'
                ? Number(value !== 0)
                : Math.min(value, size - 1);
    }
  };
}
