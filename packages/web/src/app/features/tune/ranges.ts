import type { Turnable } from '@glenmark/core/tune';

/** Slider and fields move in a hundred steps, at least. */
const STEPS = 100;

/**
 * From where to where a dial is turned by hand: its own range, or where the file gives none, a half to twice of its value.
 * What is typed may lie beyond.
 */
export function rangeOf({ value, min, max }: Turnable): { min: number; max: number; step: number } {
  const reach = Math.max(1, Math.abs(value));
  const low = Number.isFinite(min) ? min : value < 0 ? -2 * reach : value / 2;
  const high = Number.isFinite(max) ? max : value < 0 ? value / 2 : 2 * reach;
  const [from, to] = [Math.min(low, value), Math.max(high, value)];
  return { min: from, max: to, step: Number(((to - from) / STEPS).toPrecision(1)) };
}

/** A value as people read it: so many significant digits at most, no zeros at the end. */
export const shortValue = (value: number, digits = 6): string => String(Number(value.toPrecision(digits)));

/** A typed number; no number for an empty field or for anything else. */
export const numberOf = (text: string): number => (text.trim() === '' ? NaN : Number(text.trim()));
