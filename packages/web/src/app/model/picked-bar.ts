import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { MatSnackBar } from '@angular/material/snack-bar';
import type { Change, Crossing } from '@glenmark/core';
import { Workspace } from '../data/workspace';
import { removeCrossing, setRank } from './edits';
import type { Cell } from './grid-data';

/** What can be done with several crossings at once, each time as one step. */
@Component({
  selector: 'gm-picked-bar',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div role="toolbar" aria-label="Picked crossings">
      <b>{{ words() }}</b>
      <label>
        rank
        <input
          #rank
          class="text-field"
          inputmode="numeric"
          [value]="sameRank()"
          (change)="rankAll(rank.value)"
          aria-label="Rank of all"
        />
      </label>
      @if (abilities().length > 0) {
        <label>
          ability
          <select
            #ability
            class="text-field"
            (change)="abilityAll(ability.value)"
            aria-label="Ability of all"
          >
            <option value="?" [selected]="sameAbility() === '?'" hidden>several</option>
            <option value="" [selected]="sameAbility() === ''">none</option>
            @for (name of abilities(); track name) {
              <option [selected]="name === sameAbility()">{{ name }}</option>
            }
          </select>
        </label>
      }
      <button
        type="button"
        class="plain-button small"
        [disabled]="crossings().length === 0"
        (click)="removeAll()"
      >
        Remove all
      </button>
      <span class="fill"></span>
      <button type="button" class="plain-button small" (click)="leave.emit()">Pick none</button>
    </div>
  `,
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
    label {
      display: flex;
      align-items: center;
      gap: 6px;
      color: var(--ink-2);
    }
    input {
      width: 52px;
    }
    select {
      width: auto;
    }
    .fill {
      flex: 1;
    }
  `,
})
export class PickedBar {
  private readonly workspace = inject(Workspace);
  private readonly snack = inject(MatSnackBar);
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
    return `${cells} cells, ${crossings} ${crossings === 1 ? 'crossing' : 'crossings'}`;
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
    if (text.trim() === '' || !Number.isInteger(rank)) return this.tell('A rank is a whole number.');
    this.apply(
      `rank ${rank} for ${this.words()}`,
      this.crossings().flatMap((c) => setRank(c, rank)),
    );
  }

  protected abilityAll(name: string): void {
    this.apply(
      `ability of ${this.words()}`,
      this.crossings().map((c) => ({ path: [...c.path, 'ability'], value: name === '' ? undefined : name })),
    );
  }

  protected removeAll(): void {
    // From the last to the first, so that places in the list stay right.
    this.apply(`remove ${this.words()}`, [...this.crossings()].reverse().flatMap(removeCrossing));
    this.leave.emit();
  }

  private apply(name: string, changes: Change[]): void {
    const [wrong] = this.workspace.apply(name, changes);
    if (wrong !== undefined) this.tell(`Not done: ${wrong.message}.`);
  }

  private tell(sentence: string): void {
    this.snack.open(sentence, undefined, { duration: 7000 });
  }
}

/** What all of them are, or something else when they differ. */
const same = (values: readonly string[], otherwise: string): string =>
  values.every((v) => v === values[0]) ? (values[0] ?? otherwise) : otherwise;
