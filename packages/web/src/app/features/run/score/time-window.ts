/** The part of a run that the score shows: where it begins and how long it is, in ticks, which need not be whole. */
export interface TimeWindow {
  from: number;
  ticks: number;
}

/** The shortest stretch that is shown: enough to see single ticks. */
const MIN_TICKS = 20;

export const wholeOf = (total: number): TimeWindow => ({ from: 0, ticks: Math.max(1, total) });

/** A window kept within a run: no longer than it, and not beyond its ends. */
export function within(total: number, { from, ticks }: TimeWindow): TimeWindow {
  const length = Math.max(Math.min(MIN_TICKS, total), Math.min(ticks, total), 1);
  return { from: Math.max(0, Math.min(from, total - length)), ticks: length };
}

/** Shows `factor` times as much, with the tick `at` staying where it is on the screen. */
export const zoomed = (total: number, window: TimeWindow, at: number, factor: number): TimeWindow => {
  const { ticks } = within(total, { from: 0, ticks: window.ticks * factor });
  const share = (at - window.from) / window.ticks;
  return within(total, { from: at - share * ticks, ticks });
};

/** Moved by some ticks. */
export const panned = (total: number, window: TimeWindow, by: number): TimeWindow =>
  within(total, { ...window, from: window.from + by });

/** Turned like a page to show a tick, with a tenth of room before it (or after it, on the way back). */
export function showing(total: number, window: TimeWindow, tick: number): TimeWindow {
  const { from, ticks } = window;
  if (tick >= from && tick + 1 <= from + ticks) return window;
  const room = ticks / 10;
  return within(total, { ticks, from: tick < from ? tick + 1 + room - ticks : tick - room });
}

/** Where ticks are on the screen. */
export interface TimeScale extends TimeWindow {
  /** Width of the plot, in pixels. */
  width: number;
  perTick: number;
  /** Pixels from the left end of the plot to the beginning of a tick. */
  x(tick: number): number;
  /** The tick, not whole, at a distance from the left end of the plot. */
  tickAt(x: number): number;
}

export function timeScale(window: TimeWindow, width: number): TimeScale {
  const perTick = width / window.ticks;
  return {
    ...window,
    width,
    perTick,
    x: (tick) => (tick - window.from) * perTick,
    tickAt: (x) => window.from + x / perTick,
  };
}
