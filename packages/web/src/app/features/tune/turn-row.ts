import { MatButton } from '@angular/material/button';
import { MatInput } from '@angular/material/input';
import { MatSliderModule } from '@angular/material/slider';
import { ChangeDetectionStrategy, Component, computed, input, output, signal } from '@angular/core';
import type { Turnable } from '@glenmark/core/tune';
import { rangeOf, shortValue } from './ranges';

/** A dial on trial: a slider between its ends, its value, and the one that the moveset has. */
@Component({
  selector: 'gm-turn-row',
  imports: [MatButton, MatInput, MatSliderModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './turn-row.html',
  styleUrl: './turn-row.scss',
  host: { '[class.matters]': 'matters()' },
})
export class TurnRow {
  readonly dial = input.required<Turnable>();
  /** Its value on trial; undefined for a dial that is not turned. */
  readonly turned = input<number | undefined>();
  /** Whether it can matter to the outcome that is looked at. */
  readonly matters = input(false);
  readonly turn = output<number>();

  protected readonly value = computed(() => this.turned() ?? this.dial().value);
  protected readonly text = computed(() => shortValue(this.value()));
  protected readonly own = computed(() => `${shortValue(this.dial().value)} ${this.dial().unit}`);
  protected readonly range = computed(() => rangeOf(this.dial()));
  protected readonly wrong = signal('');

  /** Takes what was typed, when it is a number; else says so and keeps it. */
  protected write(text: string): void {
    const value = Number(text.trim());
    if (text.trim() === '' || !Number.isFinite(value)) {
      this.wrong.set($localize`Expected a number in ${this.dial().unit || $localize`no unit`}.`);
      return;
    }
    this.wrong.set('');
    this.turn.emit(value);
  }
}
