import { MatInput } from '@angular/material/input';
import { MatCheckbox } from '@angular/material/checkbox';
import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { MatMenuModule } from '@angular/material/menu';
import type { Session } from '@glenmark/core/run';
import { asSentence } from '../../ui/sentence';
import { curveOf } from './curve-data';
import { offeredCurves, ScoreChoice } from './score-choice';
import { GROUPS } from './score-rows';

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
  template: `
    <button i18n type="button" class="open" [matMenuTriggerFor]="menu">rows</button>
    <mat-menu #menu="matMenu" class="rows-menu">
      <div
        role="group"
        aria-label="Rows and curves"
        i18n-aria-label
        (click)="$event.stopPropagation()"
        (keydown.tab)="$event.stopPropagation()"
      >
        <h3 i18n>rows</h3>
        @for (g of groups(); track g.group) {
          <mat-checkbox [checked]="g.on" (change)="choice.toggleGroup(g.group)">{{ g.name }}</mat-checkbox>
        }
        <h3 i18n>curves</h3>
        @for (c of curves(); track c.text) {
          <mat-checkbox class="mono" [checked]="c.on" (change)="choice.toggleCurve(c.text)">{{
            c.text
          }}</mat-checkbox>
        }
        <form (submit)="add($event)">
          <input
            #box
            matInput
            [value]="draft()"
            (input)="draft.set(box.value)"
            (keydown)="keep($event)"
            [class.wrong]="wrong() !== ''"
            aria-label="Another curve"
            i18n-aria-label
            placeholder="vy / hopSpeed"
            i18n-placeholder
            spellcheck="false"
            autocomplete="off"
          />
        </form>
        <p class="bad" aria-live="polite">{{ wrong() }}</p>
      </div>
    </mat-menu>
  `,
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
