import { MatTooltip } from '@angular/material/tooltip';
import { MatButton } from '@angular/material/button';
import { ChangeDetectionStrategy, Component, inject, input, output, signal } from '@angular/core';
import { Workspace } from '../../data/workspace';
import { type ControlRow, type KeyList, keyText } from './controls';

/** A control with its keys: pressed to bind, removed by a click, marked where another control has the same. */
@Component({
  selector: 'gm-control-keys',
  imports: [MatTooltip, MatButton],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p class="head">
      <b class="mono">{{ control().name }}</b> <span class="dim">{{ control().kind }}</span>
      @if (control().pad) {
        <span i18n class="dim mono">pad {{ control().pad }}</span>
      }
      <span class="fill"></span>
      <button
        i18n
        type="button"
        matButton="text"
        class="small"
        (click)="rename.emit()"
        ariaLabel="Rename {{ control().name }}"
        i18n-ariaLabel
      >
        Rename
      </button>
      <button
        type="button"
        matButton="text"
        class="small"
        (click)="remove.emit()"
        ariaLabel="Remove {{ control().name }}"
        i18n-ariaLabel
      >
        ×
      </button>
    </p>
    @for (list of control().lists; track list.label) {
      <p class="keys">
        <span class="mono end">{{ list.label }}</span>
        @for (key of list.keys; track key.code) {
          <button
            type="button"
            class="key mono"
            [class.clash]="key.clash"
            (click)="unbind(list, key.code)"
            ariaLabel="Unbind {{ key.text }} from {{ control().name }}"
            i18n-ariaLabel
            [matTooltip]="key.title"
          >
            {{ key.text }} <i>×</i>
          </button>
        }
        <button
          type="button"
          [matButton]="waiting() === list.label ? 'filled' : 'outlined'"
          class="small"
          (click)="waiting.set(list.label)"
          (blur)="waiting.set(undefined)"
          (keydown)="onKey($event, list)"
          ariaLabel="Bind a key to {{ control().name }} {{ list.label }}"
          i18n-ariaLabel
          i18n
        >
          {waiting() === list.label, select, true {press the key…} other {Bind}}
        </button>
        @for (key of list.keys; track key.code) {
          @if (key.clash) {
            <span i18n class="doubt">{{ key.text }} is also {{ key.clash }}</span>
          }
        }
      </p>
    }
  `,
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
    .key {
      border: 1px solid var(--rule-2);
      border-bottom-width: 2px;
      border-radius: var(--radius);
      background: var(--raised);
      color: var(--ink);
      padding: 1px 6px;
      font-size: 12px;
      cursor: pointer;
    }
    .key i {
      color: var(--ink-3);
      font-style: normal;
    }
    .key.clash {
      border-color: var(--amber);
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
    this.workspace.apply($localize`bind ${keyText(event.code)} to ${this.control().name}`, [
      { path: list.path, value },
    ]);
  }

  protected unbind(list: KeyList, code: string): void {
    const value = list.keys.map((k) => k.code).filter((c) => c !== code);
    this.workspace.apply($localize`unbind ${keyText(code)} from ${this.control().name}`, [
      { path: list.path, value },
    ]);
  }
}
