import { DOCUMENT, inject, Injectable, signal } from '@angular/core';
import { keep, kept } from './kept';

export type Theme = 'day' | 'night';

/** Day or night, remembered by this browser. */
@Injectable({ providedIn: 'root' })
export class ThemeChoice {
  private readonly root = inject(DOCUMENT).documentElement;
  readonly theme = signal<Theme>(kept('theme') === 'night' ? 'night' : 'day');

  constructor() {
    this.root.dataset['theme'] = this.theme();
  }

  toggle(): void {
    const next = this.theme() === 'day' ? 'night' : 'day';
    this.theme.set(next);
    this.root.dataset['theme'] = next;
    keep('theme', next);
  }
}
