import { DOCUMENT, inject, Injectable, signal } from '@angular/core';

export type Theme = 'day' | 'night';
const KEY = 'glenmark.theme';

/** Day or night, remembered by this browser. */
@Injectable({ providedIn: 'root' })
export class ThemeChoice {
  private readonly root = inject(DOCUMENT).documentElement;
  readonly theme = signal<Theme>(remembered());

  constructor() {
    this.root.dataset['theme'] = this.theme();
  }

  toggle(): void {
    const next = this.theme() === 'day' ? 'night' : 'day';
    this.theme.set(next);
    this.root.dataset['theme'] = next;
    try {
      localStorage.setItem(KEY, next);
    } catch {
      // A browser that keeps nothing still changes its theme now.
    }
  }
}

function remembered(): Theme {
  try {
    return localStorage.getItem(KEY) === 'night' ? 'night' : 'day';
  } catch {
    return 'day';
  }
}
