import { MatSelectModule } from '@angular/material/select';
import { MatButton } from '@angular/material/button';
import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { TapeDesk } from '../../data/tape-desk';
import { Workspace } from '../../data/workspace';
import { TapeActs } from './tape-acts';

/** What the tape holds of controls that the moveset does not have: kept until somebody says what is to become of it. */
@Component({
  selector: 'gm-missing-controls',
  imports: [MatSelectModule, MatButton],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './missing-controls.html',
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
