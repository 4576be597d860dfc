import type { Watch } from './moment.js';

/** So much speed upward (m/s) in one tick is given by a launch: no steady force of a moveset comes near it. */
const LAUNCH = 1;

/** A rise that stays below this height (m) is no hop: a bump in the ground throws a body that runs. */
const LOWEST_HOP = 0.05;

/** How high the first hop of a flight went, from where it began to its top or to the next hop, and how high the second. */
export interface Hops {
  first: number;
  second: number;
}

/** Measures the first flight with a hop, and the first with two: NaN for what did not happen. */
export function watchHops(startY: number): { see: Watch; result(): Hops } {
  const hops: Hops = { first: NaN, second: NaN };
  /** Rises of this flight. */
  let rises: { from: number; height: number }[] = [];
  let air = false;
  const land = (): void => {
    const [first, second] = rises.filter(({ height }) => height >= LOWEST_HOP);
    if (first !== undefined && Number.isNaN(hops.first)) hops.first = first.height;
    if (second !== undefined && Number.isNaN(hops.second)) hops.second = second.height;
  };
  return {
    result() {
      // The run may end while the body is aloft.
      if (air) land();
      return hops;
    },
    see(now, before) {
      if (now.grounded) {
        if (air) land();
        rises = [];
        air = false;
        return;
      }
      air = true;
      const wasUp = before === undefined || before.grounded ? 0 : before.vy;
      if (now.vy > 0 && (wasUp <= 0 || now.vy - wasUp > LAUNCH))
        rises.push({ from: before?.y ?? startY, height: 0 });
      const rise = rises[rises.length - 1];
      if (rise !== undefined) rise.height = Math.max(rise.height, now.y - rise.from);
    },
  };
}
