import { MatButton } from '@angular/material/button';
import { ChangeDetectionStrategy, Component, output } from '@angular/core';
import type { Alignment } from './align';

const ACTS: { how: Alignment; word: string }[] = [
  { how: 'left', word: $localize`left edges` },
  { how: 'centre', word: $localize`centres` },
  { how: 'right', word: $localize`right edges` },
  { how: 'top', word: $localize`tops` },
  { how: 'middle', word: $localize`middles` },
  { how: 'bottom', word: $localize`bottoms` },
];

/** What can be done with several pieces of a course at once. */
@Component({
  selector: 'gm-align-bar',
  imports: [MatButton],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p i18n class="dim">to the line of the one that was chosen first</p>
    <p class="acts">
      @for (act of acts; track act.how) {
        <button type="button" matButton="outlined" class="small" (click)="align.emit(act.how)">
          {{ act.word }}
        </button>
      }
    </p>
    <p i18n class="dim">with equal gaps</p>
    <p class="acts">
      <button i18n type="button" matButton="outlined" class="small" (click)="align.emit('spread')">
        across
      </button>
      <button i18n type="button" matButton="outlined" class="small" (click)="align.emit('spreadUp')">
        up and down
      </button>
    </p>
  `,
  styles: `
    :host {
      display: grid;
      gap: 6px;
    }
    .acts {
      display: flex;
      flex-wrap: wrap;
      gap: 6px;
    }
  `,
})
export class AlignBar {
  protected readonly acts = ACTS;
  readonly align = output<Alignment>();
}
