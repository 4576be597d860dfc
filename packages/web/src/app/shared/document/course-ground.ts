import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import type { Course } from '@glenmark/core/world';
import { anchorPoints, type Frame, scaleMarks, solidPaths, zonePaths } from './course-frame';

/** What of a course stays where it is, under whatever is drawn over it: solids, zones, anchors, and a scale in metres. */
@Component({
  // Within a drawing only its own elements are drawn.
  // eslint-disable-next-line @angular-eslint/component-selector
  selector: 'g[gmCourseGround]',
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './course-ground.html',
  styleUrl: './course-view.scss',
})
export class CourseGround {
  readonly course = input.required<Course>();
  readonly frame = input.required<Frame>();
  /** The height of the drawing (px). */
  readonly height = input.required<number>();

  protected readonly solids = computed(() => solidPaths(this.frame(), this.course()));
  protected readonly zones = computed(() => zonePaths(this.frame(), this.course()));
  protected readonly anchors = computed(() => anchorPoints(this.frame(), this.course()));
  protected readonly marks = computed(() => scaleMarks(this.frame()));
}
