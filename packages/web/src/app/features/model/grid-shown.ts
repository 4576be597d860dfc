import { computed, inject, Injectable, signal } from '@angular/core';
import { movedKey } from '@glenmark/core/model';
import { Scoutings } from '../../data/scoutings';
import { ShownTick } from '../../data/shown-tick';
import { Workspace } from '../../data/workspace';
import { usedCrossings } from './coverage';
import type { CellPlace } from './crossings-grid';
import { buildGrid } from './grid-data';
import { cellsBetween, gridView, placesMoved } from './grid-view';

/** The grid of the lane that Model shows: what of it is folded, sought and picked, and what it says beside its guards. */
@Injectable()
export class GridShown {
  private readonly workspace = inject(Workspace);
  private readonly scoutings = inject(Scoutings);
  private readonly shownTick = inject(ShownTick);

  readonly lane = signal(0);
  readonly filter = signal('');
  readonly folded = signal<ReadonlySet<string>>(new Set());
  /** The picked cells, as `from to`; none while a single cell is chosen. */
  readonly picked = signal<ReadonlySet<string>>(new Set());

  private readonly laneName = computed(() => this.workspace.machine()!.lanes[this.lane()]!.name);
  readonly whole = computed(() =>
    buildGrid(
      this.workspace.machine()!,
      this.lane(),
      this.workspace.findings(),
      usedCrossings(this.scoutings.current(), this.workspace.revision(), this.laneName()),
    ),
  );
  readonly grid = computed(() => gridView(this.whole(), { filter: this.filter(), folded: this.folded() }));
  /** More states than one sees at a glance. */
  readonly isLarge = computed(() => this.whole().heads.length > 9);
  readonly covered = computed(() =>
    this.whole().rows.some((r) => r.cells.some((c) => c.chips.some((chip) => chip.used !== undefined))),
  );
  readonly pickedCells = computed(() =>
    this.grid()
      .rows.flatMap((r) => r.cells)
      .filter((c) => this.picked().has(keyOf(c))),
  );
  /** What the lane did at the tick that Run showed last, and which tick of which tape that was. */
  readonly atTick = computed(() => this.shownTick.lane(this.laneName()));
  readonly shownAt = computed(() => {
    const now = this.shownTick.now();
    return now && $localize`tick ${now.account.tick} of ${now.tape}`;
  });

  fold(group: string): void {
    const folded = new Set(this.folded());
    if (!folded.delete(group)) folded.add(group);
    this.folded.set(folded);
  }

  /** Puts a state where its row was dragged to: among its siblings, for it stays in its group. */
  reorder(name: string, index: number): void {
    const { states } = this.workspace.machine()!;
    const moved = states.find((s) => s.name === name);
    if (moved === undefined) return;
    const [shown, all] = [this.grid(), this.whole()].map(({ rows }) => rows.map((row) => row.name));
    const by = placesMoved(shown!, all!, name, index, (other) =>
      states.some((s) => s.name === other && s.lane === moved.lane && s.parent === moved.parent),
    );
    const text = by === 0 ? undefined : movedKey(this.workspace.text(), moved.path, by);
    if (text !== undefined) this.workspace.replace($localize`move ${name}`, text);
  }

  /** Picks the rectangle from the chosen cell to another; or adds one cell, or leaves it out. */
  pick(chosen: CellPlace | undefined, cell: CellPlace, alone: boolean): void {
    if (!alone) {
      this.picked.set(new Set(cellsBetween(this.grid(), chosen ?? cell, cell).map(keyOf)));
      return;
    }
    const start = this.picked().size === 0 && chosen !== undefined ? [keyOf(chosen)] : [];
    const picked = new Set([...this.picked(), ...start]);
    if (!picked.delete(keyOf(cell))) picked.add(keyOf(cell));
    this.picked.set(picked);
  }

  clearPicked(): void {
    this.picked.set(new Set());
  }
}

const keyOf = ({ from, to }: CellPlace): string => `${from} ${to}`;
