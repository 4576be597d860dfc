import { MatInput } from '@angular/material/input';
import { MatButton } from '@angular/material/button';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { NAME } from '@glenmark/core/model';

/** Asks for a new name, and says at once what is wrong with one. */
@Component({
  selector: 'gm-name-dialog',
  imports: [MatInput, MatButton, MatDialogModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form (submit)="accept($event)" class="small-dialog">
      <h2>{{ data.title }}</h2>
      <label>
        {{ data.label }}
        <input
          #box
          matInput
          [value]="name()"
          (input)="name.set(box.value)"
          cdkFocusInitial
          autocomplete="off"
          spellcheck="false"
          [class.wrong]="touched() && wrong()"
        />
      </label>
      <p class="bad" aria-live="polite">{{ touched() ? wrong() : '' }}</p>
      <div class="ends">
        <button i18n type="button" matButton="outlined" (click)="ref.close()">Cancel</button>
        <button type="submit" matButton="filled">{{ data.action }}</button>
      </div>
    </form>
  `,
})
export class NameDialog {
  readonly data = inject<{ title: string; label: string; action: string; taken: readonly string[] }>(
    MAT_DIALOG_DATA,
  );
  protected readonly ref = inject<MatDialogRef<NameDialog, string>>(MatDialogRef);
  protected readonly name = signal('');
  private readonly tried = signal(false);
  protected readonly touched = computed(() => this.tried() || this.name() !== '');
  protected readonly wrong = computed(() => {
    const name = this.name().trim();
    if (!NAME.test(name)) return $localize`Letters, digits and underscores, not starting with a digit.`;
    return this.data.taken.includes(name) ? $localize`There is a ${name} already.` : '';
  });

  /** The button is never disabled: a quick Enter comes before the page has drawn it enabled, and would be lost. */
  protected accept(event: Event): void {
    event.preventDefault();
    this.tried.set(true);
    if (this.wrong() === '') this.ref.close(this.name().trim());
  }
}
