import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';

/** A sentence in which `backticks` set notation apart. */
@Component({
  selector: 'gm-marked-text',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (piece of pieces(); track $index) {
      <span [class.notation]="piece.notation">{{ piece.text }}</span>
    }
  `,
  styles: `
    .notation {
      font: 0.94em var(--mono);
      background: var(--well);
      padding: 0 3px;
      border-radius: 2px;
    }
  `,
})
export class MarkedText {
  readonly text = input.required<string>();
  protected readonly pieces = computed(() =>
    this.text()
      .split('`')
      .map((text, i) => ({ text, notation: i % 2 === 1 })),
  );
}
