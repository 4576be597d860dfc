import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatInput } from '@angular/material/input';
import { MatListModule } from '@angular/material/list';
import type { Revision } from '@glenmark/contract';
import type { ApiError } from '../../data/api';
import type { Counts } from '../../data/counts';
import { Revisions } from '../../data/revisions';
import { Workspace } from '../../data/workspace';
import { revisionCounts } from './revision-counts';

const WHEN = new Intl.DateTimeFormat('en', {
  month: 'short',
  day: 'numeric',
  hour: 'numeric',
  minute: '2-digit',
  hourCycle: 'h23',
});

/** Revisions to look back to, with what is counted of each; the chosen one can be labelled. */
@Component({
  selector: 'gm-revision-list',
  imports: [MatButton, MatInput, MatListModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './revision-list.html',
  styleUrl: './revision-list.scss',
})
export class RevisionList {
  private readonly workspace = inject(Workspace);
  private readonly kept = inject(Revisions);
  /** Newest first. */
  readonly revisions = input.required<readonly Revision[]>();
  readonly chosen = input<number | undefined>();
  readonly choose = output<number>();

  protected readonly wrong = signal('');
  private readonly counts = revisionCounts(
    computed(() => {
      const moveset = this.workspace.id();
      if (moveset === undefined || !this.workspace.isComplete()) return undefined;
      return { moveset, revisions: this.revisions(), tapes: this.workspace.playable() };
    }),
  );
  protected readonly rows = computed(() =>
    this.revisions().map(({ number, message, label, createdAt }) => {
      const counts = this.counts().get(number);
      return {
        number,
        label: label ?? '',
        message: message === '' ? $localize`no message` : message,
        about: [...(counts === undefined ? [] : [countWords(counts)]), WHEN.format(new Date(createdAt))].join(
          ' · ',
        ),
      };
    }),
  );
  protected readonly row = computed(() => this.rows().find(({ number }) => number === this.chosen()));

  protected setLabel(number: number, label: string): void {
    this.kept.label(number, label).subscribe({
      next: () => this.wrong.set(''),
      error: (error: ApiError) => this.wrong.set(error.problem.detail),
    });
  }
}

/** Counts in a few words. */
export function countWords(counts: Counts | null): string {
  if (counts === null) return $localize`does not load`;
  const { findings, met, of } = counts;
  const found = findings === 1 ? $localize`1 finding` : $localize`${findings} findings`;
  return of === 0 ? found : $localize`${met}/${of} met, ${found}`;
}
