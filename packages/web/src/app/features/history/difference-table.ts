import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatTableModule } from '@angular/material/table';
import type { Difference } from '@glenmark/core/history';
import { type DifferenceRow, differenceRows } from './difference-rows';

const WORDS: Record<DifferenceRow['what'], string> = {
  new: $localize`new`,
  gone: $localize`gone`,
  changed: '',
  renamed: $localize`renamed`,
};

/** What changed between two revisions, in the terms of the model. */
@Component({
  selector: 'gm-difference-table',
  imports: [MatButton, MatTableModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <table mat-table [dataSource]="rows()">
      <ng-container matColumnDef="title">
        <th mat-header-cell *matHeaderCellDef i18n>what</th>
        <td mat-cell *matCellDef="let row" [attr.role]="'rowheader'">
          {{ row.title }}
          @if (row.word) {
            <span class="word">{{ row.word }}</span>
          }
        </td>
      </ng-container>
      <ng-container matColumnDef="before">
        <th mat-header-cell *matHeaderCellDef i18n>before</th>
        <td mat-cell *matCellDef="let row" class="mono before">{{ row.before }}</td>
      </ng-container>
      <ng-container matColumnDef="after">
        <th mat-header-cell *matHeaderCellDef i18n>after</th>
        <td mat-cell *matCellDef="let row" class="mono">{{ row.after }}</td>
      </ng-container>
      <ng-container matColumnDef="back">
        <th mat-header-cell *matHeaderCellDef class="back">
          <span i18n class="visually-hidden">take back</span>
        </th>
        <td mat-cell *matCellDef="let row" class="back">
          @if (row.takesBack !== undefined) {
            <button
              i18n
              type="button"
              matButton="outlined"
              class="small"
              ariaLabel="Take back {{ row.title }}"
              i18n-ariaLabel
              (click)="takeBack.emit(row.takesBack)"
            >
              Take back
            </button>
          }
        </td>
      </ng-container>
      <tr mat-header-row *matHeaderRowDef="columns()"></tr>
      <tr mat-row *matRowDef="let row; columns: columns()"></tr>
    </table>
  `,
  styleUrl: './tables.scss',
})
export class DifferenceTable {
  readonly differences = input.required<readonly Difference[]>();
  /** Whether the later one is the moveset as it is now: then each can be taken back. */
  readonly isNow = input(false);
  /** The place of a difference among them. */
  readonly takeBack = output<number>();
  protected readonly columns = computed(() => [
    'title',
    'before',
    'after',
    ...(this.isNow() ? ['back'] : []),
  ]);
  protected readonly rows = computed(() =>
    differenceRows(this.differences()).map((row) => ({ ...row, word: WORDS[row.what] })),
  );
}
