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
import { Router } from '@angular/router';
import { type Session, why } from '@glenmark/core';
import { of, switchMap } from 'rxjs';
import { Analysis } from '../data/analysis';
import type { Agreement } from '../data/analysis.worker';
import { Workspace } from '../data/workspace';
import { CourseView } from './course-view';
import { Score } from './score';
import { WhyPanel } from './why-panel';

/** A tape played on its course: the course above, the score below, and why beside them. */
@Component({
  selector: 'gm-run',
  imports: [CourseView, Score, WhyPanel],
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { '(document:keydown)': 'onKey($event)' },
  templateUrl: './run.html',
  styleUrl: './run.scss',
})
export class Run implements OnDestroy {
  protected readonly workspace = inject(Workspace);
  private readonly analysis = inject(Analysis);
  private readonly router = inject(Router);

  /** What the address chooses. */
  readonly tape = input<string>();
  readonly tick = input<string>();

  protected readonly session = signal<Session | undefined>(undefined);
  protected readonly wrong = signal<string[]>([]);
  /** Whether the fast machine came to the same bits as the run shown. */
  protected readonly agreed = signal<Agreement>('unasked');
  protected readonly head = signal(0);
  protected readonly playing = signal(false);
  protected readonly speed = signal(1);
  protected readonly speeds = [1, 0.25, 0.05];
  private frame = 0;

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
      const tick = Number(this.tick() ?? 0);
      if (Number.isInteger(tick) && tick >= 0) untracked(() => this.head.set(tick));
    });
  }

  ngOnDestroy(): void {
    cancelAnimationFrame(this.frame);
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

  protected toggle(): void {
    if (this.playing()) return this.moveTo(this.head());
    const from = this.head() >= this.last() ? 0 : this.head();
    const rate = this.session()?.trace.machine.rate ?? 60;
    let began: number | undefined;
    const step = (now: number): void => {
      began ??= now;
      const tick = from + Math.floor(((now - began) / 1000) * rate * this.speed());
      this.head.set(Math.min(tick, this.last()));
      if (tick >= this.last()) this.moveTo(this.last());
      else this.frame = requestAnimationFrame(step);
    };
    this.playing.set(true);
    this.frame = requestAnimationFrame(step);
  }

  protected onKey(event: KeyboardEvent): void {
    const typing =
      event.target instanceof HTMLInputElement ||
      event.target instanceof HTMLSelectElement ||
      event.target instanceof HTMLButtonElement;
    if (typing || event.ctrlKey || event.metaKey || event.altKey) return;
    if (event.key === ' ') {
      event.preventDefault();
      this.toggle();
    } else if (event.key === ',' || event.key === '.') {
      this.moveTo(Math.max(0, Math.min(this.last(), this.head() + (event.key === '.' ? 1 : -1))));
    }
  }

  private pause(): void {
    cancelAnimationFrame(this.frame);
    this.playing.set(false);
  }
}
