import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { slugOf } from '@glenmark/core/model';
import { extentOf, frameOf, moverPaths, wayPath } from '../../shared/document/course-frame';
import { CourseGround } from '../../shared/document/course-ground';
import { courseReadings } from '../../data/readings';
import { elementSize } from '../../shared/ui/element-size';
import { type ShownTape, TuneState } from './tune-state';
import type { TunedTape } from '../../data/tuning-work';

/** The trails of the tapes on the course of the one that is looked at; dashed, where they went before a dial was turned. */
@Component({
  selector: 'gm-trails',
  imports: [CourseGround],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './trails.html',
  styleUrl: './trails.scss',
})
export class Trails {
  private readonly state = inject(TuneState);
  protected readonly size = elementSize();

  private readonly tapes = computed(() => {
    const course = this.state.course();
    const isHere = ({ entry }: ShownTape): boolean =>
      entry.course !== undefined &&
      course !== undefined &&
      slugOf(courseReadings.of(entry.course.text).course?.name ?? '') === slugOf(course.name);
    return this.state.shown().filter(isHere);
  });

  protected readonly drawn = computed(() => {
    const course = this.state.course();
    if (course === undefined) return undefined;
    const tapes = this.tapes();
    // The frame is that of the trails as they were: while a dial moves, the course stands still.
    const frame = frameOf(extentOf(tapes.map(({ before }) => trailOf(before))), this.size());
    const paths = (of: (tape: ShownTape) => TunedTape | undefined) =>
      tapes.map((tape) => ({
        id: tape.id,
        name: tape.name,
        stroke: `var(--${tape.colour})`,
        d: wayPath(frame, trailOf(of(tape))),
      }));
    return {
      course,
      frame,
      movers: moverPaths(frame, course, 0),
      before: this.state.isTurned() ? paths((tape) => tape.before) : [],
      now: paths((tape) => tape.now),
    };
  });
}

const trailOf = (run: TunedTape | undefined): ArrayLike<number> =>
  run === undefined || run.wrong !== undefined ? [] : run.trail;
