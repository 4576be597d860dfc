import { MatInput } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import { MatButton } from '@angular/material/button';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import type { StoredDocument } from '@glenmark/contract';
import { slugOf } from '@glenmark/core/model';
import { readCourse } from '@glenmark/core/world';

/** What a new tape begins as. */
export interface NewTape {
  name: string;
  course: string;
  spawn: string;
}

/** Asks what a new tape is called, and where it begins. */
@Component({
  selector: 'gm-new-tape-dialog',
  imports: [MatInput, MatSelectModule, MatButton, MatDialogModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form (submit)="accept($event)" class="small-dialog">
      <h2 i18n>New tape</h2>
      <label>
        <ng-container i18n>Name</ng-container>
        <input #box matInput [value]="name()" (input)="name.set(box.value)" cdkFocusInitial />
      </label>
      <span class="labelled">
        <ng-container i18n>Course</ng-container>
        <mat-form-field>
          <mat-select
            aria-label="Course"
            i18n-aria-label
            (selectionChange)="course.set($event.value)"
            [value]="course()"
          >
            @for (c of data.courses; track c.id) {
              <mat-option [value]="c.id">{{ c.name }}</mat-option>
            }
          </mat-select>
        </mat-form-field>
      </span>
      <span class="labelled">
        <ng-container i18n>Spawn</ng-container>
        <mat-form-field>
          <mat-select
            aria-label="Spawn"
            i18n-aria-label
            (selectionChange)="spawn.set($event.value)"
            [value]="spawnNow()"
          >
            @for (s of spawns(); track s) {
              <mat-option [value]="s">{{ s }}</mat-option>
            }
          </mat-select>
        </mat-form-field>
      </span>
      <p class="bad" aria-live="polite">{{ tried() ? wrong() : '' }}</p>
      <div class="ends">
        <button i18n type="button" matButton="outlined" (click)="ref.close()">Cancel</button>
        <button i18n type="submit" matButton="filled">Create</button>
      </div>
    </form>
  `,
})
export class NewTapeDialog {
  protected readonly ref = inject<MatDialogRef<NewTapeDialog, NewTape>>(MatDialogRef);
  readonly data = inject<{ courses: StoredDocument[]; taken: readonly string[] }>(MAT_DIALOG_DATA);
  protected readonly name = signal('');
  protected readonly course = signal(this.data.courses[0]?.id ?? '');
  protected readonly spawn = signal('');
  protected readonly tried = signal(false);
  protected readonly spawns = computed(() => {
    const course = this.data.courses.find((c) => c.id === this.course());
    return course === undefined ? [] : (readCourse(course.text).course?.spawns ?? []).map((s) => s.name);
  });
  protected readonly spawnNow = computed(() =>
    this.spawns().includes(this.spawn()) ? this.spawn() : (this.spawns()[0] ?? ''),
  );
  protected readonly wrong = computed(() => {
    if (this.data.courses.length === 0)
      return $localize`There is no course on the shelf yet; make one first.`;
    const id = slugOf(this.name().trim());
    if (id === '') return $localize`A tape needs a name.`;
    return this.data.taken.includes(id) ? $localize`There is a tape of that name already.` : '';
  });

  protected accept(event: Event): void {
    event.preventDefault();
    this.tried.set(true);
    if (this.wrong() !== '') return;
    this.ref.close({ name: this.name().trim(), course: this.course(), spawn: this.spawnNow() });
  }
}
