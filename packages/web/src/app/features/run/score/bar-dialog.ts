import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { FormControl, FormGroup, ReactiveFormsModule } from '@angular/forms';
import { MatButton } from '@angular/material/button';
import { ErrorStateMatcher, ShowOnDirtyErrorStateMatcher } from '@angular/material/core';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { MatInputModule } from '@angular/material/input';
import type { Control } from '@glenmark/core/machine';
import { type Span, wrongValue } from '@glenmark/core/run';
import { saidOf, says } from '../../../shared/ui/says';

/** A bar of the score by its numbers: where it begins, how long it is, and what it holds. */
@Component({
  selector: 'gm-bar-dialog',
  imports: [MatInputModule, MatButton, MatDialogModule, ReactiveFormsModule],
  providers: [{ provide: ErrorStateMatcher, useClass: ShowOnDirtyErrorStateMatcher }],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './bar-dialog.html',
})
export class BarDialog {
  readonly data = inject<{ control: string; kind: Control['kind']; span: Span }>(MAT_DIALOG_DATA);
  private readonly ref = inject<MatDialogRef<BarDialog, Span>>(MatDialogRef);
  protected readonly said = saidOf;
  protected readonly form = new FormGroup({
    from: numberField(this.data.span.from, (from) =>
      Number.isInteger(from) && from >= 0 ? undefined : $localize`It begins at a whole tick, 0 or later.`,
    ),
    length: numberField(this.data.span.length, (length) =>
      Number.isInteger(length) && length >= 1
        ? undefined
        : $localize`It lasts a whole number of ticks, at least 1.`,
    ),
    value: numberField(this.data.span.value, (value) => {
      if (Number.isNaN(value)) return $localize`It holds a number.`;
      const expected = value === 0 ? $localize`something other than rest` : wrongValue(this.data.kind, value);
      return expected === undefined ? undefined : $localize`It holds ${expected}.`;
    }),
  });

  protected accept(): void {
    if (!this.form.valid) return;
    const { from, length, value } = this.form.getRawValue();
    this.ref.close({ from: numberOf(from), length: numberOf(length), value: numberOf(value) });
  }
}

/** A field for a number, with what is wrong with it; NaN where none is written. */
const numberField = (value: number, wrong: (number: number) => string | undefined): FormControl<string> =>
  new FormControl(String(value), {
    nonNullable: true,
    validators: says((text: string) => wrong(numberOf(text))),
  });

const numberOf = (text: string): number => (text.trim() === '' ? NaN : Number(text.trim().replace('−', '-')));
