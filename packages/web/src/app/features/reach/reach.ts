import { MatButton } from '@angular/material/button';
import { MatInput } from '@angular/material/input';
import { MatProgressBar } from '@angular/material/progress-bar';
import { MatSelectModule } from '@angular/material/select';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  inject,
  input,
  signal,
} from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import type { Box } from '@glenmark/core/scout';
import type { Subscription } from 'rxjs';
import type { ApiError } from '../../data/api';
import { Library } from '../../data/library';
import type { ReachStanding } from '../../data/reach-work';
import { ReachSearch } from '../../data/reach-search';
import { courseReadings } from '../../data/readings';
import { TapeShelf } from '../../data/tape-shelf';
import { Workspace } from '../../data/workspace';
import { SideWidth } from '../../shared/ui/side-width';
import { contoursOf } from './contours';
import { painter } from './painter';
import { countsOf, reachedNear, type Shows } from './raster-picture';
import { ReachDrawing } from './reach-drawing';
import { cellWords, goalWords, pitWords } from './reach-words';

/** So many situations are looked at first, and so many more by each going on. */
const SITUATIONS = 100_000;

const END_FIELDS: readonly { key: keyof Box; before: string; label: string }[] = [
  { key: 'minX', before: 'x', label: $localize`Goal from x` },
  { key: 'maxX', before: $localize`to`, label: $localize`Goal to x` },
  { key: 'minY', before: 'y', label: $localize`Goal from y` },
  { key: 'maxY', before: $localize`to`, label: $localize`Goal to y` },
];

/** Where the body gets to on a course: with what, how soon, and to a goal that is drawn on it. */
@Component({
  selector: 'gm-reach',
  imports: [MatButton, MatInput, MatProgressBar, MatSelectModule, RouterLink, SideWidth, ReachDrawing],
  providers: [ReachSearch],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './reach.html',
  styleUrl: './reach.scss',
})
export class Reach {
  protected readonly workspace = inject(Workspace);
  private readonly library = inject(Library);
  private readonly reaching = inject(ReachSearch);
  private readonly shelf = inject(TapeShelf);
  private readonly router = inject(Router);
  /** From the address: the course. */
  readonly course = input<string>();

  protected readonly courses = this.library.courses;
  /** The chosen course, or the one that most tapes of the moveset run on. */
  protected readonly courseId = computed(() => {
    const asked = this.courses().find((c) => c.id === this.course());
    const own = this.workspace.tapes().find((t) => t.moveset === this.workspace.id())?.course;
    return (asked ?? own ?? this.courses()[0])?.id;
  });
  private readonly courseText = computed(() => this.courses().find((c) => c.id === this.courseId())?.text);
  protected readonly place = computed(() => {
    const text = this.courseText();
    return text === undefined ? undefined : courseReadings.of(text).course;
  });
  /** Whether both have been read. */
  protected readonly canScout = computed(
    () => this.workspace.machine() !== undefined && this.place() !== undefined,
  );
  protected readonly abilities = computed(() => this.workspace.machine()?.abilities.map((a) => a.name) ?? []);
  protected readonly without = signal('');
  protected readonly goal = signal<Box | undefined>(undefined);
  /** Its ends as fields, in the order in which they are read. */
  protected readonly ends = computed(() => {
    const goal = this.goal();
    return goal === undefined
      ? []
      : END_FIELDS.map((field) => ({ ...field, value: goal[field.key].toFixed(2) }));
  });
  protected readonly shows = signal<Shows>('kind');
  protected readonly isRunning = signal(false);
  protected readonly wrong = signal('');
  private readonly answer = signal<{ standing: ReachStanding; about: string; budget: number } | undefined>(
    undefined,
  );
  protected readonly pickedAt = signal<{ x: number; y: number } | undefined>(undefined);
  private running: Subscription | undefined;

  /** What an answer is about: it counts as long as that is the same. */
  private readonly about = computed(() =>
    JSON.stringify([this.workspace.text(), this.courseText(), this.without(), this.goal()]),
  );
  protected readonly standing = computed(() => {
    const answer = this.answer();
    return answer?.about === this.about() ? answer.standing : undefined;
  });
  protected readonly raster = computed(() => this.standing()?.raster);
  protected readonly share = computed(
    () => (100 * (this.standing()?.situations ?? 0)) / (this.answer()?.budget ?? SITUATIONS),
  );
  protected readonly counts = computed(() => {
    const standing = this.standing();
    return standing && countsOf(standing.raster, standing.without);
  });
  protected readonly paint = computed(() => painter(this.standing(), this.shows(), this.workspace.machine()));
  /** The reached cell that is looked at. */
  private readonly cell = computed(() => {
    const [at, standing] = [this.pickedAt(), this.standing()];
    return at && standing && reachedNear(standing.raster, at.x, at.y);
  });
  protected readonly picked = computed(() => {
    const [cell, standing, machine] = [this.cell(), this.standing(), this.workspace.machine()];
    if (cell === undefined || standing === undefined || machine === undefined) return undefined;
    return { x: cell.x, y: cell.y, says: cellWords(cell, standing, machine, this.without()) };
  });
  protected readonly goalSays = computed(() => {
    const [goal, standing] = [this.goal(), this.standing()];
    return goal === undefined || standing === undefined ? undefined : goalWords(standing);
  });

  protected readonly contours = computed(() => {
    const [raster, machine] = [this.raster(), this.workspace.machine()];
    return this.shows() !== 'soon' || raster === undefined || machine === undefined
      ? []
      : contoursOf(raster, machine.rate);
  });
  protected readonly pits = computed(() => this.standing()?.pits);
  protected readonly pitSquares = computed(() => this.pits()?.map((pit) => pit.squares) ?? []);
  protected readonly pitsSay = computed(() => {
    const rate = this.workspace.machine()?.rate ?? 1;
    return this.pits()?.map((pit) => pitWords(pit, rate)) ?? [];
  });
  /** Whether the search itself is over, and what it came to is looked at for ways out. */
  protected readonly looksForPits = computed(
    () => this.isRunning() && this.share() >= 100 && this.pits() === undefined,
  );

  constructor() {
    inject(DestroyRef).onDestroy(() => {
      this.running?.unsubscribe();
      this.reaching.drop();
    });
  }

  protected choose(course: string): void {
    this.stop();
    this.goal.set(undefined);
    void this.router.navigate([], { queryParams: { course }, queryParamsHandling: 'merge' });
  }

  protected scout(): void {
    const course = this.courseText();
    if (course === undefined) return;
    const without = this.without() === '' ? undefined : this.without();
    const asked = { moveset: this.workspace.text(), course, seed: 1, without, toward: this.goal() };
    this.follow(this.reaching.begin(asked, SITUATIONS), SITUATIONS);
    if (without !== undefined) this.shows.set('only');
  }

  protected goOn(): void {
    const budget = (this.answer()?.budget ?? 0) + SITUATIONS;
    this.follow(this.reaching.goOn(budget), budget);
  }

  protected stop(): void {
    this.running?.unsubscribe();
    this.isRunning.set(false);
  }

  protected leaveOut(ability: string): void {
    this.stop();
    this.without.set(ability);
  }

  protected drawGoal(goal: Box): void {
    this.stop();
    this.goal.set(goal);
    this.scout();
  }

  /** One end of the goal, as it is typed. */
  protected setEnd(end: keyof Box, text: string): void {
    const value = Number(text.trim());
    const goal = this.goal();
    if (goal === undefined || text.trim() === '' || !Number.isFinite(value)) return;
    const next = { ...goal, [end]: value };
    this.wrong.set(
      next.minX > next.maxX || next.minY > next.maxY
        ? $localize`The goal ends before it begins. Its first number is the smaller one.`
        : '',
    );
    if (this.wrong() === '') this.goal.set(next);
  }

  /** A goal to be moved by its numbers, for those who do not draw: a metre in the middle of the course. */
  protected addGoal(): void {
    const { bounds } = this.place()!;
    const [x, y] = [Math.round((bounds.minX + bounds.maxX) / 2), Math.round(bounds.maxY)];
    this.goal.set({ minX: x, maxX: x + 1, minY: y, maxY: y + 1 });
  }

  protected async openCell(): Promise<void> {
    const cell = this.cell();
    if (cell !== undefined) this.open(await this.reaching.tapeTo(cell.x, cell.y));
  }

  protected async openPit(pit: number): Promise<void> {
    this.open(await this.reaching.tapeToPit(pit));
  }

  protected async openNearest(): Promise<void> {
    this.open(await this.reaching.tapeToNearest());
  }

  /** Puts a tape on the shelf, and opens it in Run at its end. */
  private open(text: string | undefined): void {
    if (text === undefined) {
      this.wrong.set($localize`The body begins there: there is no tape to show.`);
      return;
    }
    const tick = Number(/^ticks: (\d+)/m.exec(text)?.[1] ?? 1) - 1;
    this.shelf.add(text, $localize`Reach`).subscribe({
      next: (tape) =>
        void this.router.navigate(['/moveset', this.workspace.id(), 'run'], {
          queryParams: { tape, tick },
        }),
      error: (error: ApiError) => this.wrong.set(error.problem.detail),
    });
  }

  private follow(search: ReturnType<ReachSearch['goOn']>, budget: number): void {
    const about = this.about();
    this.running?.unsubscribe();
    this.isRunning.set(true);
    this.wrong.set('');
    this.running = search.subscribe({
      next: (standing) => this.answer.set({ standing, about, budget }),
      error: (error: Error) => {
        this.isRunning.set(false);
        this.wrong.set($localize`The search failed\: ${error.message}`);
      },
      complete: () => this.isRunning.set(false),
    });
  }
}
