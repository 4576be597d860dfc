import { inject, type EnvironmentProviders, provideAppInitializer } from '@angular/core';
import { MatIconRegistry } from '@angular/material/icon';
import { DomSanitizer } from '@angular/platform-browser';

/** Our icons as paths of lines in a square of 16, drawn in the colour of the text around them. */
const ICONS = {
  undo: 'M6 3.5 2.8 6.7 6 10M3 6.7h6.2a3.6 3.6 0 0 1 0 7.2H6.5',
  redo: 'M10 3.5l3.2 3.2L10 10M13 6.7H6.8a3.6 3.6 0 0 0 0 7.2h2.7',
  find: 'M7 2.8a4.2 4.2 0 1 0 0 8.4a4.2 4.2 0 1 0 0-8.4M10.2 10.2 13.6 13.6',
  keys: 'M2 4.5h12v7H2zM4.5 7h.01M7 7h.01M9.5 7h.01M12 7h.01M5 9.3h6',
  night: 'M12.9 9.8A5.5 5.5 0 0 1 6.2 3.1a5.5 5.5 0 1 0 6.7 6.7',
  day: 'M8 5.3a2.7 2.7 0 1 0 0 5.4a2.7 2.7 0 1 0 0-5.4M8 1.6v1.4M8 13v1.4M1.6 8H3M13 8h1.4M3.5 3.5l1 1M11.5 11.5l1 1M12.5 3.5l-1 1M4.5 11.5l-1 1',
  remove: 'M4.2 4.2l7.6 7.6M11.8 4.2l-7.6 7.6',
  less: 'M3.5 8h9',
  more: 'M3.5 8h9M8 3.5v9',
  done: 'M3 8.5l3.3 3.3L13 4.8',
} as const;

export type IconName = keyof typeof ICONS;

const LINES = ['fill="none"', 'stroke="currentColor"', 'stroke-width="1.5"', 'stroke-linecap="round"'];
const OPEN = ['<svg', 'viewBox="0 0 16 16"', ...LINES, 'stroke-linejoin="round"><path', 'd="'].join(' ');
const CLOSE = '"/></svg>';

/** Makes the icons known to `mat-icon`, by their names. */
export const provideIcons = (): EnvironmentProviders =>
  provideAppInitializer(() => {
    const registry = inject(MatIconRegistry);
    const sanitizer = inject(DomSanitizer);
    for (const [name, path] of Object.entries(ICONS)) {
      registry.addSvgIconLiteral(name, sanitizer.bypassSecurityTrustHtml([OPEN, path, CLOSE].join('')));
    }
  });
