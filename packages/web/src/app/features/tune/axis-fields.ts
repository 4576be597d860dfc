import { MatSelectModule } from '@angular/material/select';
import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import type { Turnable } from '@glenmark/core/tune';
import { RangeFields, type RangeText } from './range-fields';

/** A dial that is swept or may move, as it is typed: empty ends are none. */
export interface AxisText extends RangeText {
  dial: string;
}

/** Which dial, and from where to where. */
@Component({
  selector: 'gm-axis-fields',
  imports: [MatSelectModule, RangeFields],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './axis-fields.html',
  styles: `
    :host {
      display: grid;
      grid-template-columns: minmax(0, 1fr) auto;
      align-items: center;
      gap: 6px;
      width: 100%;
    }
  `,
})
export class AxisFields {
  readonly axis = input.required<AxisText>();
  readonly dials = input.required<readonly Turnable[]>();
  /** What it is for, as the fields are called: "sweep", "second dial". */
  readonly label = input.required<string>();
  readonly unit = input('');
  /** Whether no dial may be chosen. */
  readonly optional = input(false);
  readonly changed = output<AxisText>();
  /** Another dial was chosen. */
  readonly dial = output<string>();
}
