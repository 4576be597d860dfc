import { present } from '../present.js';
import { TICK_SLACK } from '../tolerances.js';

/**
 * The dimension of an expression: a truth value, or a number with powers of metre, second and degree.
 * Values are kept in those base units, so a dimension is all that is needed to print one.
 */
export interface Dimension {
  truth: boolean;
  m: number;
  s: number;
  deg: number;
}

const of = (m: number, s: number, deg = 0): Dimension => ({ truth: false, m, s, deg });

export const TRUTH: Dimension = { truth: true, m: 0, s: 0, deg: 0 };
export const PLAIN = of(0, 0);
export const LENGTH = of(1, 0);
export const TIME = of(0, 1);
export const SPEED = of(1, -1);
export const ACCELERATION = of(1, -2);
export const RATE = of(0, -1);
export const ANGLE = of(0, 0, 1);

export const sameDimension = (a: Dimension, b: Dimension): boolean =>
  a.truth === b.truth && a.m === b.m && a.s === b.s && a.deg === b.deg;

/** The dimension of a product; `sign` −1 gives that of a quotient. */
export const combine = (a: Dimension, b: Dimension, sign: 1 | -1): Dimension =>
  of(a.m + sign * b.m, a.s + sign * b.s, a.deg + sign * b.deg);

export const rootOf = (a: Dimension): Dimension => of(a.m / 2, a.s / 2, a.deg / 2);

const NAMES: readonly [Dimension, string][] = [
  [TRUTH, 'a truth value'],
  [PLAIN, 'a plain number'],
  [LENGTH, 'a length'],
  [TIME, 'a length of time'],
  [SPEED, 'a speed'],
  [ACCELERATION, 'an acceleration'],
  [RATE, 'a rate (1/s)'],
  [ANGLE, 'an angle'],
];

/** In words, for sentences: `a speed`, or its unit when it has no name of its own. */
export const dimensionName = (d: Dimension): string =>
  NAMES.find(([known]) => sameDimension(known, d))?.[1] ?? `a quantity in ${unitOf(d)}`;

/** The unit that values of this dimension are kept in, as the notation writes it where it can. */
export function unitOf(d: Dimension): string {
  if (d.truth) return '';
  const power = (unit: string, n: number): string => (n === 1 ? unit : `${unit}${n}`);
  const units: [string, number][] = [
    ['m', d.m],
    ['deg', d.deg],
    ['s', d.s],
  ];
  const up = units.filter(([, n]) => n > 0).map(([u, n]) => power(u, n));
  const down = units.filter(([, n]) => n < 0).map(([u, n]) => power(u, -n));
  if (up.length === 0 && down.length === 0) return '';
  return (up.join('') || '1') + (down.length === 0 ? '' : `/${down.join('')}`);
}

/** What one unit is in base units. Ticks and pixels depend on the moveset. */
export interface UnitScale {
  rate: number;
  pixel: number | undefined;
}

const UNITS: Record<string, Dimension> = {
  m: LENGTH,
  cm: LENGTH,
  px: LENGTH,
  s: TIME,
  ms: TIME,
  tick: TIME,
  ticks: TIME,
  deg: ANGLE,
  '%': PLAIN,
  'm/s': SPEED,
  'm/s2': ACCELERATION,
  '1/s': RATE,
};

export const UNIT_NAMES = Object.keys(UNITS);

export const unitDimension = (unit: string | undefined): Dimension =>
  unit === undefined ? PLAIN : present(UNITS[unit]);

/**
 * A number with a unit, in base units; NaN for `px` where no pixel is defined.
 * Dividing by 100 or 1000 (rather than multiplying by their inverse) keeps a decimal at its nearest double.
 */
export function toBase(value: number, unit: string | undefined, scale: UnitScale): number {
  switch (unit) {
    case 'cm':
    case '%':
      return value / 100;
    case 'ms':
      return value / 1000;
    case 'tick':
    case 'ticks':
      return value / scale.rate;
    case 'px':
      return value * (scale.pixel ?? Number.NaN);
    default:
      return value;
  }
}

/** A length of time in whole ticks, rounded up; the slack keeps 0.1 s at 60 ticks a second at 6, not 7. */
export const toTicks = (seconds: number, rate: number): number => Math.ceil(seconds * rate - TICK_SLACK);
