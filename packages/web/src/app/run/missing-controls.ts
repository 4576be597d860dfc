import { MatSelectModule } from '@angular/material/select';
import { MatButton } from '@angular/material/button';
import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { TapeDesk } from '../data/tape-desk';
import { Workspace } from '../data/workspace';
import { TapeActs } from './tape-acts';

/** What the tape holds of controls that the moveset does not have: kept until somebody says what is to become of it. */
@Component({
  selector: 'gm-missing-controls',
  imports: [MatSelectModule, MatButton],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (grid(); as g) {
      <p>
        <ng-container i18n>
          The tape is made at {{ g.own }} ticks per second, and the moveset runs at {{ g.of }}: its bars are
          shown and cannot be edited.
        </ng-container>
        <button i18n type="button" matButton="filled" class="small" (click)="acts.regrid()">
          Convert to {{ g.of }} ticks per second
        </button>
      </p>
    }
    @for (g of gone(); track g.control) {
      <p>
        <ng-container i18n>
          The tape holds <b class="mono">{{ g.control }}</b> {{ g.times }}, which this moveset does not have.
        </ng-container>
        <span class="labelled">
          <ng-container i18n>Play it as</ng-container>
          <mat-form-field>
            <mat-select
              #asBox="matSelect"
              [value]="free()[0]"
              aria-label="Play {{ g.control }} as"
              i18n-aria-label
            >
              @for (name of free(); track name) {
                <mat-option [value]="name">{{ name }}</mat-option>
              }
            </mat-select>
          </mat-form-field>
        </span>
        <button
          i18n
          type="button"
          matButton="filled"
          class="small"
          [disabled]="free().length === 0"
          (click)="acts.remap(g.control, asBox.value)"
        >
          Apply
        </button>
        <button
          i18n
          type="button"
          matButton="outlined"
          class="small"
          (click)="acts.remap(g.control, undefined)"
        >
          Leave it out
        </button>
      </p>
    }
  `,
  styles: `
    p {
      display: flex;
      align-items: center;
      gap: 8px;
      padding: 8px 14px;
      border-bottom: 1px solid var(--rule);
    }
    .labelled {
      display: flex;
      align-items: center;
      gap: 6px;
    }
    mat-form-field {
      width: 130px;
    }
  `,
})
export class MissingControls {
  protected readonly acts = inject(TapeActs);
  private readonly desk = inject(TapeDesk);
  private readonly workspace = inject(Workspace);
  /** The tape's own ticks a second and those of the moveset, when they are not the same. */
  protected readonly grid = computed(() => {
    const own = this.open() ? this.desk.tape()?.rate : undefined;
    const of = this.workspace.machine()?.rate;
    return own === undefined || of === undefined || own === of ? undefined : { own, of };
  });
  /** Whether the tape that is shown is the one that is open. */
  readonly open = input.required<boolean>();

  private readonly known = computed(() => this.workspace.machine()?.controls.map((c) => c.name));
  protected readonly gone = computed(() => {
    const known = this.known();
    const tape = this.open() ? this.desk.tape() : undefined;
    if (known === undefined || tape === undefined) return [];
    return tape.inputs
      .filter((i) => !known.includes(i.control))
      .map(({ control, spans }) => ({
        control,
        times: spans.length === 1 ? $localize`once` : $localize`${spans.length} times`,
      }));
  });
  /** Controls of the moveset that the tape does not hold yet. */
  protected readonly free = computed(
    () => this.known()?.filter((name) => this.desk.tape()?.inputs.every((i) => i.control !== name)) ?? [],
  );
}
