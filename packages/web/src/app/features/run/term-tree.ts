import { MatTooltip } from '@angular/material/tooltip';
import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import type { DatedTerm } from '@glenmark/core/run';

/** A guard as a tree of its terms: holds or not, since when. A click on a term goes to the tick it last changed. */
@Component({
  selector: 'gm-term-tree',
  imports: [MatTooltip],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <button
      type="button"
      (click)="goTo.emit(term().since)"
      matTooltip="Go to tick {{ term().since }}"
      i18n-matTooltip
    >
      <span class="sign" [class.ok]="holds()" [class.bad]="!holds()">{{ holds() ? '✓' : '✕' }}</span>
      <span class="text">{{ term().text }}</span>
      <span class="since">{{ since() }}</span>
    </button>
    @if (term().detail; as detail) {
      <p>{{ detail }}</p>
    }
    @if (term().parts.length > 0) {
      <div>
        @for (part of term().parts; track $index) {
          <gm-term-tree [term]="part" [tick]="tick()" (goTo)="goTo.emit($event)" />
        }
      </div>
    }
  `,
  styles: `
    :host {
      display: block;
    }
    button {
      border: 0;
      background: none;
      color: inherit;
      padding: 1px 0;
      display: flex;
      gap: 7px;
      width: 100%;
      text-align: left;
      font: 12px/1.4 var(--mono);
      cursor: pointer;
      align-items: baseline;
    }
    button:hover .text {
      text-decoration: underline;
    }
    .sign.ok {
      color: var(--moss);
    }
    .sign.bad {
      color: var(--rowan);
    }
    .text {
      overflow-wrap: anywhere;
    }
    .since {
      margin-left: auto;
      color: var(--ink-3);
      white-space: nowrap;
      font-size: 11px;
    }
    p {
      font: 11px var(--mono);
      color: var(--ink-3);
      padding-left: 19px;
    }
    div {
      border-left: 1px solid var(--rule-2);
      margin-left: 4px;
      padding-left: 10px;
    }
  `,
})
export class TermTree {
  readonly term = input.required<DatedTerm>();
  readonly tick = input.required<number>();
  readonly goTo = output<number>();

  protected readonly holds = computed(() => this.term().value !== 0);
  protected readonly since = computed(() =>
    this.term().since === this.tick() ? $localize`just now` : $localize`since ${this.term().since}`,
  );
}
