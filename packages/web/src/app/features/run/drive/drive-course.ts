import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { elementSize } from '../../../shared/ui/element-size';
import { drawnBody, drawnCourse, drawnMovers, drawnTrail, type Pose, SCALE } from './drive-drawing';
import type { Driver } from './driver';

/** The course while one drives: it moves with the body, which leaves its trail, and the pointer aims. */
@Component({
  selector: 'gm-drive-course',
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { '(pointermove)': 'onPointer($event)' },
  templateUrl: './drive-course.html',
  styleUrl: './drive-course.scss',
})
export class DriveCourse {
  readonly driver = input.required<Driver>();

  protected readonly size = elementSize();
  protected readonly course = computed(() => drawnCourse(this.driver().drive.world.course));
  private readonly pose = computed((): Pose => {
    const record = this.driver().record();
    if (record !== undefined) return { ...record, leaf: record.leaves[0]! };
    const { machine, start } = this.driver().drive;
    const leaf = machine.lanes[0]!.initial;
    return { body: { ...start, vx: 0, vy: 0 }, leaf, stance: 0, anchors: [] };
  });
  protected readonly body = computed(() => drawnBody(this.driver().drive.machine, this.pose(), this.size()));
  protected readonly trail = computed(() =>
    drawnTrail(this.driver().drive.machine, this.driver().trace.records, this.driver().shown()),
  );
  protected readonly movers = computed(() => {
    const { machine, world } = this.driver().drive;
    return drawnMovers(world.course, this.course().movers, (this.driver().shown() + 1) * machine.dt);
  });

  /** An aim points from the middle of the body to the pointer. */
  protected onPointer(event: PointerEvent): void {
    const box = (event.currentTarget as HTMLElement).getBoundingClientRect();
    const dx = event.clientX - box.left - this.size().width / 2;
    const dy = this.size().height * 0.62 - SCALE - (event.clientY - box.top);
    this.driver().hands.aim = (Math.atan2(dy, dx) * 180) / Math.PI;
  }
}
