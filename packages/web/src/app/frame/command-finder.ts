import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatAutocompleteModule } from '@angular/material/autocomplete';
import { MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { MatInput } from '@angular/material/input';
import { type Command, Commands } from './commands';

/** More than these are not looked through; another letter leaves fewer. */
const SHOWN = 60;

/** Finds any action and any place by a few letters: type, arrows, Enter. */
@Component({
  selector: 'gm-command-finder',
  imports: [MatInput, MatDialogModule, MatAutocompleteModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './command-finder.html',
  styleUrl: './command-finder.scss',
})
export class CommandFinder {
  private readonly ref = inject<MatDialogRef<CommandFinder>>(MatDialogRef);
  private readonly commands = inject(Commands);
  protected readonly query = signal('');
  protected readonly found = computed(() => {
    const words = this.query().toLowerCase().split(/\s+/);
    return this.commands
      .all()
      .filter((c) => words.every((w) => `${c.name} ${c.about}`.toLowerCase().includes(w)))
      .slice(0, SHOWN);
  });
  protected readonly nameOf = (command: Command | string | null): string =>
    typeof command === 'string' ? command : (command?.name ?? '');

  protected run(command: Command): void {
    this.ref.close();
    command.run();
  }
}
