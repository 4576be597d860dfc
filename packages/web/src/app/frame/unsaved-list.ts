import { ChangeDetectionStrategy, Component, computed, effect, inject, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import { MatTooltip } from '@angular/material/tooltip';
import { readFile, slugOf } from '@glenmark/core/model';
import { Analysis } from '../data/analysis';
import { Documents } from '../data/documents';
import type { OpenDocument } from '../data/open-document';
import { Notifications } from '../shared/ui/notifications';
import { addressOf } from '../shared/document/address';
import { SAVE_WORDS } from '../shared/document/save-words';

/**
 * The documents that are not saved, beside the one that the bar speaks of already. Where there is room each stands by its
 * name; beside another document only their number, which leads to the first.
 */
@Component({
  selector: 'gm-unsaved-list',
  imports: [MatTooltip, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { role: 'status' },
  template: `
    @if (but() === undefined) {
      @for (d of unsaved(); track d.key) {
        <a [routerLink]="d.address" [queryParams]="d.query" [matTooltip]="d.reason">
          <b>{{ d.name }}</b> {{ d.word }}
        </a>
      }
    } @else if (unsaved()[0]; as first) {
      <a [routerLink]="first.address" [queryParams]="first.query" [matTooltip]="all()" i18n
        ><b class="mono">{{ unsaved().length }}</b> not saved</a
      >
    }
    @if (documents.keepsNothing() && unsaved().length > 0) {
      <span i18n>Keep this page open: this browser stores nothing.</span>
    }
  `,
  styles: `
    :host {
      display: flex;
      gap: 10px;
      align-items: baseline;
      flex: none;
      font-size: 12px;
      color: var(--rowan);
    }
    a {
      color: inherit;
      white-space: nowrap;
    }
  `,
})
export class UnsavedList {
  protected readonly documents = inject(Documents);
  private readonly notifications = inject(Notifications);
  private readonly analysis = inject(Analysis);
  /** The document that is spoken of elsewhere. */
  readonly but = input<string | undefined>();

  protected readonly unsaved = computed(() =>
    this.documents
      .unsaved()
      // What was typed a moment ago is on its way: that is no news.
      .filter((d) => d.saveState() !== 'saving' && `${d.kind}/${d.id}` !== this.but())
      .map((d) => ({
        key: `${d.kind}/${d.id}`,
        name: d.name(),
        word: SAVE_WORDS[d.saveState()],
        reason: d.reason() ?? '',
        address: addressOf(d, movesetOf(d)),
        query: d.kind === 'tape' ? { tape: d.id } : {},
      })),
  );

  /** All of them with their reasons, in one line. */
  protected readonly all = computed(() =>
    this.unsaved()
      .map((d) => `${d.name}: ${d.word}. ${d.reason}`)
      .join(' '),
  );

  constructor() {
    effect(() => {
      if (this.analysis.replaced() > 0)
        this.notifications.say($localize`The analysis stopped unexpectedly and was started again.`);
    });
  }
}

/** The moveset in whose view a tape is edited. */
function movesetOf({ kind, text }: OpenDocument): string | undefined {
  if (kind !== 'tape') return undefined;
  const moveset = readFile('tape', text()).file?.moveset;
  return moveset === undefined ? undefined : slugOf(moveset);
}
