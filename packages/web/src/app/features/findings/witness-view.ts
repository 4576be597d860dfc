import { MatSliderModule } from '@angular/material/slider';
import { MatButton } from '@angular/material/button';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  type OnDestroy,
  signal,
} from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { slugOf } from '@glenmark/core/model';
import { readTape, type Session, why } from '@glenmark/core/run';
import { catchError, of, switchMap } from 'rxjs';
import { Analysis } from '../../data/analysis';
import { Library } from '../../data/library';
import { Workspace } from '../../data/workspace';
import { CourseView } from '../../shared/document/course-view';
import { Playback } from '../../shared/document/playback';
import { scoreRows } from '../../shared/document/score-rows';
import { KINDS } from '../../shared/ui/kind-mark';

const WIDTH = 800;

/** The tape of a witness, played where it was found: the body on the course, and a small score under it. */
@Component({
  selector: 'gm-witness-view',
  imports: [MatSliderModule, MatButton, CourseView],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './witness-view.html',
  styleUrl: './witness-view.scss',
})
export class WitnessView implements OnDestroy {
  private readonly analysis = inject(Analysis);
  private readonly workspace = inject(Workspace);
  private readonly library = inject(Library);
  readonly text = input.required<string>();
  readonly tick = input.required<number>();

  protected readonly session = signal<Session | undefined>(undefined);
  protected readonly wrong = signal<string | undefined>(undefined);
  protected readonly head = signal(0);
  protected readonly playback = new Playback();
  protected readonly last = computed(() => (this.session()?.trace.records.length ?? 1) - 1);
  protected readonly account = computed(() => {
    const session = this.session();
    return session && why(session.trace, session.world, Math.min(this.head(), this.last()));
  });
  protected readonly score = computed(() => {
    const session = this.session();
    if (session === undefined) return undefined;
    const rows = scoreRows(session.trace);
    const x = (tick: number): number => (tick / rows.ticks) * WIDTH;
    const bars = rows.controls
      .filter((c) => c.bars.length > 0)
      .map((c) => ({
        name: c.name,
        rects: c.bars.map((b) => ({
          x: x(b.from),
          width: Math.max(2, x(b.to) - x(b.from)),
          fill: 'var(--ink-2)',
          text: '',
        })),
      }));
    const lanes = rows.groups.lanes.map((lane) => ({
      name: lane.name,
      rects: (lane.kind === 'bands' ? lane.bands : []).map((b) => ({
        x: x(b.from),
        width: x(b.to) - x(b.from) - 1,
        fill: `var(--${KINDS[b.kind].colour}-wash)`,
        text: x(b.to) - x(b.from) > b.state.length * 7 ? b.state : '',
      })),
    }));
    return { box: `0 0 ${WIDTH} 16`, rows: [...bars, ...lanes], head: x(this.head() + 0.5) };
  });

  constructor() {
    toObservable(computed(() => ({ moveset: this.workspace.text(), tape: this.text() })))
      .pipe(
        switchMap(({ moveset, tape }) => {
          const name = slugOf(readTape(tape).tape?.course ?? '');
          const course = this.library.courses().find((c) => c.id === name || slugOf(c.name) === name);
          return course === undefined
            ? of({ session: undefined, wrong: [$localize`The course of this tape is not on the shelf.`] })
            : this.analysis
                .run(moveset, course.text, tape)
                .pipe(
                  catchError((error: Error) =>
                    of({ session: undefined, wrong: [$localize`The run failed\: ${error.message}.`] }),
                  ),
                );
        }),
        takeUntilDestroyed(),
      )
      .subscribe(({ session, wrong }) => {
        this.session.set(session);
        this.wrong.set(wrong[0]);
        this.head.set(Math.min(this.tick(), (session?.trace.records.length ?? 1) - 1));
      });
  }

  ngOnDestroy(): void {
    this.playback.stop();
  }

  protected toggle(): void {
    if (this.playback.playing()) return this.playback.stop();
    this.playback.play(this.head() >= this.last() ? 0 : this.head(), {
      rate: this.session()!.trace.machine.rate,
      speed: () => 0.5,
      last: this.last(),
      at: (tick) => this.head.set(tick),
      done: () => this.playback.stop(),
    });
  }

  protected moveTo(tick: number): void {
    this.playback.stop();
    this.head.set(tick);
  }
}
