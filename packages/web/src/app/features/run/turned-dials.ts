import type { Change, Path } from '@glenmark/core/model';

/** A dial at another value, as it was typed. */
export interface Turned {
  dial: string;
  text: string;
}

/** The changes that turn dials of a moveset: a number stays a number, anything else is notation. */
export const turnedChanges = (
  dials: readonly { name: string; valuePath: Path }[],
  turned: readonly Turned[],
): Change[] =>
  turned.flatMap(({ dial: name, text }) => {
    const dial = dials.find((d) => d.name === name);
    const number = Number(text);
    const isNumber = text.trim() !== '' && !Number.isNaN(number);
    return dial === undefined ? [] : [{ path: dial.valuePath, value: isNumber ? number : text }];
  });
