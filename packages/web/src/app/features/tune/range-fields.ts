import { MatInput } from '@angular/material/input';
import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';

/** From where to where a dial is turned, as it is typed: empty ends are none. */
export interface RangeText {
  from: string;
  to: string;
}

/** The two ends of the range of a dial, with its unit. */
@Component({
  selector: 'gm-range-fields',
  imports: [MatInput],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <input
      #from
      matInput
      [value]="range().from"
      (input)="changed.emit({ from: from.value, to: range().to })"
      ariaLabel="{{ dial() }} from"
      i18n-ariaLabel
      inputmode="decimal"
      autocomplete="off"
    />
    <span i18n class="dim">to</span>
    <input
      #to
      matInput
      [value]="range().to"
      (input)="changed.emit({ from: range().from, to: to.value })"
      ariaLabel="{{ dial() }} to"
      i18n-ariaLabel
      inputmode="decimal"
      autocomplete="off"
    />
    <span class="dim">{{ unit() }}</span>
  `,
  styles: `
    :host {
      display: grid;
      grid-template-columns: 64px auto 64px 34px;
      align-items: center;
      gap: 4px 6px;
    }
    [matInput] {
      padding: 4px 6px;
      font-size: 12px;
      text-align: right;
    }
    span {
      font-size: 11px;
    }
  `,
})
export class RangeFields {
  readonly dial = input.required<string>();
  readonly range = input.required<RangeText>();
  readonly unit = input('');
  readonly changed = output<RangeText>();
}
