import { MatInput } from '@angular/material/input';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { type Command, Commands } from './commands';

/** Finds any action and any place by a few letters: type, arrows, Enter. Its list is also the sheet of shortcuts. */
@Component({
  selector: 'gm-command-finder',
  imports: [MatInput, MatDialogModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <input
      #box
      matInput
      cdkFocusInitial
      role="combobox"
      aria-expanded="true"
      aria-controls="commands"
      aria-label="Find an action or a place"
      i18n-aria-label
      placeholder="an action, a state, a tape, a course …"
      i18n-placeholder
      [attr.aria-activedescendant]="'command-' + at()"
      (input)="search(box.value)"
      (keydown)="onKey($event)"
      autocomplete="off"
      spellcheck="false"
    />
    <ul id="commands" role="listbox" aria-label="Actions and places" i18n-aria-label>
      @for (c of found(); track c.name; let i = $index) {
        <li
          role="option"
          [id]="'command-' + i"
          [attr.aria-selected]="i === at()"
          [class.on]="i === at()"
          (click)="run(c)"
          (keydown.enter)="run(c)"
          tabindex="-1"
        >
          <span>{{ c.name }}</span> <span class="dim">{{ c.about }}</span>
          @if (c.keys) {
            <kbd class="mono">{{ c.keys }}</kbd>
          }
        </li>
      } @empty {
        <li i18n class="dim">No matches.</li>
      }
    </ul>
  `,
  styles: `
    :host {
      display: grid;
      grid-template-rows: auto minmax(0, 1fr);
      height: 420px;
      max-height: 70vh;
      padding: 12px;
      gap: 8px;
    }
    ul {
      list-style: none;
      padding: 0;
      overflow: auto;
    }
    li {
      display: grid;
      grid-template-columns: minmax(0, 1fr) auto auto;
      gap: 12px;
      padding: 4px 8px;
      cursor: pointer;
    }
    li.on {
      background: var(--pick);
    }
    kbd {
      font-size: 11px;
      border: 1px solid var(--rule-2);
      padding: 0 5px;
      border-radius: var(--radius);
    }
  `,
})
export class CommandFinder {
  private readonly ref = inject<MatDialogRef<CommandFinder>>(MatDialogRef);
  private readonly commands = inject(Commands);
  private readonly query = signal('');
  protected readonly at = signal(0);
  protected readonly found = computed(() => {
    const words = this.query().toLowerCase().split(/\s+/);
    return this.commands
      .all()
      .filter((c) => words.every((w) => `${c.name} ${c.about}`.toLowerCase().includes(w)))
      .slice(0, 60);
  });

  protected search(text: string): void {
    this.query.set(text);
    this.at.set(0);
  }

  protected onKey(event: KeyboardEvent): void {
    const step = { ArrowDown: 1, ArrowUp: -1 }[event.key] ?? 0;
    if (event.key === 'Enter') {
      event.preventDefault();
      const command = this.found()[this.at()];
      if (command !== undefined) this.run(command);
    } else if (step !== 0) {
      event.preventDefault();
      const count = Math.max(1, this.found().length);
      this.at.update((i) => (i + step + count) % count);
      document.getElementById(`command-${this.at()}`)?.scrollIntoView({ block: 'nearest' });
    }
  }

  protected run(command: Command): void {
    this.ref.close();
    command.run();
  }
}
