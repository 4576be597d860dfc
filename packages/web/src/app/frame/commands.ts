import { computed, inject, Injectable } from '@angular/core';
import { Router } from '@angular/router';
import { Library } from '../data/library';
import { Workspace } from '../data/workspace';
import { OpenKits } from '../model/kits/open-kits';
import { OpenKeys } from './open-keys';
import { ThemeChoice } from '../ui/theme';

/** Something that can be done or gone to, by its name. */
export interface Command {
  name: string;
  about: string;
  keys?: string;
  run: () => void;
}

/** Every action that does not need a place first, and every place there is. */
@Injectable({ providedIn: 'root' })
export class Commands {
  private readonly workspace = inject(Workspace);
  private readonly library = inject(Library);
  private readonly router = inject(Router);
  private readonly themes = inject(ThemeChoice);
  private readonly kits = inject(OpenKits);
  private readonly keys = inject(OpenKeys);

  readonly all = computed((): Command[] => [
    { name: $localize`Shelf`, about: $localize`view`, run: () => this.go(['/']) },
    ...this.ofMoveset(),
    ...this.library
      .courses()
      .map((c) => ({ name: c.name, about: $localize`course`, run: () => this.go(['/course', c.id]) })),
    {
      name: $localize`Keys`,
      about: $localize`what they do, everywhere`,
      keys: '?',
      run: () => void this.keys.open(),
    },
    { name: $localize`Other theme`, about: $localize`day or night`, run: () => this.themes.toggle() },
  ]);

  private ofMoveset(): Command[] {
    const { workspace } = this;
    const [id, machine] = [workspace.id(), workspace.machine()];
    if (id === undefined || machine === undefined) return [];
    const view =
      (path: string, query: Record<string, unknown> = {}) =>
      (): void =>
        this.go(['/moveset', id, path], query);
    return [
      { name: $localize`Model`, about: $localize`view`, run: view('model') },
      { name: $localize`Run`, about: $localize`view`, run: view('run') },
      { name: $localize`Findings`, about: $localize`view`, run: view('findings') },
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
      {
        name: $localize`Undo`,
        about: workspace.undoName() ?? $localize`nothing`,
        keys: 'Ctrl Z',
        run: () => workspace.undo(),
      },
      {
        name: $localize`Redo`,
        about: workspace.redoName() ?? $localize`nothing`,
        keys: 'Ctrl Shift Z',
        run: () => workspace.redo(),
      },
      {
        name: $localize`Write a guard`,
        about: $localize`in a cell of the grid`,
        keys: $localize`type`,
        run: view('model'),
      },
      {
        name: $localize`Remove a crossing`,
        about: $localize`in a cell of the grid`,
        keys: $localize`Delete`,
        run: view('model'),
      },
      { name: $localize`Play or pause`, about: $localize`in Run`, keys: $localize`Space`, run: view('run') },
      {
        name: $localize`Step one tick forward or back`,
        about: $localize`in Run`,
        keys: $localize`. and ,`,
        run: view('run'),
      },
      ...machine.states.map((s) => ({
        name: s.name,
        about: $localize`state of ${machine.lanes[s.lane]!.name}`,
        run: view('model', { lane: machine.lanes[s.lane]!.name, state: s.name }),
      })),
      ...workspace
        .tapes()
        .filter((t) => t.moveset === id)
        .map((t) => ({ name: t.tape.name, about: $localize`tape`, run: view('run', { tape: t.tape.id }) })),
      ...workspace.findings().map((f) => ({
        name: f.sentence,
        about: `${f.code}, ${f.certainty}`,
        run: view('findings', { open: f.fingerprint }),
      })),
    ];
  }

  private go(path: unknown[], queryParams: Record<string, unknown> = {}): void {
    void this.router.navigate(path, { queryParams });
  }
}
