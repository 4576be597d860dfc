import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import type { Course } from '@glenmark/core/world';
import { extentOf, frameOf, moverPaths, wayPath } from '../../shared/document/course-frame';
import { CourseGround } from '../../shared/document/course-ground';
import { elementSize } from '../../shared/ui/element-size';

/** A tape's trail on the later revision over the one on the earlier, dashed, with the place where they part. */
@Component({
  selector: 'gm-both-runs',
  imports: [CourseGround],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg
      [attr.width]="size().width"
      [attr.height]="size().height"
      role="img"
      [attr.aria-label]="label()"
      class="still"
    >
      @if (drawn(); as d) {
        <g gmCourseGround [course]="course()" [frame]="d.frame" [height]="size().height" />
        @for (mover of d.movers; track $index) {
          <path [attr.d]="mover.d" class="solid mover">
            <title>{{ mover.name }}</title>
          </path>
        }
        <path [attr.d]="d.before" class="trail before" />
        <path [attr.d]="d.after" class="trail" />
        @if (d.parting; as at) {
          <circle [attr.cx]="at.x" [attr.cy]="at.y" r="6" class="parting" />
        }
      }
    </svg>
  `,
  styleUrl: './both-runs.scss',
})
export class BothRuns {
  readonly course = input.required<Course>();
  readonly trails = input.required<{ before: Float32Array; after: Float32Array }>();
  /** The tick where they part. */
  readonly tick = input.required<number>();
  protected readonly label = computed(() => $localize`Both runs on ${this.course().name}`);
  protected readonly size = elementSize();
  protected readonly drawn = computed(() => {
    const { before, after } = this.trails();
    const frame = frameOf(extentOf([before, after]), this.size());
    const [x, y] = [before[2 * this.tick()], before[2 * this.tick() + 1]];
    return {
      frame,
      movers: moverPaths(frame, this.course(), 0),
      before: wayPath(frame, before),
      after: wayPath(frame, after),
      parting: x === undefined || y === undefined ? undefined : { x: frame.x(x), y: frame.y(y) },
    };
  });
}
