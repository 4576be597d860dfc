import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  type OnDestroy,
  signal,
  untracked,
} from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { MatSnackBar } from '@angular/material/snack-bar';
import { Router } from '@angular/router';
import {
  buildWorld,
  type Change,
  createPlayer,
  type Player,
  readCourse,
  type Session,
  tapeInputs,
  why,
} from '@glenmark/core';
import { of, switchMap } from 'rxjs';
import { Analysis } from '../data/analysis';
import type { Agreement } from '../data/analysis.worker';
import type { ApiError } from '../data/api';
import { TapeDesk } from '../data/tape-desk';
import { Workspace } from '../data/workspace';
import type { BarChange } from './control-row';
import { ComparePanel } from './compare-panel';
import { CourseView } from './course-view';
import { DriveView } from './drive-view';
import { Expectations } from './expectations';
import { NewTapes } from './new-tapes';
import { Playback } from './playback';
import { Score } from './score';
import { drivenText, lengthened, putBar } from './tape-edits';
import { WhyPanel } from './why-panel';

/** A tape played on its course: the course above, the score below, and why beside them. */
@Component({
  selector: 'gm-run',
  imports: [ComparePanel, CourseView, DriveView, Expectations, Score, WhyPanel],
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { '(document:keydown)': 'onKey($event)', '(window:pagehide)': 'desk.flush()' },
  templateUrl: './run.html',
  styleUrl: './run.scss',
})
export class Run implements OnDestroy {
  protected readonly workspace = inject(Workspace);
  protected readonly desk = inject(TapeDesk);
  private readonly analysis = inject(Analysis);
  private readonly newTapes = inject(NewTapes);
  private readonly snack = inject(MatSnackBar);
  private readonly router = inject(Router);

  /** What the address chooses. */
  readonly tape = input<string>();
  readonly tick = input<string>();

  protected readonly session = signal<Session | undefined>(undefined);
  protected readonly wrong = signal<string[]>([]);
  /** Whether the fast machine came to the same bits as the run shown. */
  protected readonly agreed = signal<Agreement>('unasked');
  protected readonly head = signal(0);
  /** What is beside the score. */
  protected readonly asides = ['why', 'expect', 'compare'] as const;
  protected readonly aside = signal<'why' | 'expect' | 'compare'>('why');
  protected readonly asideLabel = computed(
    () => ({ why: 'Why', expect: 'Expectations', compare: 'Compare' })[this.aside()],
  );
  /** The way that a run which is compared took. */
  protected readonly otherTrail = signal<{ x: number; y: number }[]>([]);
  private readonly playback = new Playback();
  protected readonly playing = this.playback.playing;
  protected readonly speed = signal(1);
  protected readonly speeds = [1, 0.25, 0.05];

  protected readonly entry = computed(() => {
    const tapes = this.workspace.tapes();
    return (
      tapes.find((t) => t.tape.id === this.tape()) ?? tapes.find((t) => t.moveset === this.workspace.id())
    );
  });
  protected readonly tapes = computed(() =>
    this.workspace
      .tapes()
      .map((t) => ({ id: t.tape.id, name: t.tape.name, other: t.moveset !== this.workspace.id() })),
  );
  protected readonly last = computed(() => (this.session()?.trace.records.length ?? 1) - 1);
  protected readonly account = computed(() => {
    const session = this.session();
    return session === undefined
      ? undefined
      : why(session.trace, session.world, Math.min(this.head(), this.last()));
  });
  protected readonly stances = computed(() => this.session()?.trace.machine.stances.map((s) => s.name) ?? []);
  protected readonly failed = computed(
    () => this.session()?.expectations.filter((e) => !e.passed).length ?? 0,
  );

  /** The tape whose bars can be edited: one on another grid than the run's is only shown. */
  protected readonly editable = computed(() => {
    const tape = this.desk.tape();
    const rate = this.session()?.trace.machine.rate;
    const isOpen = this.desk.id() === this.entry()?.tape.id;
    return tape !== undefined && isOpen && (tape.rate ?? rate) === rate ? tape : undefined;
  });
  /** Who is driving, and from where the tape is taken over. */
  protected readonly driving = signal<{ player: Player; before: number[][] } | undefined>(undefined);

  constructor() {
    const asked = computed(() => ({ text: this.workspace.text(), entry: this.entry() }));
    toObservable(asked)
      .pipe(
        switchMap(({ text, entry }) => {
          if (entry === undefined || text === '')
            return of({ session: undefined, agreed: 'unasked' as const, wrong: [] });
          if (entry.course === undefined)
            return of({
              session: undefined,
              agreed: 'unasked' as const,
              wrong: [`The course of “${entry.tape.name}” is not on the shelf.`],
            });
          return this.analysis.run(text, entry.course.text, entry.tape.text);
        }),
        takeUntilDestroyed(),
      )
      .subscribe(({ session, agreed, wrong }) => {
        this.wrong.set(wrong);
        this.agreed.set(agreed);
        this.session.set(session);
        this.head.update((t) => Math.min(t, this.last()));
      });
    effect(() => {
      const id = this.entry()?.tape.id;
      if (id !== undefined) untracked(() => this.desk.open(id));
    });
    effect(() => {
      const tick = Number(this.tick() ?? 0);
      if (Number.isInteger(tick) && tick >= 0) untracked(() => this.head.set(tick));
    });
  }

  ngOnDestroy(): void {
    this.playback.stop();
  }

  protected moveTo(tick: number): void {
    this.pause();
    this.head.set(tick);
    void this.router.navigate([], { queryParams: { tick }, queryParamsHandling: 'merge', replaceUrl: true });
  }

  protected chooseTape(tape: string): void {
    this.pause();
    this.head.set(0);
    void this.router.navigate([], { queryParams: { tape, tick: null }, queryParamsHandling: 'merge' });
  }

  protected editBar({ control, old, next }: BarChange): void {
    const tape = this.editable();
    if (tape === undefined) return;
    const what = next === undefined ? 'remove' : old === undefined ? 'draw' : 'change';
    this.apply(`${what} ${control}`, putBar(tape, control, old, next));
  }

  protected setLength(ticks: number): void {
    if (Number.isInteger(ticks)) this.apply('length of the tape', lengthened(ticks));
  }

  /** Takes over at the playhead, or from the beginning when that is at the end. */
  protected drive(from: number): void {
    const tape = this.desk.tape();
    const machine = this.workspace.machine();
    const world = this.session()?.world;
    const spawn = world?.course.spawns.find((s) => s.name === tape?.spawn);
    if (tape === undefined || machine === undefined || world === undefined || spawn === undefined) return;
    this.pause();
    const before = from >= this.last() ? [] : tapeInputs(tape, machine).slice(0, from);
    const course = readCourse(this.entry()!.course!.text).course!;
    const player = createPlayer(machine, buildWorld(course, machine.stances, machine.casts), spawn);
    this.driving.set({ player, before });
  }

  protected driven(inputs: number[][]): void {
    const machine = this.driving()!.player.machine;
    this.driving.set(undefined);
    const tape = this.desk.tape();
    if (tape === undefined || inputs.length === 0) return;
    const text = drivenText(tape, machine, this.workspace.id()!, inputs);
    const [wrong] = this.desk.replace('drive', text);
    if (wrong !== undefined) this.snack.open(`Not kept: ${wrong.message}.`, undefined, { duration: 7000 });
    this.head.set(0);
  }

  protected newTape(): void {
    this.newTapes.ask().subscribe({
      next: (id) => this.chooseTape(id),
      error: (error: ApiError) => this.snack.open(error.problem.detail, undefined, { duration: 7000 }),
    });
  }

  protected toggle(): void {
    if (this.playing()) return this.moveTo(this.head());
    this.playback.play(this.head() >= this.last() ? 0 : this.head(), {
      rate: this.session()?.trace.machine.rate ?? 60,
      speed: this.speed,
      last: this.last(),
      at: (tick) => this.head.set(tick),
      done: () => this.moveTo(this.last()),
    });
  }

  protected onKey(event: KeyboardEvent): void {
    const typing =
      event.target instanceof HTMLInputElement ||
      event.target instanceof HTMLSelectElement ||
      event.target instanceof HTMLButtonElement;
    if (this.driving() !== undefined) return;
    if (typing || event.ctrlKey || event.metaKey || event.altKey) return;
    if (event.key === ' ') {
      event.preventDefault();
      this.toggle();
    } else if (event.key === ',' || event.key === '.') {
      this.moveTo(Math.max(0, Math.min(this.last(), this.head() + (event.key === '.' ? 1 : -1))));
    }
  }

  private apply(name: string, changes: Change[]): void {
    const [wrong] = this.desk.apply(name, changes);
    if (wrong !== undefined) this.snack.open(`Not done: ${wrong.message}.`, undefined, { duration: 7000 });
  }

  private pause(): void {
    this.playback.stop();
  }
}
