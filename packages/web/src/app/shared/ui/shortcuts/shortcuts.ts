import { DestroyRef, inject, Injectable, signal } from '@angular/core';
import { MatDialog } from '@angular/material/dialog';
import { isTyping } from '../typing';
import { isPress } from './key-press';
import { type Place, SHORTCUTS, type Shortcut, type ShortcutId, shortcutsOf } from './shortcut-list';

/** What a shortcut does. It returns false when it did nothing, so that the key is left to others. */
export type Act = (event?: KeyboardEvent) => unknown;
export type Acts = Partial<Record<ShortcutId, Act>>;

/** The shortcut of a place that an event is; for elements that take keys themselves, such as a cell or a bar. */
export const shortcutOf = (event: KeyboardEvent, where: Place): ShortcutId | undefined =>
  shortcutsOf(where).find(([, { keys }]) => keys.some((press) => isPress(press, event)))?.[0];

/**
 * Listens to the keys of the whole page. Each view says what its shortcuts do while it is open; the view that opened last
 * is asked first.
 */
@Injectable({ providedIn: 'root' })
export class Shortcuts {
  private readonly dialog = inject(MatDialog);
  private readonly open = signal<readonly Acts[]>([]);

  constructor() {
    document.addEventListener('keydown', (event) => this.onKey(event));
  }

  /** Says what shortcuts do until the calling component is destroyed. To be called in its constructor. */
  on(acts: Acts): void {
    this.open.update((open) => [acts, ...open]);
    inject(DestroyRef).onDestroy(() => this.open.update((open) => open.filter((other) => other !== acts)));
  }

  /** What a shortcut does in the views that are open; undefined when it does nothing there. */
  actOf(id: ShortcutId): Act | undefined {
    return this.open().find((acts) => acts[id] !== undefined)?.[id];
  }

  private onKey(event: KeyboardEvent): void {
    // A dialog, and any element that handled the key itself, go first.
    if (event.defaultPrevented || this.dialog.openDialogs.length > 0) return;
    const typing = isTyping(event);
    if (isForButton(event)) return;
    for (const acts of this.open()) {
      for (const [id, act] of Object.entries(acts) as [ShortcutId, Act][]) {
        const shortcut: Shortcut = SHORTCUTS[id];
        if (typing && shortcut.whileTyping !== true) continue;
        if (!shortcut.keys.some((press) => isPress(press, event))) continue;
        if (act(event) === false) continue;
        event.preventDefault();
        return;
      }
    }
  }
}

/** Space and Enter press the button or link that has the focus. */
const isForButton = ({ target, key }: KeyboardEvent): boolean =>
  (target instanceof HTMLButtonElement || target instanceof HTMLAnchorElement) &&
  (key === ' ' || key === 'Enter');
