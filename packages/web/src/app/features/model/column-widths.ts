import { inject, Injectable, signal } from '@angular/core';
import { Workspace } from '../../data/workspace';
import { store, stored } from '../../shared/ui/browser-store';

/** The narrowest and the widest that a column can be made (px). */
export const NARROWEST = 52;
export const WIDEST = 420;
/** A step by keyboard (px). */
const STEP = 16;
/** What a letter of a chip takes, and what is around it (px): for a width that a guard fits into on one line. */
const LETTER = 6.1;
const AROUND = 26;

/** The width at which the longest of some guards stands on one line, within the bounds of a column (px). */
export const fittingWidth = (guards: readonly string[]): number =>
  bounded(AROUND + LETTER * Math.max(0, ...guards.map((guard) => guard.length)));

const bounded = (px: number): number => Math.round(Math.min(WIDEST, Math.max(NARROWEST, px)));

/** The widths that somebody gave to columns of the grid, by the name of their state; this browser remembers them. */
@Injectable()
export class ColumnWidths {
  private readonly workspace = inject(Workspace);
  private readonly given = signal<ReadonlyMap<string, number>>(read(this.key()));

  /** The width of a state's column (px); undefined where nobody gave it one. */
  of(state: string): number | undefined {
    return this.given().get(state);
  }

  set(state: string, px: number): void {
    this.given.update((given) => new Map(given).set(state, bounded(px)));
    store(this.key(), JSON.stringify(Object.fromEntries(this.given())));
  }

  /** Wider by some steps, or narrower, from what it is now. */
  widen(state: string, now: number, steps: number): void {
    this.set(state, now + steps * STEP);
  }

  private key(): string {
    return `columns.${this.workspace.id() ?? ''}`;
  }
}

/** The widths that the browser remembers; anything else under that name is ignored. */
function read(key: string): Map<string, number> {
  try {
    const found: unknown = JSON.parse(stored(key) ?? '{}');
    const widths = Object.entries(found ?? {}).filter(
      ([, px]) => typeof px === 'number' && Number.isFinite(px),
    );
    return new Map(widths.map(([state, px]) => [state, bounded(px as number)]));
  } catch {
    return new Map();
  }
}
