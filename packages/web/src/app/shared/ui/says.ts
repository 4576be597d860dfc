import type { AbstractControl, ValidatorFn } from '@angular/forms';

/** A validator from a function that says in a sentence what is wrong with a value, or undefined when nothing is. */
export const says =
  <T>(wrong: (value: T) => string | undefined): ValidatorFn =>
  ({ value }) => {
    const sentence = wrong(value as T);
    return sentence === undefined ? null : { says: sentence };
  };

/** What is wrong with a field, in a sentence. */
export const saidOf = (control: AbstractControl): string =>
  (control.errors?.['says'] as string | undefined) ?? '';
