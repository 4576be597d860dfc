import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { MatTableModule } from '@angular/material/table';
import type { CompareGroup, CompareRow } from './compare-table';

/** One run of those that are compared: its heading, whether something else happens in it, and how many expectations it meets. */
export interface RunColumn {
  head: string;
  changes: boolean;
  met: string;
  isShort: boolean;
}

type Line = { title: string } | CompareRow;

/** The measures of compared runs: a column for each run, a row for each measure, in titled groups. */
@Component({
  selector: 'gm-measure-table',
  imports: [MatTableModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './measure-table.html',
  styleUrl: './measure-table.scss',
})
export class MeasureTable {
  readonly runs = input.required<readonly RunColumn[]>();
  readonly groups = input.required<readonly CompareGroup[]>();
  /** The runs are being played again; what is shown is of before. */
  readonly stale = input(false);

  protected readonly runNames = computed(() => this.runs().map((_, i) => `run-${i}`));
  protected readonly columns = computed(() => ['name', ...this.runNames(), 'unit']);
  protected readonly lines = computed(() =>
    this.groups().flatMap(({ title, rows }): Line[] => [{ title }, ...rows]),
  );

  protected readonly isTitle = (_: number, line: Line): boolean => 'title' in line;
}
