import { inject, Injectable } from '@angular/core';
import { toObservable } from '@angular/core/rxjs-interop';
import { Router } from '@angular/router';
import type { Machine } from '@glenmark/core/machine';
import { tapeText } from '@glenmark/core/run';
import { filter, switchMap, take } from 'rxjs';
import { Api, type ApiError } from '../../data/api';
import { CourseDesk } from './course-desk';
import type { Point } from './pieces';
import { Notifications } from '../../shared/ui/notifications';

/** Seconds of rest that a new tape begins as. */
const REST = 2;

/** Plays a moveset from a place of the open course: a new tape there, once the course is saved. */
@Injectable({ providedIn: 'root' })
export class PlayFrom {
  private readonly desk = inject(CourseDesk);
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly notifications = inject(Notifications);
  private readonly saves = toObservable(this.desk.saveState);

  /** The spawn at a place, if there is one. */
  spawnAt([x, y]: Point): string | undefined {
    return this.desk.compiled().course?.spawns.find((s) => s.x === x && s.y === y)?.name;
  }

  play(machine: Machine, moveset: string, at: Point): void {
    const spawn = this.spawnAt(at);
    const course = this.desk.id();
    if (spawn === undefined || course === undefined) return;
    const inputs = Array.from({ length: REST * machine.rate }, () => machine.controls.map(() => 0));
    const name = $localize`${this.desk.name()} from ${spawn}`;
    const text = tapeText(machine, { name, moveset, course, start: { spawn }, inputs, expect: [] });
    this.saves
      .pipe(
        filter((state) => state === 'saved'),
        take(1),
        switchMap(() => this.api.create('tape', { text, message: $localize`New` })),
      )
      .subscribe({
        next: ({ id }) =>
          void this.router.navigate(['/moveset', moveset, 'run'], { queryParams: { tape: id } }),
        error: (error: ApiError) => this.notifications.say(error.problem.detail),
      });
  }
}
