import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import type { StateKind } from '@glenmark/core/machine';

/** What moves the body, as a mark of its own shape and colour. */
export const KINDS: Record<StateKind, { colour: string; word: string; path: string }> = {
  footed: { colour: 'moss', word: $localize`footed`, path: 'M2 12.5h12M8 3v6.5M5 7l3 3 3-3' },
  aloft: { colour: 'tide', word: $localize`aloft`, path: 'M2 12C4 4 12 4 14 12M8 4.8v1.6' },
  braced: { colour: 'clay', word: $localize`on a wall`, path: 'M13 2v12M3 8h6.5M7 5l3 3-3 3' },
  slung: {
    colour: 'heather',
    word: $localize`on a line`,
    path: 'M3 3h10M8 3v6M6 11.5a2 2 0 1 0 4 0a2 2 0 1 0-4 0',
  },
  committed: { colour: 'lichen', word: $localize`no steering`, path: 'M3 3.5l5 4.5-5 4.5M8 3.5l5 4.5-5 4.5' },
};

@Component({
  selector: 'gm-kind-mark',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg
      width="14"
      height="14"
      viewBox="0 0 16 16"
      fill="none"
      stroke-width="1.6"
      [attr.stroke]="stroke()"
      role="img"
      [attr.aria-label]="entry().word"
    >
      <path [attr.d]="entry().path" />
    </svg>
  `,
  styles: `
    :host {
      display: inline-flex;
      vertical-align: -2px;
      flex: none;
    }
  `,
})
export class KindMark {
  readonly kind = input.required<StateKind>();
  protected readonly entry = computed(() => KINDS[this.kind()]);
  protected readonly stroke = computed(() => `var(--${this.entry().colour})`);
}
