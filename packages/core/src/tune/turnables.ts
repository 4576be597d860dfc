import type { Compiled } from '../machine/index.js';
import type { Change, Path } from '../model/index.js';
import { type Dimension, parseExpression, UNIT_NAMES, unitOf } from '../notation/index.js';
import { present } from '../present.js';

/** A number of a moveset that can be turned: a dial that is not worked out from others, or its gravity. */
export interface Turnable {
  name: string;
  dimension: Dimension;
  /** The unit that its values are in, as the notation writes it; empty for a plain number. */
  unit: string;
  value: number;
  /** What the file says it may be turned to; infinite where it says nothing. */
  min: number;
  max: number;
  /** Where its value is in the document. */
  path: Path;
}

/** Values of dials by name, in their units. */
export type Setting = Readonly<Record<string, number>>;

/** Gravity is turned as a dial is, under this name. */
export const GRAVITY = 'gravity';

/** What can be turned of a moveset that loads, in the order of its file; gravity comes first. */
export function turnablesOf({ machine, file }: Compiled): Turnable[] {
  if (machine === undefined || file === undefined) return [];
  const gravity = file.gravity === undefined ? undefined : parseExpression(String(file.gravity));
  const dials = machine.dials
    .filter(({ derived }) => !derived)
    .map(({ name, dimension, value, min, max, path }): Turnable => {
      const isRanged = typeof file.dials?.[name] === 'object';
      const at = isRanged ? [...path, 'value'] : path;
      return { name, dimension, unit: unitOf(dimension), value, min, max, path: at };
    })
    .filter(({ unit }) => unit === '' || UNIT_NAMES.includes(unit));
  const isQuantity = gravity?.ok === true && ['number', 'negate'].includes(gravity.value.kind);
  if (!isQuantity || machine.plane === 'above') return dials;
  const dimension = { truth: false, m: 1, s: -2, deg: 0 };
  const whole = { name: GRAVITY, dimension, unit: unitOf(dimension), value: machine.gravity };
  return [{ ...whole, min: -Infinity, max: Infinity, path: ['gravity'] }, ...dials];
}

/** A value as the notation writes it, to the last bit. */
export const quantityOf = (value: number, unit: string): string | number =>
  unit === '' ? value : `${value} ${unit}`;

/**
 * The changes that turn a moveset to a setting.
 * @throws {RangeError} for a name that is not among what can be turned
 */
export const settingChanges = (turnables: readonly Turnable[], setting: Setting): Change[] =>
  Object.entries(setting).map(([name, value]) => {
    const turnable = turnables.find((t) => t.name === name);
    if (turnable === undefined) throw new RangeError(`'${name}' is no dial that can be turned`);
    return { path: turnable.path, value: quantityOf(value, present(turnable).unit) };
  });
