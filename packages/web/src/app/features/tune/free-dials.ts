import type { Turnable } from '@glenmark/core/tune';
import type { RangeText } from './range-fields';
import { rangeOf, shortValue } from './ranges';

/** A dial that may move or not, and from where to where, as it is typed. */
export interface FreeText extends RangeText {
  dial: string;
  unit: string;
  isFree: boolean;
}

/** All dials: those that matter may move within their range, unless it was changed by hand. */
export const freeTexts = (
  turnables: readonly Turnable[],
  matter: readonly string[],
  changed: ReadonlyMap<string, FreeText>,
): FreeText[] =>
  turnables.map((turnable) => {
    const { min, max } = rangeOf(turnable);
    const { name, unit } = turnable;
    return (
      changed.get(name) ?? {
        dial: name,
        unit,
        isFree: matter.includes(name),
        from: shortValue(min),
        to: shortValue(max),
      }
    );
  });
