import { A11yModule } from '@angular/cdk/a11y';
import { OverlayModule } from '@angular/cdk/overlay';
import { MatInput } from '@angular/material/input';
import { MatCheckbox } from '@angular/material/checkbox';
import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
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
  imports: [A11yModule, MatInput, MatCheckbox, OverlayModule],
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
    .rows {
      background: var(--raised);
      border: 1px solid var(--rule-2);
      border-radius: var(--radius);
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

  protected readonly isOpen = signal(false);
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

  protected add(event: Event): void {
    event.preventDefault();
    const text = this.draft().trim();
    if (text === '' || this.wrong() !== '') return;
    if (!this.choice.curves().includes(text)) this.choice.toggleCurve(text);
    this.draft.set('');
  }
}
