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
  imports: [MatDialogModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form (submit)="accept($event)" class="small-dialog">
      <h2 i18n>New tape</h2>
      <label>
        <ng-container i18n>Name</ng-container>
        <input #box class="text-field" [value]="name()" (input)="name.set(box.value)" cdkFocusInitial />
      </label>
      <label>
        <ng-container i18n>Course</ng-container>
        <select #courseBox class="text-field" (change)="course.set(courseBox.value)">
          @for (c of data.courses; track c.id) {
            <option [value]="c.id" [selected]="c.id === course()">{{ c.name }}</option>
          }
        </select>
      </label>
      <label>
        <ng-container i18n>Spawn</ng-container>
        <select #spawnBox class="text-field" (change)="spawn.set(spawnBox.value)">
          @for (s of spawns(); track s) {
            <option [value]="s" [selected]="s === spawnNow()">{{ s }}</option>
          }
        </select>
      </label>
      <p class="bad" aria-live="polite">{{ tried() ? wrong() : '' }}</p>
      <div class="ends">
        <button i18n type="button" class="plain-button" (click)="ref.close()">Cancel</button>
        <button i18n type="submit" class="plain-button first">Make it</button>
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
