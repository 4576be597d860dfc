import { MatButton } from '@angular/material/button';
import { MatChipsModule } from '@angular/material/chips';
import { MatSelectModule } from '@angular/material/select';
import { MatTabsModule } from '@angular/material/tabs';
import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal } from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import { SideWidth } from '../../shared/ui/side-width';
import { Bars } from './bars';
import { Goals } from './goals';
import { KeptSettings } from './kept-settings';
import { OutcomeTable } from './outcome-table';
import { Sweep } from './sweep';
import { Trails } from './trails';
import { TuneState } from './tune-state';
import { TurnRow } from './turn-row';

const PANELS = [
  { id: 'goals', label: $localize`Goals` },
  { id: 'sweep', label: $localize`Sweep` },
  { id: 'bars', label: $localize`Sensitivity` },
  { id: 'settings', label: $localize`Settings` },
];

/** What the tapes come to beside the dials that matter to it; goals, sweeps, bars and settings to keep. */
@Component({
  selector: 'gm-tune',
  imports: [
    MatButton,
    MatChipsModule,
    MatSelectModule,
    MatTabsModule,
    RouterLink,
    SideWidth,
    Bars,
    Goals,
    KeptSettings,
    OutcomeTable,
    Sweep,
    Trails,
    TurnRow,
  ],
  providers: [TuneState],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './tune.html',
  styleUrl: './tune.scss',
})
export class Tune {
  protected readonly state = inject(TuneState);
  private readonly router = inject(Router);
  /** From the address: the tapes that are looked at, by commas, and the one that dials and panels are about. */
  readonly tapes = input<string>();
  readonly tape = input<string>();

  protected readonly panels = PANELS;
  protected readonly panelNow = signal('goals');
  protected readonly chosenIds = computed(() => this.state.chosen().map(({ tape }) => tape.id));
  /** The dials that can matter to the outcome come first. */
  protected readonly dials = computed(() => {
    const matter = this.state.matterToOutcome() ?? [];
    const all = this.state.turnables().map((dial) => ({
      dial,
      matters: matter.includes(dial.name),
      turned: this.state.setting()[dial.name],
    }));
    return [...all.filter((d) => d.matters), ...all.filter((d) => !d.matters)];
  });

  constructor() {
    effect(() => this.state.chosenIds.set(this.tapes()?.split(',')));
    effect(() => this.state.ownId.set(this.tape()));
  }

  protected choose(ids: readonly string[]): void {
    this.look({ tapes: ids.length === 0 ? undefined : ids.join(',') });
  }

  protected look(query: { tapes?: string | undefined; tape?: string | undefined }): void {
    void this.router.navigate([], { queryParams: query, queryParamsHandling: 'merge' });
  }

  protected take(): void {
    const turned = Object.keys(this.state.setting()).join(', ');
    this.state.take($localize`turn ${turned}`);
  }

  protected leave(): void {
    this.state.turnTo({});
  }
}
