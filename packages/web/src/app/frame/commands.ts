import { computed, inject, Injectable } from '@angular/core';
import { Router } from '@angular/router';
import type { Machine } from '@glenmark/core/machine';
import { Library } from '../data/library';
import { Workspace } from '../data/workspace';
import { OpenKits } from '../features/model/kits/open-kits';
import { capsOf } from '../shared/ui/shortcuts/key-press';
import {
  type Place,
  PLACES,
  SHORTCUTS,
  type Shortcut,
  type ShortcutId,
} from '../shared/ui/shortcuts/shortcut-list';
import { Shortcuts } from '../shared/ui/shortcuts/shortcuts';
import { Walk } from '../shared/document/walk';
import { ThemeChoice } from '../shared/ui/theme';
import { OpenKeys } from './open-keys';

/** Something that can be done or gone to, by its name. */
export interface Command {
  name: string;
  about: string;
  /** The keys that do it, as they stand on the keyboard. */
  caps?: readonly string[];
  run: () => void;
}

/** The view that a shortcut works in, for whoever finds it elsewhere. */
const VIEW_OF: Partial<Record<Place, string>> = { grid: 'model', run: 'run' };

/** Every action that does not need a place first, and every place there is. */
@Injectable({ providedIn: 'root' })
export class Commands {
  private readonly workspace = inject(Workspace);
  private readonly library = inject(Library);
  private readonly router = inject(Router);
  private readonly themes = inject(ThemeChoice);
  private readonly kits = inject(OpenKits);
  private readonly keys = inject(OpenKeys);
  private readonly shortcuts = inject(Shortcuts);
  private readonly walk = inject(Walk);

  readonly all = computed((): Command[] => {
    const { workspace } = this;
    const [id, machine] = [workspace.id(), workspace.machine()];
    return [
      { name: $localize`Shelf`, about: $localize`view`, run: () => this.go(['/']) },
      ...(id === undefined || machine === undefined ? [] : this.viewsOf(id)),
      ...this.ofShortcuts(),
      ...(id === undefined || machine === undefined ? [] : this.placesIn(id, machine)),
      ...this.library
        .courses()
        .map((c) => ({ name: c.name, about: $localize`course`, run: () => this.go(['/course', c.id]) })),
      { name: $localize`First walk`, about: $localize`six short steps`, run: () => this.takeWalk() },
      { name: $localize`Other theme`, about: $localize`day or night`, run: () => this.themes.toggle() },
    ];
  });

  private viewsOf(id: string): Command[] {
    const view = (path: string, query = {}) => this.viewOf(id, path, query);
    return [
      { name: $localize`Model`, about: $localize`view`, run: view('model') },
      { name: $localize`Run`, about: $localize`view`, run: view('run') },
      { name: $localize`Tune`, about: $localize`view`, run: view('tune') },
      { name: $localize`Reach`, about: $localize`view`, run: view('reach') },
      { name: $localize`Findings`, about: $localize`view`, run: view('findings') },
      { name: $localize`History`, about: $localize`view`, run: view('history') },
      {
        name: $localize`Expectations`,
        about: $localize`all tapes, all tick rates`,
        run: view('expectations'),
      },
      { name: $localize`Map of the lane`, about: $localize`Model`, run: view('model', { as: 'map' }) },
      {
        name: $localize`Values`,
        about: $localize`dials, controls, timers`,
        run: view('model', { beside: 'values' }),
      },
      { name: $localize`Text`, about: $localize`the whole moveset`, run: view('model', { beside: 'text' }) },
      {
        name: $localize`Add a kit`,
        about: $localize`ready-made abilities`,
        run: () => void this.kits.open(0),
      },
    ];
  }

  /** Everything with a shortcut. Chosen, it is done at once if its view is open; otherwise that view is opened. */
  private ofShortcuts(): Command[] {
    const about: Partial<Record<ShortcutId, string>> = {
      undo: this.workspace.undoName() ?? $localize`nothing`,
      redo: this.workspace.redoName() ?? $localize`nothing`,
    };
    return (Object.entries(SHORTCUTS) as [ShortcutId, Shortcut][]).flatMap(([id, { name, where, keys }]) => {
      const act = this.shortcuts.actOf(id);
      const view = VIEW_OF[where];
      const moveset = this.workspace.id();
      const run =
        id === 'keys'
          ? () => void this.keys.open()
          : act !== undefined
            ? () => void act()
            : view !== undefined && moveset !== undefined
              ? this.viewOf(moveset, view)
              : undefined;
      if (name === undefined || run === undefined) return [];
      return [{ name, about: about[id] ?? PLACES[where], caps: capsOf(keys[0]!), run }];
    });
  }

  private placesIn(id: string, machine: Machine): Command[] {
    const view = (path: string, query = {}) => this.viewOf(id, path, query);
    const laneOf = (lane: number): string => machine.lanes[lane]!.name;
    return [
      ...machine.states.map((s) => ({
        name: s.name,
        about: $localize`state of ${laneOf(s.lane)}`,
        run: view('model', { lane: laneOf(s.lane), state: s.name }),
      })),
      ...this.workspace
        .tapes()
        .filter((t) => t.moveset === id)
        .map((t) => ({ name: t.tape.name, about: $localize`tape`, run: view('run', { tape: t.tape.id }) })),
      ...this.workspace.findings().map((f) => ({
        name: f.sentence,
        about: `${f.code}, ${f.certainty}`,
        run: view('findings', { open: f.fingerprint }),
      })),
    ];
  }

  private takeWalk(): void {
    this.walk.start();
    this.go(['/']);
  }

  private viewOf(id: string, path: string, query: Record<string, unknown> = {}): () => void {
    return () => this.go(['/moveset', id, path], query);
  }

  private go(path: unknown[], queryParams: Record<string, unknown> = {}): void {
    void this.router.navigate(path, { queryParams });
  }
}
