import { computed, inject, Injectable, signal, untracked } from '@angular/core';
import type { Account } from '@glenmark/core/run';
import { Workspace } from './workspace';

/** What one lane did at a tick: the state it was in, what it took, and what else was open. Crossings by index. */
export interface LaneAtTick {
  state: string;
  taken: number | undefined;
  open: ReadonlySet<number>;
}

/** The tick that Run showed last, for the views that show the same moveset. */
@Injectable({ providedIn: 'root' })
export class ShownTick {
  private readonly workspace = inject(Workspace);
  private readonly last = signal<{ text: string; tape: string; account: Account } | undefined>(undefined);

  /** The tick and its tape; undefined when the moveset has been changed since. */
  readonly now = computed(() => {
    const last = this.last();
    return last?.text === this.workspace.text() ? last : undefined;
  });

  show(tape: string, account: Account | undefined): void {
    this.last.set(account && { text: untracked(this.workspace.text), tape, account });
  }

  /** What a lane did then. */
  lane(name: string): LaneAtTick | undefined {
    const lane = this.now()?.account.lanes.find((l) => l.lane === name);
    if (lane === undefined) return undefined;
    const open = lane.crossings.filter((c) => c.verdict === 'taken' || c.verdict === 'lost');
    return {
      state: lane.before,
      taken: lane.crossings.find((c) => c.verdict === 'taken')?.index,
      open: new Set(open.map((c) => c.index)),
    };
  }
}
