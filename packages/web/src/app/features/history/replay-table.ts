import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatTableModule } from '@angular/material/table';
import { RouterLink } from '@angular/router';
import type { Replay } from '@glenmark/core/history';
import type { TapeEntry } from '../../data/library';

/** A tape with what it does on both revisions. */
export interface Replayed {
  entry: TapeEntry;
  replay: Replay | undefined;
}

const OUTCOMES: Record<Replay['outcome'], string> = {
  same: $localize`runs as before, to the last bit`,
  other: $localize`runs otherwise`,
  unplayable: $localize`cannot be played`,
};

/** What each tape does on two revisions: as before, or from which tick on otherwise, and what it expects in vain now. */
@Component({
  selector: 'gm-replay-table',
  imports: [MatButton, MatTableModule, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './replay-table.html',
  styleUrl: './tables.scss',
})
export class ReplayTable {
  readonly replayed = input.required<readonly Replayed[]>();
  /** The moveset whose runs are linked to. */
  readonly moveset = input.required<string>();
  /** The tape whose runs are drawn over each other, and which is to be. */
  readonly drawn = input<string | undefined>();
  readonly draw = output<string | undefined>();
  /** A tape that meets less than before: since when is asked. */
  readonly sinceWhen = output<TapeEntry>();

  protected readonly columns = ['tape', 'outcome', 'where', 'expected'];
  protected readonly rows = computed(() =>
    this.replayed().map(({ entry, replay }) => {
      const unmet = replay?.expectations.filter((e) => !e.isMet) ?? [];
      const met = replay?.expectations.filter((e) => e.isMet) ?? [];
      return {
        entry,
        name: entry.tape.name,
        isOther: replay?.outcome === 'other',
        isLost: replay === undefined || replay.outcome === 'unplayable',
        outcome: replay === undefined ? $localize`does not load` : OUTCOMES[replay.outcome],
        link: ['/moveset', this.moveset(), 'run'],
        query: { tape: entry.tape.id, tick: replay?.parting?.tick },
        tick: replay?.parting?.tick,
        canDraw: replay?.trails !== undefined,
        isDrawn: entry.tape.id === this.drawn(),
        states: replay?.parting?.states.join(', '),
        what: replay?.parting?.what.slice(0, 3) ?? [],
        wrong: [...new Set([...(replay?.wrong.before ?? []), ...(replay?.wrong.after ?? [])])].slice(0, 2),
        unmet: unmet.map((e) => e.text),
        met: met.map((e) => e.text),
      };
    }),
  );
}
