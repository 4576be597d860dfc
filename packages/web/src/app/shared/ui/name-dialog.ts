import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { FormControl, FormGroup, ReactiveFormsModule } from '@angular/forms';
import { MatButton } from '@angular/material/button';
import { ErrorStateMatcher, ShowOnDirtyErrorStateMatcher } from '@angular/material/core';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { MatInputModule } from '@angular/material/input';
import { NAME } from '@glenmark/core/model';
import { saidOf, says } from './says';

/** Asks for a new name, and says at once what is wrong with one. */
@Component({
  selector: 'gm-name-dialog',
  imports: [MatInputModule, MatButton, MatDialogModule, ReactiveFormsModule],
  providers: [{ provide: ErrorStateMatcher, useClass: ShowOnDirtyErrorStateMatcher }],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>{{ data.title }}</h2>
    <form [formGroup]="form" (ngSubmit)="accept()">
      <mat-dialog-content class="small-form">
        <label class="labelled">
          {{ data.label }}
          <mat-form-field>
            <input matInput formControlName="name" cdkFocusInitial autocomplete="off" spellcheck="false" />
            <mat-error>{{ wrong() }}</mat-error>
          </mat-form-field>
        </label>
      </mat-dialog-content>
      <mat-dialog-actions>
        <button i18n type="button" matButton="outlined" mat-dialog-close>Cancel</button>
        <button type="submit" matButton="filled">{{ data.action }}</button>
      </mat-dialog-actions>
    </form>
  `,
})
export class NameDialog {
  readonly data = inject<{ title: string; label: string; action: string; taken: readonly string[] }>(
    MAT_DIALOG_DATA,
  );
  private readonly ref = inject<MatDialogRef<NameDialog, string>>(MatDialogRef);
  protected readonly form = new FormGroup({
    name: new FormControl('', {
      nonNullable: true,
      validators: says((name: string) => this.fault(name.trim())),
    }),
  });

  protected wrong(): string {
    return saidOf(this.form.controls.name);
  }

  /** The button is never disabled: a quick Enter comes before the page has drawn it enabled, and would be lost. */
  protected accept(): void {
    if (this.form.valid) this.ref.close(this.form.controls.name.value.trim());
  }

  private fault(name: string): string | undefined {
    if (!NAME.test(name)) return $localize`Letters, digits and underscores, not starting with a digit.`;
    return this.data.taken.includes(name) ? $localize`There is a ${name} already.` : undefined;
  }
}
