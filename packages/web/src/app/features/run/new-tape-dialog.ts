import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { takeUntilDestroyed, toSignal } from '@angular/core/rxjs-interop';
import { FormControl, FormGroup, ReactiveFormsModule } from '@angular/forms';
import { MatButton } from '@angular/material/button';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { MatInputModule } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import type { StoredDocument } from '@glenmark/contract';
import { slugOf } from '@glenmark/core/model';
import { readCourse } from '@glenmark/core/world';
import { saidOf, says } from '../../shared/ui/says';

/** What a new tape begins as. */
export interface NewTape {
  name: string;
  course: string;
  spawn: string;
}

/** Asks what a new tape is called, and where it begins. */
@Component({
  selector: 'gm-new-tape-dialog',
  imports: [MatInputModule, MatSelectModule, MatButton, MatDialogModule, ReactiveFormsModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './new-tape-dialog.html',
})
export class NewTapeDialog {
  private readonly ref = inject<MatDialogRef<NewTapeDialog, NewTape>>(MatDialogRef);
  readonly data = inject<{ courses: StoredDocument[]; taken: readonly string[] }>(MAT_DIALOG_DATA);
  protected readonly said = saidOf;
  protected readonly form = new FormGroup({
    name: new FormControl('', {
      nonNullable: true,
      validators: says((name: string) => this.wrongName(name)),
    }),
    course: new FormControl(this.data.courses[0]?.id ?? '', {
      nonNullable: true,
      validators: says((course: string) =>
        course === '' ? $localize`There is no course on the shelf yet; make one first.` : undefined,
      ),
    }),
    spawn: new FormControl('', { nonNullable: true }),
  });
  private readonly course = toSignal(this.form.controls.course.valueChanges, {
    initialValue: this.form.controls.course.value,
  });
  protected readonly spawns = computed(() => this.spawnsOf(this.course()));

  constructor() {
    const { course, spawn } = this.form.controls;
    spawn.setValue(this.spawns()[0] ?? '');
    course.valueChanges
      .pipe(takeUntilDestroyed())
      .subscribe((id) => spawn.setValue(this.spawnsOf(id)[0] ?? ''));
  }

  protected accept(): void {
    if (!this.form.valid) return;
    const { name, course, spawn } = this.form.getRawValue();
    this.ref.close({ name: name.trim(), course, spawn });
  }

  private wrongName(name: string): string | undefined {
    if (name.trim() === '') return $localize`A tape needs a name.`;
    return this.data.taken.includes(slugOf(name.trim()))
      ? $localize`There is a tape of that name already.`
      : undefined;
  }

  private spawnsOf(id: string): string[] {
    const course = this.data.courses.find((c) => c.id === id);
    return course === undefined ? [] : (readCourse(course.text).course?.spawns ?? []).map((s) => s.name);
  }
}
