import { MatExpansionModule } from '@angular/material/expansion';
import { MatInput } from '@angular/material/input';
import { MatProgressBar } from '@angular/material/progress-bar';
import { MatRadioModule } from '@angular/material/radio';
import { MatCheckbox } from '@angular/material/checkbox';
import { MatSelectModule } from '@angular/material/select';
import { MatButton } from '@angular/material/button';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { Scouting } from '@glenmark/contract';
import { Library } from '../../data/library';
import { Scoutings } from '../../data/scoutings';
import { IN_PAGE } from '../../data/page-scouting';
import { Workspace } from '../../data/workspace';
import { Workers } from '../../data/workers';
import { SharedSearch } from './shared-search';
import { whoIsThere } from './shared-view';
import { type UsedBy, usageOf } from './usage';

const BUDGETS = [20_000, 100_000, 500_000, 2_000_000, 10_000_000];
/** What only several workers are asked for. */
const SHARED_BUDGET = 100_000_000;

/** Scouting from the application: where, how long, how far it is, and what it did not get to. */
@Component({
  selector: 'gm-scouting-panel',
  imports: [
    MatExpansionModule,
    MatInput,
    MatProgressBar,
    MatRadioModule,
    MatCheckbox,
    MatSelectModule,
    MatButton,
    RouterLink,
    SharedSearch,
  ],
  providers: [Workers],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './scouting-panel.html',
  styleUrl: './scouting-panel.scss',
})
export class ScoutingPanel {
  protected readonly workspace = inject(Workspace);
  protected readonly scoutings = inject(Scoutings);
  protected readonly workers = inject(Workers);
  private readonly library = inject(Library);

  protected readonly budget = signal(100_000);
  protected readonly seed = signal(1);
  protected readonly everywhere = signal(false);
  protected readonly inPage = signal(false);
  protected readonly partCounts = PART_COUNTS;
  protected readonly parts = signal(4);
  protected readonly asksForParts = computed(() => this.workers.areShared() && !this.inPage());
  protected readonly budgets = computed(() =>
    [...BUDGETS, ...(this.asksForParts() ? [SHARED_BUDGET] : [])].map((n) => ({
      n,
      text: n.toLocaleString('en'),
    })),
  );
  protected readonly whoIsThere = computed(() => whoIsThere(this.workers.list()));
  /** The courses that somebody chose; before that, those of the moveset's own tapes. */
  private readonly picked = signal<ReadonlySet<string> | undefined>(undefined);
  private readonly chosen = computed(() => {
    const own = this.workspace
      .tapes()
      .flatMap((t) => (t.moveset === this.workspace.id() && t.course !== undefined ? [t.course.id] : []));
    const all = this.library.courses();
    return this.picked() ?? new Set(own.length > 0 ? own : all.slice(0, 1).map((c) => c.id));
  });
  protected readonly courses = computed(() =>
    this.library.courses().map((c) => ({ id: c.id, name: c.name, on: this.chosen().has(c.id) })),
  );
  protected readonly canStart = computed(
    () =>
      this.chosen().size > 0 &&
      this.workspace.machine() !== undefined &&
      (this.inPage() || this.workspace.saveState() === 'saved'),
  );
  protected readonly view = computed(() => {
    const s = this.scoutings.current();
    if (s === undefined) return undefined;
    const perSecond = s.seconds > 0 ? s.done / s.seconds : 0;
    const left = perSecond > 0 ? Math.max(0, (s.situations - s.done) / perSecond) : undefined;
    const stale = s.revision !== this.workspace.revision();
    return {
      ...s,
      word: WORDS[s.state],
      where:
        s.id === IN_PAGE
          ? $localize`in this page`
          : s.shared !== undefined
            ? $localize`by workers`
            : $localize`on the server`,
      goesOn:
        s.state === 'stopped'
          ? $localize`Go on`
          : s.state === 'failed' && s.id !== IN_PAGE
            ? $localize`Begin it again`
            : undefined,
      share: Math.min(1, s.done / s.situations),
      at: [placeOf(s), leftInWords(left)].filter((words) => words !== '').join(', '),
      stale: stale ? $localize`of revision ${s.revision}; witnesses are played again at each edit` : '',
      doneText: s.done.toLocaleString('en'),
      speed: $localize`${Math.round(perSecond).toLocaleString('en')} situations, ${Math.round(s.seconds > 0 ? s.ticks / s.seconds : 0).toLocaleString('en')} ticks per second`,
    };
  });
  /** What tapes and scouting did not use, or only one of them did; nothing before anything was scouted. */
  protected readonly uses = computed(() => {
    const machine = this.workspace.machine();
    const coverage = this.scoutings.current()?.coverage;
    if (machine === undefined || coverage === undefined || coverage.ofStates === 0) return [];
    const all = usageOf(machine, this.workspace.byTapes(), coverage, this.workspace.findings());
    return USES.map(({ by, title }) => ({ title, entries: all.filter((u) => u.by === by) })).filter(
      ({ entries }) => entries.length > 0,
    );
  });

  protected pick(id: string): void {
    const next = new Set(this.chosen());
    if (!next.delete(id)) next.add(id);
    this.picked.set(next);
  }

  protected start(): void {
    const courses = [...this.chosen()];
    const request = {
      moveset: this.workspace.id()!,
      courses,
      situations: this.budget(),
      seed: this.seed(),
      ...(this.everywhere() ? { grid: GRID } : {}),
      ...(this.asksForParts() ? { parts: this.parts() } : {}),
    };
    if (!this.inPage()) this.scoutings.start(request);
    else {
      const texts = this.library.courses().flatMap((c) => (courses.includes(c.id) ? [c.text] : []));
      this.scoutings.startHere(request, texts);
    }
  }
}

/** In how many parts a course may be searched. */
const PART_COUNTS = [1, 2, 4, 8, 16];

/** Where a scouting that runs is. */
const placeOf = ({ course, shared }: Scouting): string =>
  shared !== undefined
    ? $localize`round ${Math.min(shared.leg + 1, shared.legs)} of ${shared.legs}`
    : course === ''
      ? ''
      : $localize`on ${course}`;

const leftInWords = (seconds: number | undefined): string =>
  seconds === undefined
    ? ''
    : seconds < 1
      ? $localize`nearly done`
      : $localize`about ${Math.ceil(seconds)} s left`;

/** The width of the grid from which a course is scouted everywhere (metres). */
const GRID = 3;

const USES: { by: UsedBy; title: string }[] = [
  { by: 'neither', title: $localize`used by nothing` },
  { by: 'tapes', title: $localize`used by tapes only` },
  { by: 'scouting', title: $localize`used by scouting only, by no tape` },
];

const WORDS = {
  queued: $localize`waits for its turn`,
  running: $localize`scouting`,
  done: $localize`done`,
  stopped: $localize`stopped`,
  failed: $localize`failed`,
};
