import { MatSelectModule } from '@angular/material/select';
import { MatButton } from '@angular/material/button';
import { MatTabsModule } from '@angular/material/tabs';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { MatMenuModule } from '@angular/material/menu';
import { Router, RouterLink } from '@angular/router';
import { type Account, type Session, startOf, tapeInputs, why } from '@glenmark/core/run';
import { buildWorld, readCourse } from '@glenmark/core/world';
import type { ApiError } from '../../data/api';
import { ShownTick } from '../../data/shown-tick';
import { TapeDesk } from '../../data/tape-desk';
import { Workspace } from '../../data/workspace';
import { DeskNotice } from '../../shared/document/desk-notice';
import { Shortcuts } from '../../shared/ui/shortcuts/shortcuts';
import { isTyping } from '../../shared/ui/typing';
import { ComparePanel } from './compare-panel';
import { CourseView } from '../../shared/document/course-view';
import { DriveView } from './drive/drive-view';
import { Driver } from './drive/driver';
import { Expectations } from './expectations';
import { MissingControls } from './missing-controls';
import { NewTapes } from './new-tapes';
import { PlayedTape } from './played-tape';
import { Playhead } from './playhead';
import { RunFooter } from './run-footer';
import { Score } from './score/score';
import type { SpanAct } from './score/span-bar';
import type { MarkAct } from './score/time-axis';
import { TapeActs } from './tape-acts';
import { WhyPanel } from './why-panel';
import { Notifications } from '../../shared/ui/notifications';
import { SideWidth } from '../../shared/ui/side-width';

/** A tape played on its course: the course above, the score below, and why beside them. */
@Component({
  selector: 'gm-run',
  imports: [
    MatSelectModule,
    MatButton,
    RouterLink,
    MatTabsModule,
    ComparePanel,
    CourseView,
    DeskNotice,
    DriveView,
    Expectations,
    MissingControls,
    MatMenuModule,
    RunFooter,
    Score,
    WhyPanel,
    SideWidth,
  ],
  providers: [PlayedTape, Playhead],
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: {
    '(document:paste)': 'onPaste($event)',
  },
  templateUrl: './run.html',
  styleUrl: './run.scss',
})
export class Run {
  protected readonly workspace = inject(Workspace);
  protected readonly desk = inject(TapeDesk);
  protected readonly played = inject(PlayedTape);
  protected readonly playhead = inject(Playhead);
  protected readonly acts = inject(TapeActs);
  private readonly notifications = inject(Notifications);
  private readonly newTapes = inject(NewTapes);
  private readonly shownTick = inject(ShownTick);
  private readonly router = inject(Router);

  /** What the address chooses. */
  readonly tape = input<string>();
  readonly tick = input<string>();

  /** What is beside the score. */
  protected readonly asides = computed(() =>
    this.driving() === undefined ? (['why', 'expect', 'compare'] as const) : (['why'] as const),
  );
  protected readonly asideNow = computed(() => (this.driving() === undefined ? this.aside() : 'why'));
  protected readonly aside = signal<'why' | 'expect' | 'compare'>('why');
  protected readonly words = { why: $localize`why`, expect: $localize`expect`, compare: $localize`compare` };
  protected readonly asideLabel = computed(
    () =>
      ({ why: $localize`Why`, expect: $localize`Expectations`, compare: $localize`Compare` })[
        this.asideNow()
      ],
  );
  /** The run that this one is compared with, drawn over it while one compares. */
  protected readonly other = signal<Session | undefined>(undefined);
  protected readonly beside = computed(() => (this.asideNow() === 'compare' ? this.other() : undefined));
  protected readonly follows = signal(false);
  private readonly score = viewChild(Score);

  protected readonly tapes = computed(() =>
    this.workspace
      .tapes()
      .map((t) => ({ id: t.tape.id, name: t.tape.name, other: t.moveset !== this.workspace.id() })),
  );
  protected readonly hasNoTape = computed(
    () => this.workspace.isComplete() && this.played.entry() === undefined,
  );
  protected readonly account = computed(() => {
    const session = this.played.session();
    return session && why(session.trace, session.world, this.playhead.tick());
  });
  protected readonly stances = computed(
    () => this.played.session()?.trace.machine.stances.map((s) => s.name) ?? [],
  );
  protected readonly failed = computed(
    () => this.played.session()?.expectations.filter((e) => !e.passed).length ?? 0,
  );
  /** Why the tape cannot be played, but for what is asked about it already. */
  protected readonly wrong = computed(() =>
    this.played.wrong().filter((sentence) => !this.played.isOpen() || !isAboutControl(sentence)),
  );
  /** Who is driving, and from where the tape is taken over. */
  protected readonly driving = signal<Driver | undefined>(undefined);
  protected readonly driveAccount = signal<Account | undefined>(undefined);

  constructor() {
    const { playhead } = this;
    const unlessDriving = (act: () => unknown) => (): unknown => this.driving() === undefined && act();
    inject(Shortcuts).on({
      play: unlessDriving(() => playhead.toggle()),
      back: unlessDriving(() => playhead.moveTo(playhead.tick() - 1)),
      forward: unlessDriving(() => playhead.moveTo(playhead.tick() + 1)),
      spanFrom: unlessDriving(() => playhead.choose('from')),
      spanTo: unlessDriving(() => playhead.choose('to')),
      mark: unlessDriving(() => this.played.editable() && this.acts.mark(playhead.tick())),
      zoomIn: unlessDriving(() => this.score()?.zoom(1 / 1.5)),
      zoomOut: unlessDriving(() => this.score()?.zoom(1.5)),
      zoomAll: unlessDriving(() => this.score()?.show(undefined)),
    });
    effect(() => this.shownTick.show(this.played.entry()?.tape.name ?? '', this.account()));
    effect(() => this.played.asked.set(this.tape()));
    effect(() => {
      const tick = Number(this.tick() ?? 0);
      untracked(() => {
        const isNews = !this.playhead.isOwnAddress();
        if (isNews && Number.isInteger(tick) && tick >= 0) this.playhead.startAt(tick);
      });
    });
  }

  protected chooseTape(tape: string): void {
    this.playhead.startAt(0);
    this.playhead.leaveSpan();
    this.score()?.show(undefined);
    void this.router.navigate([], { queryParams: { tape, tick: null }, queryParamsHandling: 'merge' });
  }

  protected onSpan(act: SpanAct): void {
    const span = this.playhead.span();
    if (span === undefined) return;
    if (act === 'loop') this.playhead.toggleLoop();
    else if (act === 'zoom') this.score()?.show({ from: span.from, ticks: span.to - span.from });
    else if (act === 'copy') this.acts.copySpan(span);
    else if (act !== 'leave') this.acts.editSpan(act, span);
    if (act === 'leave' || act === 'cut') this.playhead.leaveSpan();
  }

  protected onMark({ mark, act }: MarkAct): void {
    if (act === 'go') this.playhead.moveTo(mark.tick);
    else if (act === 'rename') this.acts.renameMark(mark.name);
    else this.acts.removeMark(mark.name);
  }

  protected onPaste(event: ClipboardEvent): void {
    if (isTyping(event) || this.played.editable() === undefined || this.driving() !== undefined) return;
    if (this.acts.paste(event.clipboardData?.getData('text/plain') ?? '', this.playhead.tick()))
      event.preventDefault();
  }

  /** Takes over at the playhead, or from the beginning when that is at the end. */
  protected drive(from: number): void {
    const tape = this.desk.tape();
    const machine = this.workspace.machine();
    const course = readCourse(this.played.entry()?.course?.text ?? '').course;
    if (tape === undefined || machine === undefined || course === undefined) return;
    const start = startOf(tape, course);
    if (start === undefined) return;
    this.playhead.startAt(this.playhead.tick());
    const before = from >= this.played.last() ? [] : tapeInputs(tape, machine).slice(0, from);
    this.driveAccount.set(undefined);
    const world = buildWorld(course, machine.stances, machine.casts);
    this.driving.set(new Driver({ machine, world, start, before }));
  }

  protected driven(inputs: number[][]): void {
    this.driving.set(undefined);
    this.acts.setInputs('drive', inputs);
    this.playhead.startAt(0);
  }

  protected takeCsv(box: HTMLInputElement): void {
    const [file] = box.files ?? [];
    if (file !== undefined) void this.acts.readCsv(file);
    box.value = '';
  }

  protected newTape(): void {
    this.newTapes.ask().subscribe({
      next: (id) => this.chooseTape(id),
      error: (error: ApiError) => this.notifications.say(error.problem.detail),
    });
  }
}

/** Whether a fault is that the moveset does not have one of the tape's controls: `gm-missing-controls` asks about those. */
const isAboutControl = (sentence: string): boolean => / has no control '/.test(sentence);
