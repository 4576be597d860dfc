import { MatIcon } from '@angular/material/icon';
import { MatInput } from '@angular/material/input';
import { MatIconButton } from '@angular/material/button';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  signal,
  untracked,
} from '@angular/core';
import type { Change, Path } from '@glenmark/core/model';
import { asSentence } from '../ui/sentence';
import type { Desk } from '../../data/desk';
import { Workspace } from '../../data/workspace';
import { plain, setEffects } from './edits';

/** One field of the sheet: a label, its notation, what it comes to; a wrong text stays here, with what is wrong. */
@Component({
  selector: 'gm-field-row',
  imports: [MatIcon, MatIconButton, MatInput],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './field-row.html',
  styles: `
    :host {
      display: grid;
      grid-template-columns: 84px minmax(0, 1fr) auto 20px;
      gap: 2px 6px;
      align-items: center;
    }
    label {
      font: 500 12px/1.1 var(--label);
      color: var(--ink-2);
    }
    [matInput] {
      padding: 2px 6px;
      font-size: 12px;
      border-color: var(--rule);
      /* A long text is seen whole. */
      field-sizing: content;
      resize: none;
      overflow-wrap: anywhere;
    }
    .hint {
      font-size: 11px;
      color: var(--ink-3);
      text-align: right;
      white-space: nowrap;
    }
    p {
      grid-column: 2 / -1;
      font-size: 12px;
    }
  `,
})
export class FieldRow {
  /** The document that the field belongs to. */
  readonly desk = input<Desk>(inject(Workspace));
  readonly label = input.required<string>();
  readonly value = input.required<string>();
  readonly path = input.required<Path>();
  readonly hint = input('');
  readonly placeholder = input('');
  readonly removable = input(false);
  /** What to remove instead of the field itself, when the field cannot go alone. */
  readonly removes = input<Path | undefined>();
  /** Effects are a list in the file and one line, separated by semicolons, here. */
  readonly effects = input(false);

  protected readonly id = computed(() => `field-${this.path().join('-').replace(/\W+/g, '-')}`);
  protected readonly draft = signal('');
  private readonly changes = computed((): Change[] => {
    const text = this.draft().trim();
    if (this.effects()) return setEffects(this.path(), text);
    return [{ path: this.path(), value: text === '' ? undefined : plain(text) }];
  });
  protected readonly fault = computed(() => {
    if (this.draft().trim() === this.value()) return undefined;
    const wrong = this.desk().faultsAfter(this.changes())[0];
    return wrong && asSentence(wrong.message);
  });

  constructor() {
    effect(() => {
      const value = this.value();
      untracked(() => this.draft.set(value));
    });
  }

  /** What is pasted may have lines; a field has one, however long. */
  protected write(box: HTMLTextAreaElement): void {
    if (/[\r\n]/.test(box.value)) box.value = box.value.replace(/\s*[\r\n]\s*/g, ' ');
    this.draft.set(box.value);
  }

  protected commit(): void {
    if (this.draft().trim() === this.value() || this.fault() !== undefined) return;
    this.desk().apply($localize`change ${this.label()}`, this.changes());
  }

  protected remove(): void {
    this.desk().apply($localize`remove ${this.label()}`, [{ path: this.removes() ?? this.path() }]);
  }
}
