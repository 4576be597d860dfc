import { computed, DOCUMENT, inject, Injectable, signal } from '@angular/core';
import { store, stored } from './browser-store';

export type Theme = 'day' | 'night';

/** Day or night: as the system has it until somebody chooses, which this browser then remembers. */
@Injectable({ providedIn: 'root' })
export class ThemeChoice {
  private readonly document = inject(DOCUMENT);
  // eslint-disable-next-line no-restricted-syntax -- a media query, which no person reads
  private readonly night = this.document.defaultView?.matchMedia?.('(prefers-color-scheme: dark)');
  private readonly system = signal<Theme>(this.night?.matches === true ? 'night' : 'day');
  private readonly chosen = signal(asTheme(stored('theme')));
  readonly theme = computed(() => this.chosen() ?? this.system());

  constructor() {
    this.night?.addEventListener('change', ({ matches }) => {
      this.system.set(matches ? 'night' : 'day');
      this.show();
    });
    this.show();
  }

  toggle(): void {
    const next = this.theme() === 'day' ? 'night' : 'day';
    this.chosen.set(next);
    store('theme', next);
    this.show();
  }

  private show(): void {
    this.document.documentElement.dataset['theme'] = this.theme();
  }
}

const asTheme = (text: string | undefined): Theme | undefined =>
  text === 'night' || text === 'day' ? text : undefined;
