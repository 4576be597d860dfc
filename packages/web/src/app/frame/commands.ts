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
    { name: 'Shelf', about: 'view', run: () => this.go(['/']) },
    ...this.ofMoveset(),
    ...this.library
      .courses()
      .map((c) => ({ name: c.name, about: 'course', run: () => this.go(['/course', c.id]) })),
    { name: 'Keys', about: 'what they do, everywhere', keys: '?', run: () => void this.keys.open() },
    { name: 'Other theme', about: 'day or night', run: () => this.themes.toggle() },
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
      { name: 'Model', about: 'view', run: view('model') },
      { name: 'Run', about: 'view', run: view('run') },
      { name: 'Findings', about: 'view', run: view('findings') },
      { name: 'Map of the lane', about: 'Model', run: view('model', { as: 'map' }) },
      { name: 'Values', about: 'dials, controls, timers', run: view('model', { beside: 'values' }) },
      { name: 'Text', about: 'the whole moveset', run: view('model', { beside: 'text' }) },
      { name: 'Take a kit', about: 'ready-made abilities', run: () => void this.kits.open(0) },
      { name: 'Undo', about: workspace.undoName() ?? 'nothing', keys: 'Ctrl Z', run: () => workspace.undo() },
      {
        name: 'Redo',
        about: workspace.redoName() ?? 'nothing',
        keys: 'Ctrl Shift Z',
        run: () => workspace.redo(),
      },
      { name: 'Write a guard', about: 'in a cell of the grid', keys: 'type', run: view('model') },
      { name: 'Remove a crossing', about: 'in a cell of the grid', keys: 'Delete', run: view('model') },
      { name: 'Play or pause', about: 'in Run', keys: 'Space', run: view('run') },
      { name: 'One tick on or back', about: 'in Run', keys: '. and ,', run: view('run') },
      ...machine.states.map((s) => ({
        name: s.name,
        about: `state of ${machine.lanes[s.lane]!.name}`,
        run: view('model', { lane: machine.lanes[s.lane]!.name, state: s.name }),
      })),
      ...workspace
        .tapes()
        .filter((t) => t.moveset === id)
        .map((t) => ({ name: t.tape.name, about: 'tape', run: view('run', { tape: t.tape.id }) })),
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
