import { MatInput } from '@angular/material/input';
import { MatCheckbox } from '@angular/material/checkbox';
import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { MatMenuModule } from '@angular/material/menu';
import type { Session } from '@glenmark/core/run';
import { asSentence } from '../../../shared/ui/sentence';
import { curveOf } from './curve-data';
import { offeredCurves, ScoreChoice } from './score-choice';
import { GROUPS } from '../../../shared/document/score-rows';

const NAMES = {
  lanes: $localize`lanes`,
  clocks: $localize`timers and cooldowns`,
  variables: $localize`variables`,
  events: $localize`events`,
  contacts: $localize`what is touched`,
  probes: $localize`probes`,
};

/** Chooses which rows and curves the score shows; a curve can be anything that the notation can say. */
@Component({
  selector: 'gm-rows-menu',
  imports: [MatInput, MatCheckbox, MatMenuModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './rows-menu.html',
  styles: `
    .open {
      font: 500 12px/1 var(--label);
      color: var(--ink-2);
      background: none;
      border: 0;
      padding: 3px 0;
      cursor: pointer;
      text-decoration: underline dotted;
      text-underline-offset: 3px;
    }
    .open:hover {
      color: var(--ink);
    }
    div[role='group'] {
      padding: 4px 14px 8px;
      display: grid;
      gap: 3px;
      width: 230px;
    }
    h3 {
      margin-top: 4px;
    }
    p {
      min-height: 17px;
      font-size: 12px;
    }
  `,
})
export class RowsMenu {
  protected readonly choice = inject(ScoreChoice);
  readonly session = input.required<Session>();

  protected readonly draft = signal('');
  protected readonly groups = computed(() =>
    GROUPS.filter((g) => g !== 'lanes').map((group) => ({
      group,
      name: NAMES[group],
      on: this.choice.groups().includes(group),
    })),
  );
  protected readonly curves = computed(() =>
    offeredCurves(this.choice.curves()).map((text) => ({ text, on: this.choice.curves().includes(text) })),
  );
  protected readonly wrong = computed(() => {
    const text = this.draft().trim();
    const curve = text === '' ? undefined : curveOf(this.session(), text);
    return typeof curve === 'string' ? asSentence(curve) : '';
  });

  /** Letters are for the field, not for finding items of the menu; Escape closes it all the same. */
  protected keep(event: KeyboardEvent): void {
    if (event.key !== 'Escape') event.stopPropagation();
  }

  protected add(event: Event): void {
    event.preventDefault();
    const text = this.draft().trim();
    if (text === '' || this.wrong() !== '') return;
    if (!this.choice.curves().includes(text)) this.choice.toggleCurve(text);
    this.draft.set('');
  }
}
