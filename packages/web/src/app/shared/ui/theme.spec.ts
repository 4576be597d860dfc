import { DOCUMENT } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { beforeEach, describe, expect, it } from 'vitest';
import { store, stored } from './browser-store';
import { ThemeChoice } from './theme';

/** A document whose system prefers the one or the other, and may change its mind. */
function systemOf(isDark: boolean) {
  let tell: (event: { matches: boolean }) => void = () => undefined;
  const documentElement = { dataset: {} as Record<string, string> };
  const matchMedia = () => ({
    matches: isDark,
    addEventListener: (_: string, listener: typeof tell) => (tell = listener),
  });
  TestBed.configureTestingModule({
    providers: [{ provide: DOCUMENT, useValue: { documentElement, defaultView: { matchMedia } } }],
  });
  return {
    choice: TestBed.inject(ThemeChoice),
    shown: () => documentElement.dataset['theme'],
    becomes: (matches: boolean) => tell({ matches }),
  };
}

describe('the theme', () => {
  beforeEach(() => store('theme', undefined));

  it('follows the system until somebody chooses', () => {
    const { shown, becomes, choice } = systemOf(true);
    expect(shown()).toBe('night');
    becomes(false);
    expect(shown()).toBe('day');
    choice.toggle();
    expect(shown()).toBe('night');
    expect(stored('theme')).toBe('night');
    becomes(true);
    becomes(false);
    expect(shown()).toBe('night');
  });

  it('is the one that was chosen last', () => {
    store('theme', 'day');
    expect(systemOf(true).shown()).toBe('day');
  });
});
