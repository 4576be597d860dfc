import type { Stretch } from '@glenmark/core/findings';

/** The width of a number line, and how far its rows and its ends are from each other (px). */
const WIDTH = 420;
const ROW = 26;
const MARGIN = 18;

/** Stretches laid out on a line with the numbers that they end at. */
export interface NumberLine {
  width: number;
  height: number;
  /** Where the line itself is. */
  axis: number;
  rows: {
    term: string;
    x: number;
    y: number;
    width: number;
    /** Ends that are drawn: a ring for one that is left out, a dot for one that is in. */
    ends: { x: number; open: boolean }[];
  }[];
  ticks: { x: number; text: string }[];
}

/** Lays stretches out over each other; a stretch without an end goes to the line's. */
export function lineOf(stretches: readonly Stretch[]): NumberLine {
  const ends = stretches.flatMap((s) => [s.from, s.to]).filter(Number.isFinite);
  const low = Math.min(...ends);
  const high = Math.max(...ends);
  // Numbers that are a rounding apart are one place: a line between them could not be drawn.
  const isSpread = high - low > 1e-9 * Math.max(1, Math.abs(low), Math.abs(high));
  const pad = isSpread ? (high - low) * 0.6 : Math.max(1, Math.abs(high) * 0.5);
  const xOf = (value: number): number =>
    MARGIN +
    ((Math.max(low - pad, Math.min(high + pad, value)) - (low - pad)) / (high - low + 2 * pad)) *
      (WIDTH - 2 * MARGIN);
  const axis = stretches.length * ROW + 10;
  return {
    width: WIDTH,
    height: axis + 22,
    axis,
    rows: stretches.map(({ term, from, to, fromOpen, toOpen }, i) => ({
      term,
      x: xOf(from),
      y: i * ROW + 16,
      width: xOf(to) - xOf(from),
      ends: [
        ...(Number.isFinite(from) ? [{ x: xOf(from), open: fromOpen }] : []),
        ...(Number.isFinite(to) ? [{ x: xOf(to), open: toOpen }] : []),
      ],
    })),
    ticks: [...new Set(ends)].map((value) => ({
      x: xOf(value),
      text: String(Math.round(value * 1000) / 1000),
    })),
  };
}
