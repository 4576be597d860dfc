import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { MatTableModule } from '@angular/material/table';
import type { Shared } from '@glenmark/contract';
import { Library } from '../../data/library';
import { partsShown, workersShown } from './shared-view';

/** How a scouting goes that workers share: who is at what, how fast, and what came of each part. */
@Component({
  selector: 'gm-shared-search',
  imports: [MatTableModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './shared-search.html',
  styleUrl: './shared-search.scss',
})
export class SharedSearch {
  readonly shared = input.required<Shared>();
  readonly underWay = input.required<boolean>();
  private readonly library = inject(Library);

  protected readonly WORKER_COLUMNS = ['name', 'at', 'perSecond'];
  protected readonly PART_COLUMNS = ['name', 'situations', 'found'];
  private readonly nameOf = (id: string): string =>
    this.library.courses().find((course) => course.id === id)?.name ?? id;
  protected readonly workers = computed(() => workersShown(this.shared(), this.nameOf));
  protected readonly parts = computed(() => partsShown(this.shared(), this.nameOf));
}
