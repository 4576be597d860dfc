import { MatIcon } from '@angular/material/icon';
import { MatButton, MatIconButton } from '@angular/material/button';
import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { MatSliderModule } from '@angular/material/slider';
import { Workspace } from '../../../data/workspace';
import { FieldRow } from '../../../shared/document/field-row';
import type { DialRow } from '../../../shared/document/dials';

/** A dial: its slider between its ends, and its value as it is written. One drag is one step to undo. */
@Component({
  selector: 'gm-dial-slider',
  imports: [MatIcon, MatIconButton, MatButton, MatSliderModule, FieldRow],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './dial-slider.html',
  styles: `
    :host {
      display: grid;
      grid-template-columns: minmax(0, 1fr) auto auto auto;
      align-items: center;
      gap: 0 6px;
      padding-bottom: 2px;
    }
    gm-field-row {
      grid-column: 1 / -1;
    }
    mat-slider {
      margin: -8px 8px -10px 88px;
      min-width: 0;
    }
    span {
      font-size: 10px;
      white-space: nowrap;
    }
    button:first-of-type {
      grid-column: 3;
    }
  `,
})
export class DialSlider {
  private readonly workspace = inject(Workspace);
  readonly dial = input.required<DialRow>();
  /** Whether it is only to be turned here: it is named and removed among the values. */
  readonly turnsOnly = input(false);
  readonly rename = output();
  readonly remove = output();
  protected readonly hint = computed(() => (this.dial().derived ? $localize`from others` : ''));
  protected readonly ends = computed(() => $localize`${round(this.dial().min)} to ${round(this.dial().max)}`);

  protected turn(value: number): void {
    const { name, valuePath, unit } = this.dial();
    const text = unit === '' ? round(value) : `${round(value)} ${unit}`;
    this.workspace.apply($localize`turn ${name}`, [{ path: valuePath, value: text }], { goesOn: true });
  }
}

const round = (value: number): number => Math.round(value * 1000) / 1000;
