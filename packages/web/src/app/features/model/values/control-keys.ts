import { MatChipsModule } from '@angular/material/chips';
import { MatIcon } from '@angular/material/icon';
import { MatTooltip } from '@angular/material/tooltip';
import { MatButton, MatIconButton } from '@angular/material/button';
import { ChangeDetectionStrategy, Component, inject, input, output, signal } from '@angular/core';
import { Workspace } from '../../../data/workspace';
import { capOfCode } from '../../../shared/ui/shortcuts/key-press';
import type { ControlRow, KeyList } from './controls';

/** A control with its keys: pressed to bind, removed by a click, marked where another control has the same. */
@Component({
  selector: 'gm-control-keys',
  imports: [MatChipsModule, MatIcon, MatIconButton, MatTooltip, MatButton],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './control-keys.html',
  styles: `
    :host {
      display: grid;
      gap: 2px;
      padding: 3px 0;
    }
    p {
      display: flex;
      gap: 5px;
      align-items: center;
      flex-wrap: wrap;
    }
    .fill {
      flex: 1;
    }
    .end {
      width: 10px;
      color: var(--ink-2);
    }
    mat-chip.clash {
      outline: 1px solid var(--amber);
    }
    .doubt {
      font-size: 12px;
    }
  `,
})
export class ControlKeys {
  private readonly workspace = inject(Workspace);
  readonly control = input.required<ControlRow>();
  readonly rename = output();
  readonly remove = output();
  /** The end that waits for a key. */
  protected readonly waiting = signal<string | undefined>(undefined);

  protected onKey(event: KeyboardEvent, list: KeyList): void {
    if (this.waiting() !== list.label) return;
    event.preventDefault();
    event.stopPropagation();
    this.waiting.set(undefined);
    if (event.key === 'Escape' || list.keys.some((k) => k.code === event.code)) return;
    const value = [...list.keys.map((k) => k.code), event.code];
    this.workspace.apply($localize`bind ${capOfCode(event.code)} to ${this.control().name}`, [
      { path: list.path, value },
    ]);
  }

  protected unbind(list: KeyList, code: string): void {
    const value = list.keys.map((k) => k.code).filter((c) => c !== code);
    this.workspace.apply($localize`unbind ${capOfCode(code)} from ${this.control().name}`, [
      { path: list.path, value },
    ]);
  }
}
