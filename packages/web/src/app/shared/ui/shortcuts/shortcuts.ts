import { DestroyRef, inject, Injectable, signal } from '@angular/core';
import { MatDialog } from '@angular/material/dialog';
import { isTyping } from '../typing';
import { isPress } from './key-press';
import { type Place, SHORTCUTS, type Shortcut, type ShortcutId, shortcutsOf } from './shortcut-list';

/** What a shortcut does; false when it does nothing just now, and the key is left to others. */
export type Act = (event?: KeyboardEvent) => unknown;
export type Acts = Partial<Record<ShortcutId, Act>>;

/** Which shortcut of a place an event is; for what has the keyboard in itself, as a cell or a bar. */
export const shortcutOf = (event: KeyboardEvent, where: Place): ShortcutId | undefined =>
  shortcutsOf(where).find(([, { keys }]) => keys.some((press) => isPress(press, event)))?.[0];

/**
 * The one place where keys of the page are listened to. A view says what its shortcuts do for as long as it is open; the
 * latest that says so goes first.
 */
@Injectable({ providedIn: 'root' })
export class Shortcuts {
  private readonly dialog = inject(MatDialog);
  private readonly open = signal<readonly Acts[]>([]);

  constructor() {
    document.addEventListener('keydown', (event) => this.onKey(event));
  }

  /** Says what shortcuts do until the caller, a component or directive, is destroyed. To be called while it is made. */
  on(acts: Acts): void {
    this.open.update((open) => [acts, ...open]);
    inject(DestroyRef).onDestroy(() => this.open.update((open) => open.filter((other) => other !== acts)));
  }

  /** What a shortcut does in the views that are open; undefined when it does nothing there. */
  actOf(id: ShortcutId): Act | undefined {
    return this.open().find((acts) => acts[id] !== undefined)?.[id];
  }

  private onKey(event: KeyboardEvent): void {
    // What is open over the page has the keys; and whoever has the keyboard in it goes first.
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

/** A button that has the keyboard is pressed by these. */
const isForButton = ({ target, key }: KeyboardEvent): boolean =>
  (target instanceof HTMLButtonElement || target instanceof HTMLAnchorElement) &&
  (key === ' ' || key === 'Enter');
