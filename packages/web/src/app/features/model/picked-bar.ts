import { MatInput } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import { MatButton } from '@angular/material/button';
import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import type { Crossing } from '@glenmark/core/machine';
import type { Change } from '@glenmark/core/model';
import { Workspace } from '../../data/workspace';
import { removeCrossing, setRank } from '../../shared/document/edits';
import type { Cell } from './grid-data';
import { Notifications } from '../../shared/ui/notifications';

/** What can be done with several crossings at once, each time as one step. */
@Component({
  selector: 'gm-picked-bar',
  imports: [MatInput, MatSelectModule, MatButton],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './picked-bar.html',
  styles: `
    div {
      height: 67px;
      padding: 0 14px;
      display: flex;
      align-items: center;
      gap: 14px;
      background: var(--sheet);
      border-bottom: 1px solid var(--rule);
    }
    label,
    .labelled {
      display: flex;
      align-items: center;
      gap: 6px;
      color: var(--ink-2);
    }
    input {
      width: 52px;
    }
    mat-form-field {
      width: 130px;
    }
    .fill {
      flex: 1;
    }
  `,
})
export class PickedBar {
  private readonly workspace = inject(Workspace);
  private readonly notifications = inject(Notifications);
  readonly lane = input.required<number>();
  readonly cells = input.required<readonly Cell[]>();
  readonly leave = output();

  private readonly machine = computed(() => this.workspace.machine()!);
  protected readonly crossings = computed((): Crossing[] => {
    const indexes = new Set(this.cells().flatMap((c) => c.chips.map((chip) => chip.index)));
    return this.machine().lanes[this.lane()]!.crossings.filter((c) => indexes.has(c.index));
  });
  protected readonly words = computed(() => {
    const [cells, crossings] = [this.cells().length, this.crossings().length];
    return crossings === 1
      ? $localize`${cells} cells, 1 crossing`
      : $localize`${cells} cells, ${crossings} crossings`;
  });
  protected readonly abilities = computed(() => this.machine().abilities.map((a) => a.name));
  protected readonly sameRank = computed(() =>
    same(
      this.crossings().map((c) => String(c.rank)),
      '',
    ),
  );
  protected readonly sameAbility = computed(() =>
    same(
      this.crossings().map((c) => this.machine().abilities[c.ability]?.name ?? ''),
      '?',
    ),
  );

  protected rankAll(text: string): void {
    const rank = Number(text);
    if (text.trim() === '' || !Number.isInteger(rank))
      return this.notifications.say($localize`A rank is a whole number.`);
    this.apply(
      $localize`rank ${rank} for ${this.words()}`,
      this.crossings().flatMap((c) => setRank(c, rank)),
    );
  }

  protected abilityAll(name: string): void {
    this.apply(
      $localize`ability of ${this.words()}`,
      this.crossings().map((c) => ({ path: [...c.path, 'ability'], value: name === '' ? undefined : name })),
    );
  }

  protected removeAll(): void {
    // From the last to the first, so that places in the list stay right.
    this.apply($localize`remove ${this.words()}`, [...this.crossings()].reverse().flatMap(removeCrossing));
    this.leave.emit();
  }

  private apply(name: string, changes: Change[]): void {
    this.notifications.unlessDone(this.workspace.apply(name, changes)[0]);
  }
}

/** What all of them are, or something else when they differ. */
const same = (values: readonly string[], otherwise: string): string =>
  values.every((v) => v === values[0]) ? (values[0] ?? otherwise) : otherwise;
