import { ChangeDetectionStrategy, Component, computed, effect, inject } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatIcon } from '@angular/material/icon';
import { Workspace } from '../../data/workspace';
import { Walk, WALK_MOVESET, WALK_STEPS } from '../../shared/document/walk';
import { currentUrl } from '../current-url';

/** The first walk under the bar: what to do next, and how far one is. */
@Component({
  selector: 'gm-walk-strip',
  imports: [MatButton, MatIcon],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './walk-strip.html',
  styleUrl: './walk-strip.scss',
})
export class WalkStrip {
  protected readonly walk = inject(Walk);
  private readonly workspace = inject(Workspace);
  private readonly url = currentUrl();
  protected readonly isOver = computed(() => this.walk.step() === undefined);
  protected readonly steps = computed(() =>
    WALK_STEPS.map((step, i) => ({ step, isDone: i < (this.walk.done() ?? 0) })),
  );
  private readonly isThere = computed(() => this.url().startsWith(`/moveset/${WALK_MOVESET}/`));
  /** Findings that were not there when the moveset was opened. */
  private readonly isBroken = computed(() => {
    const { workspace } = this;
    const before = workspace.atOpening();
    return before !== undefined && workspace.findings().some((f) => !before.has(f.fingerprint));
  });

  constructor() {
    effect(() => {
      if (this.isThere() && this.workspace.id() === WALK_MOVESET) this.walk.did('open');
    });
    effect(() => {
      if (this.isThere() && this.isBroken()) this.walk.did('break');
    });
    effect(() => {
      if (this.isThere() && this.url().includes('/findings')) this.walk.did('see');
    });
    effect(() => {
      if (this.workspace.findingsFresh() && !this.isBroken()) this.walk.did('undo');
    });
  }
}
