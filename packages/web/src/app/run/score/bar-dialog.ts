import { MatInput } from '@angular/material/input';
import { MatButton } from '@angular/material/button';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import type { Control } from '@glenmark/core/machine';
import { type Span, wrongValue } from '@glenmark/core/run';

/** A bar of the score by its numbers: where it begins, how long it is, and what it holds. */
@Component({
  selector: 'gm-bar-dialog',
  imports: [MatInput, MatButton, MatDialogModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form (submit)="accept($event)" class="small-dialog">
      <h2>{{ data.control }}</h2>
      <div class="pair">
        <label>
          <ng-container i18n>from tick</ng-container>
          <input
            #from
            matInput
            inputmode="numeric"
            [value]="texts().from"
            (input)="write({ from: from.value })"
            cdkFocusInitial
          />
        </label>
        <label>
          <ng-container i18n>for ticks</ng-container>
          <input
            #length
            matInput
            inputmode="numeric"
            [value]="texts().length"
            (input)="write({ length: length.value })"
          />
        </label>
        @if (data.kind !== 'button') {
          <label>
            <ng-container i18n>{data.kind, select, aim {at degrees} other {at}}</ng-container>
            <input
              #value
              matInput
              inputmode="decimal"
              [value]="texts().value"
              (input)="write({ value: value.value })"
            />
          </label>
        }
      </div>
      <p class="bad" aria-live="polite">{{ wrong() }}</p>
      <div class="ends">
        <button i18n type="button" matButton="outlined" (click)="ref.close()">Cancel</button>
        <button i18n type="submit" matButton="filled">Set</button>
      </div>
    </form>
  `,
  styles: `
    .pair {
      display: grid;
      grid-auto-flow: column;
      grid-auto-columns: 1fr;
      gap: 10px;
    }
  `,
})
export class BarDialog {
  readonly data = inject<{ control: string; kind: Control['kind']; span: Span }>(MAT_DIALOG_DATA);
  protected readonly ref = inject<MatDialogRef<BarDialog, Span>>(MatDialogRef);

  protected readonly texts = signal({
    from: String(this.data.span.from),
    length: String(this.data.span.length),
    value: String(this.data.span.value),
  });
  private readonly span = computed((): Span => {
    const { from, length, value } = this.texts();
    return { from: numberOf(from), length: numberOf(length), value: numberOf(value) };
  });
  protected readonly wrong = computed(() => {
    const { from, length, value } = this.span();
    if (!Number.isInteger(from) || from < 0) return $localize`It begins at a whole tick, 0 or later.`;
    if (!Number.isInteger(length) || length < 1)
      return $localize`It lasts a whole number of ticks, at least 1.`;
    if (Number.isNaN(value)) return $localize`It holds a number.`;
    const expected = value === 0 ? $localize`something other than rest` : wrongValue(this.data.kind, value);
    return expected === undefined ? '' : $localize`It holds ${expected}.`;
  });

  protected write(change: Partial<Record<'from' | 'length' | 'value', string>>): void {
    this.texts.update((texts) => ({ ...texts, ...change }));
  }

  protected accept(event: Event): void {
    event.preventDefault();
    if (this.wrong() === '') this.ref.close(this.span());
  }
}

const numberOf = (text: string): number => (text.trim() === '' ? NaN : Number(text.trim().replace('−', '-')));
