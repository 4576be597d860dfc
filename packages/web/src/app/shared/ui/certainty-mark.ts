import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import type { Certainty } from '@glenmark/core/findings';

/** Proved, witnessed or suspected: a filled square, a ringed dot, a dashed ring, with the word. */
@Component({
  selector: 'gm-certainty-mark',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg width="12" height="12" viewBox="0 0 12 12" aria-hidden="true">
      @switch (certainty()) {
        @case ('proved') {
          <rect x="2" y="2" width="8" height="8" fill="var(--ink)" />
        }
        @case ('witnessed') {
          <circle cx="6" cy="6" r="4.5" fill="none" stroke="var(--ink)" stroke-width="1.4" />
          <circle cx="6" cy="6" r="1.8" fill="var(--ink)" />
        }
        @case ('suspected') {
          <circle
            cx="6"
            cy="6"
            r="4.5"
            fill="none"
            stroke="var(--amber)"
            stroke-width="1.4"
            stroke-dasharray="2 1.6"
          />
        }
      }
    </svg>
    <span i18n>{certainty(), select, proved {proved} witnessed {witnessed} other {suspected}}</span>
  `,
  styles: `
    :host {
      display: inline-flex;
      align-items: center;
      gap: 6px;
      font: 500 12px var(--label);
    }
  `,
})
export class CertaintyMark {
  readonly certainty = input.required<Certainty>();
}
