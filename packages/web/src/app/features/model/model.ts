import { MatInput } from '@angular/material/input';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatButton } from '@angular/material/button';
import { MatTabsModule } from '@angular/material/tabs';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { MatDialog } from '@angular/material/dialog';
import { Router } from '@angular/router';
import { Workspace } from '../../data/workspace';
import { CellClipboard } from './cell-clipboard';
import { BESIDE, type Choice, laneOf, SHOWN_AS, VIEW_WORDS } from './choice';
import { ColumnWidths } from './column-widths';
import { CrossingLine } from './crossing-line';
import { type CellPlace, CrossingsGrid } from './crossings-grid';
import { addState, removeCrossing } from '../../shared/document/edits';
import { GridShown } from './grid-shown';
import { LaneSummary } from './lane-summary';
import { NameDialog } from '../../shared/ui/name-dialog';
import { OpenExport } from './export/open-export';
import { OpenKits } from './kits/open-kits';
import { LaneMap } from './map/lane-map';
import { PickedBar } from './picked-bar';
import { StateSheet } from './state-sheet';
import { TextPane } from './text/text-pane';
import { ValuesSheet } from './values/values-sheet';
import { Notifications } from '../../shared/ui/notifications';
import { SideWidth } from '../../shared/ui/side-width';

/** The work surface: the crossings of a lane on the left, the sheet of a state on the right. */
@Component({
  selector: 'gm-model',
  imports: [
    MatInput,
    MatButtonToggleModule,
    MatButton,
    MatTabsModule,
    CellClipboard,
    CrossingsGrid,
    CrossingLine,
    LaneSummary,
    LaneMap,
    PickedBar,
    StateSheet,
    TextPane,
    ValuesSheet,
    SideWidth,
  ],
  providers: [ColumnWidths, GridShown],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './model.html',
  styleUrl: './model.scss',
})
export class Model {
  protected readonly workspace = inject(Workspace);
  protected readonly shown = inject(GridShown);
  private readonly router = inject(Router);
  protected readonly export = inject(OpenExport);
  private readonly kits = inject(OpenKits);
  private readonly dialog = inject(MatDialog);
  private readonly notifications = inject(Notifications);

  /**
   * The choice itself; the address follows it. The router takes its time, and a key pressed meanwhile must find the
   * cell that the key before has chosen.
   */
  private readonly choice = signal<Choice>({});
  /** Changes of the address that are under way and were made from here. */
  private following = 0;

  /** What the address chooses. */
  readonly lane = input<string>();
  readonly from = input<string>();
  readonly to = input<string>();
  readonly state = input<string>();
  readonly crossing = input<string>();
  readonly as = input<string>();
  readonly beside = input<string>();

  protected readonly shownAs = SHOWN_AS;
  protected readonly besides = BESIDE;
  protected readonly words = VIEW_WORDS;

  private readonly cells = viewChild(CrossingsGrid);
  /** What was typed in the grid before the line above it was drawn and could take it. */
  protected readonly typed = signal<string | undefined>(undefined);

  protected readonly machine = computed(() => this.workspace.machine()!);
  protected readonly lanes = computed(() =>
    this.machine().lanes.map((l) => ({
      name: l.name,
      count: l.states.filter((s) => this.machine().states[s]!.members.length === 0).length,
    })),
  );
  protected readonly laneIndex = computed(() => laneOf(this.machine(), this.choice()));
  protected readonly place = computed(
    (): CellPlace | undefined => {
      const { rows, heads } = this.shown.whole();
      const [from, to] = [this.choice().from, this.choice().to];
      const there = rows.some((r) => r.name === from) && heads.some((h) => h.name === to);
      return there ? { from: from!, to: to! } : undefined;
    },
    // The same cell stays the same place, or the line above would begin anew and lose what is being typed.
    { equal: (a, b) => a?.from === b?.from && a?.to === b?.to },
  );
  protected readonly crossingIndex = computed(() =>
    this.choice().crossing === undefined ? undefined : Number(this.choice().crossing),
  );
  protected readonly asWhat = computed(() => SHOWN_AS.find((a) => a === this.choice().as) ?? 'grid');
  protected readonly besideWhat = computed(() => BESIDE.find((b) => b === this.choice().beside) ?? 'sheet');
  /** Where the caret of the text should be: the chosen crossing, or the state in the sheet. */
  protected readonly textPlace = computed(
    () => {
      const lane = this.machine().lanes[this.laneIndex()]!;
      const cell = this.place();
      const { states } = this.machine();
      const crossing =
        this.choice().state === undefined && cell !== undefined
          ? lane.crossings.find(
              (c) =>
                states[c.to]!.name === cell.to &&
                (cell.from === '*' ? c.from.length === 0 : c.from.some((s) => states[s]!.name === cell.from)),
            )
          : undefined;
      return crossing?.path ?? this.sheetState().path;
    },
    { equal: (a, b) => a.join('/') === b.join('/') },
  );
  /** The state in the sheet: the chosen one, else the chosen cell's target, else the lane's first. */
  protected readonly sheetState = computed(() => {
    const { states, lanes } = this.machine();
    const wanted = this.choice().state ?? this.choice().to;
    return (
      states.find((s) => s.name === wanted && s.lane === this.laneIndex()) ??
      states[lanes[this.laneIndex()]!.states[0]!]!
    );
  });

  /** Several cells at once: those up to this one, or this one too. The chosen cell stays the corner. */
  protected pick({ cell, alone }: { cell: CellPlace; alone: boolean }): void {
    this.shown.pick(this.place(), cell, alone);
    if (this.place() === undefined) this.go({ from: cell.from, to: cell.to, state: undefined });
  }

  constructor() {
    effect(() => this.shown.lane.set(this.laneIndex()));
    effect(() => {
      const address: Choice = {
        lane: this.lane(),
        from: this.from(),
        to: this.to(),
        state: this.state(),
        crossing: this.crossing(),
        as: this.as(),
        beside: this.beside(),
      };
      untracked(() => {
        if (this.following === 0) this.choice.set(address);
      });
    });
  }

  protected openLane(lane: string): void {
    this.shown.picked.set(new Set());
    this.go({ lane, from: undefined, to: undefined, state: undefined, crossing: undefined });
  }

  protected choose({ from, to }: CellPlace): void {
    this.shown.picked.set(new Set());
    this.go({ from, to, state: undefined, crossing: undefined });
  }

  protected chooseCrossing(crossing: number): void {
    this.go({ crossing: String(crossing) });
  }

  protected openState(state: string): void {
    this.go({ state, ...(this.besideWhat() === 'values' ? { beside: undefined } : {}) });
  }

  protected showAs(as: string): void {
    this.go({ as: as === 'grid' ? undefined : as });
  }

  protected showBeside(beside: string): void {
    this.go({ beside: beside === 'sheet' ? undefined : beside });
  }

  protected openKits(): void {
    void this.kits.open(this.laneIndex());
  }

  protected write(text: string): void {
    this.typed.update((before = '') => before + text);
  }

  /** Removes the first crossing of a cell; the others, if any, stay. */
  protected removeAt({ from, to }: CellPlace): void {
    const machine = this.machine();
    const cell = this.shown
      .whole()
      .rows.find((r) => r.name === from)
      ?.cells.find((c) => c.to === to);
    const chip = cell?.chips[0];
    if (chip === undefined) return;
    this.workspace.apply(
      $localize`remove ${from} → ${to}`,
      removeCrossing(machine.lanes[this.laneIndex()]!.crossings[chip.index]!),
    );
  }

  protected addState(): void {
    const taken = this.machine().states.map((s) => s.name);
    this.dialog
      .open<NameDialog, NameDialog['data'], string>(NameDialog, {
        data: { title: $localize`New state`, label: $localize`Name`, action: $localize`Add`, taken },
      })
      .afterClosed()
      .subscribe((name) => {
        if (name === undefined) return;
        const changes = addState(this.machine(), this.laneIndex(), name);
        const [wrong] = this.workspace.apply($localize`add ${name}`, changes);
        if (this.notifications.unlessDone(wrong)) this.go({ state: name });
      });
  }

  protected backToGrid(): void {
    this.cells()?.focusChosen();
  }

  /** Chooses at once, and lets the address follow. */
  private go(change: Choice): void {
    this.choice.update((choice) => ({ ...choice, ...change }));
    this.following++;
    const queryParams = Object.fromEntries(
      Object.entries(change).map(([key, value]) => [key, value ?? null]),
    );
    void this.router
      .navigate([], { queryParams: { ...this.choice(), ...queryParams }, replaceUrl: true })
      .finally(() => this.following--);
  }
}
