import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatSelectModule } from '@angular/material/select';
import { Router } from '@angular/router';
import { differencesBetween, takenBack, wordsOf } from '@glenmark/core/history';
import type { TapeEntry } from '../../data/library';
import { courseReadings, movesetReadings } from '../../data/readings';
import { Revisions } from '../../data/revisions';
import { Workspace } from '../../data/workspace';
import { CertaintyMark } from '../../shared/ui/certainty-mark';
import { MarkedText } from '../../shared/ui/marked-text';
import { saveFile } from '../../shared/ui/save-file';
import { asSentence } from '../../shared/ui/sentence';
import { SideWidth } from '../../shared/ui/side-width';
import { BothRuns } from './both-runs';
import { DifferenceTable } from './difference-table';
import { type Replayed, ReplayTable } from './replay-table';
import { RevisionList } from './revision-list';
import { revisionText } from './revision-text';
import { shownBetween } from './shown-between';
import { SinceWhen } from './since-when';

/** What the open moveset has been, and what became other between two of its revisions: in words, in runs, in findings. */
@Component({
  selector: 'gm-history',
  imports: [
    MatButton,
    MatSelectModule,
    BothRuns,
    CertaintyMark,
    DifferenceTable,
    MarkedText,
    ReplayTable,
    RevisionList,
    SideWidth,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './history.html',
  styleUrl: './history.scss',
})
export class History {
  protected readonly workspace = inject(Workspace);
  private readonly revisions = inject(Revisions);
  private readonly router = inject(Router);
  private readonly sinceWhen = inject(SinceWhen);
  /** From the address: the number of the earlier revision, and of the later one when that is not the present. */
  readonly from = input<string>();
  readonly to = input<string>();

  protected readonly kept = computed(() =>
    this.revisions.kept().map((revision) => ({
      ...revision,
      title: revision.label ?? (revision.message === '' ? $localize`no message` : revision.message),
    })),
  );
  /** The later revision; undefined for the moveset as it is now. */
  protected readonly after = computed(() => numberIn(this.to()));
  /** Those that may be looked back to: before the later one, newest first. */
  protected readonly earlier = computed(() => {
    const after = this.after() ?? Infinity;
    const now = this.workspace.isAsSaved() ? this.workspace.revision() : Infinity;
    return this.kept().filter(({ number }) => number < Math.min(after, now));
  });
  protected readonly before = computed(() => {
    const asked = numberIn(this.from());
    return this.earlier().find(({ number }) => number === asked)?.number ?? this.earlier()[0]?.number;
  });

  private readonly beforeText = revisionText(computed(() => this.revision(this.before())));
  private readonly afterText = revisionText(computed(() => this.revision(this.after())));
  private readonly tapes = computed(() =>
    this.workspace.tapes().filter((t) => t.moveset === this.workspace.id() && t.course !== undefined),
  );
  protected readonly shown = shownBetween(
    computed(() => {
      const before = this.beforeText.text();
      const after = this.after() === undefined ? this.workspace.text() : this.afterText.text();
      if (before === undefined || after === undefined || after === '') return undefined;
      const tapes = this.tapes().map(({ tape, course }) => ({ tape: tape.text, course: course!.text }));
      return { before, after, tapes };
    }),
  );
  protected readonly between = computed(() => {
    const between = this.shown.between();
    return between !== undefined && 'differences' in between ? between : undefined;
  });
  protected readonly replayed = computed((): Replayed[] => {
    const replays = this.between()?.replays ?? [];
    return this.tapes().flatMap((entry, i) => (i < replays.length ? [{ entry, replay: replays[i] }] : []));
  });
  /** Why there is nothing to show: a revision that cannot be read, or does not load any more. */
  protected readonly wrong = computed(() => {
    const [before, after] = [this.before(), this.after()];
    if (this.beforeText.failed()) return $localize`Revision ${before} could not be read.`;
    if (this.afterText.failed()) return $localize`Revision ${after} could not be read.`;
    if (this.shown.failed() !== '') return this.shown.failed();
    const between = this.shown.between();
    if (between === undefined || !('wrong' in between)) return '';
    return between.which === 'before'
      ? $localize`Revision ${before} does not load with this release, at ${between.wrong}. Choose another one.`
      : $localize`The later revision does not load, at ${between.wrong}.`;
  });
  /** The text of the earlier revision, when it does not load. */
  protected readonly unreadable = computed(() => {
    const between = this.shown.between();
    const isBroken = between !== undefined && 'wrong' in between && between.which === 'before';
    return isBroken ? this.beforeText.text() : undefined;
  });
  /** The tape whose runs are drawn over each other. */
  protected readonly drawnId = signal<string | undefined>(undefined);
  protected readonly drawn = computed(() => {
    const found = this.replayed().find(({ entry }) => entry.tape.id === this.drawnId());
    const { trails, parting } = found?.replay ?? {};
    const course = found && courseReadings.of(found.entry.course!.text).course;
    if (found === undefined || trails === undefined || parting === undefined || course === undefined)
      return undefined;
    return { name: found.entry.tape.name, course, trails, tick: parting.tick };
  });
  /** What was answered to since when. */
  protected readonly answer = signal('');

  protected look(query: { from?: number | undefined; to?: number | undefined }): void {
    void this.router.navigate([], { queryParams: query, queryParamsHandling: 'merge' });
  }

  /** Takes the text of the earlier revision as one step, which can be undone. */
  protected restore(): void {
    const text = this.beforeText.text();
    if (text === undefined) return;
    const [fault] = this.workspace.replace($localize`restore revision ${this.before()}`, text);
    this.answer.set(fault === undefined ? '' : $localize`Not restored\: ${asSentence(fault.message)}`);
  }

  /** Keeps the text of a revision that does not load, for whoever wants to mend it by hand. */
  protected keepText(text: string): void {
    const name = `${this.workspace.id()}-r${this.before()}.yaml`;
    saveFile(name, new Blob([text], { type: 'application/yaml' }));
  }

  /** Takes one difference back, as one step that can be undone. */
  protected takeBack(which: number): void {
    const before = this.beforeText.text();
    const { file, machine } = this.workspace.compiled();
    const earlier = before === undefined ? undefined : movesetReadings.of(before).file;
    if (earlier === undefined || file === undefined || machine === undefined) return;
    const { list, old } = differencesBetween(earlier, file);
    // What is shown may be of before the last edit: then it is the same difference among others, or none any more.
    const shown = JSON.stringify(this.between()?.differences[which]);
    const difference = list.find((d) => JSON.stringify(d) === shown);
    if (difference === undefined) return;
    const text = takenBack(difference, old, { text: this.workspace.text(), file, machine });
    if (text === undefined) return;
    const name = $localize`take back ${wordsOf(difference)[0]}`;
    const [fault] = this.workspace.replace(name, text);
    this.answer.set(fault === undefined ? '' : $localize`Not taken back\: ${asSentence(fault.message)}`);
  }

  /** Looks for the revision since which a tape meets less, and puts that beside the one before it. */
  protected async findSince({ tape, course, moveset }: TapeEntry): Promise<void> {
    const last = this.after() ?? this.workspace.revision();
    const numbers = this.kept()
      .map(({ number }) => number)
      .filter((number) => number >= this.before()! && number <= last)
      .reverse();
    if (numbers.length < 2) {
      this.answer.set($localize`It is an edit that is not saved yet.`);
      return;
    }
    try {
      const first = await this.sinceWhen.firstUnmet(this.workspace.id()!, numbers, { tape, course, moveset });
      this.answer.set($localize`Since revision ${first} “${tape.name}” no longer meets all that it expects.`);
      this.look({ from: numbers[numbers.indexOf(first) - 1], to: first });
    } catch (error) {
      this.answer.set($localize`This could not be found\: ${(error as Error).message}`);
    }
  }

  private revision(number: number | undefined): { id: string; number: number } | undefined {
    const id = this.workspace.id();
    return number === undefined || id === undefined ? undefined : { id, number };
  }
}

const numberIn = (text: string | undefined): number | undefined => {
  const number = Number(text);
  return text === undefined || !Number.isInteger(number) ? undefined : number;
};
