import { computed, Injectable } from '@angular/core';
import type { Diagnostic } from '@glenmark/core/model';
import { readCourse } from '@glenmark/core/world';
import { Desk } from '../../data/desk';

/** The course that is open. */
@Injectable({ providedIn: 'root' })
export class CourseDesk extends Desk {
  protected readonly kind = 'course';
  readonly compiled = computed(() =>
    this.text() === '' ? { diagnostics: [] as Diagnostic[] } : readCourse(this.text()),
  );
  readonly name = computed(() => this.compiled().file?.name ?? this.document()?.name() ?? '');

  protected override faultsOf(text: string): Diagnostic[] {
    return readCourse(text).diagnostics;
  }
}
