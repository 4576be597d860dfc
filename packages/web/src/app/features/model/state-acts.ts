import { MatButton } from '@angular/material/button';
import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { MatDialog } from '@angular/material/dialog';
import { MatMenuModule } from '@angular/material/menu';
import { rename, type State } from '@glenmark/core/machine';
import { type Diagnostic, errorsOf, movedKey } from '@glenmark/core/model';
import { Workspace } from '../../data/workspace';
import { duplicateState, removeState } from '../../shared/document/edits';
import { NameDialog } from '../../shared/ui/name-dialog';
import { copiedStateText } from './lane-clipboard';
import { Notifications } from '../../shared/ui/notifications';

/** What can be done with a state as a whole. */
@Component({
  selector: 'gm-state-acts',
  imports: [MatButton, MatMenuModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <button i18n type="button" matButton="outlined" class="small" (click)="rename()">Rename</button>
    <button
      type="button"
      matButton="outlined"
      class="small"
      [matMenuTriggerFor]="more"
      aria-label="More for this state"
      i18n-aria-label
    >
      …
    </button>
    <mat-menu #more="matMenu">
      @if (!isGroup()) {
        <button i18n mat-menu-item type="button" (click)="duplicate()">Duplicate</button>
        <button i18n mat-menu-item type="button" (click)="copy()">Copy, for any moveset</button>
      }
      <button i18n mat-menu-item type="button" [disabled]="!canMove().earlier" (click)="move(-1)">
        Earlier in the grid
      </button>
      <button i18n mat-menu-item type="button" [disabled]="!canMove().later" (click)="move(1)">
        Later in the grid
      </button>
      <button i18n mat-menu-item type="button" (click)="remove()">Remove state</button>
    </mat-menu>
  `,
  styles: `
    :host {
      display: flex;
      gap: 6px;
    }
  `,
})
export class StateActs {
  private readonly workspace = inject(Workspace);
  private readonly dialog = inject(MatDialog);
  private readonly notifications = inject(Notifications);
  readonly state = input.required<State>();
  readonly openState = output<string>();

  private readonly machine = computed(() => this.workspace.machine()!);
  protected readonly isGroup = computed(() => this.state().members.length > 0);

  /** Gives the state another name, everywhere it is used. */
  protected rename(): void {
    const from = this.state().name;
    this.askName($localize`Rename ${from}`, $localize`New name`, $localize`Rename`, (to) =>
      this.workspace.replace(
        $localize`rename ${from} to ${to}`,
        rename(this.workspace.text(), this.machine(), 'state', from, to),
      ),
    );
  }

  protected duplicate(): void {
    const { name, index } = this.state();
    this.askName($localize`Duplicate ${name}`, $localize`Name of the copy`, $localize`Duplicate`, (to) =>
      this.workspace.apply(
        $localize`duplicate ${name}`,
        duplicateState(this.machine(), this.workspace.compiled().file!, index, to),
      ),
    );
  }

  /** Asks for a name that is free, does something with it, and opens the state of that name. */
  private askName(title: string, label: string, action: string, act: (name: string) => Diagnostic[]): void {
    const taken = this.machine().states.map((s) => s.name);
    this.dialog
      .open<NameDialog, NameDialog['data'], string>(NameDialog, { data: { title, label, action, taken } })
      .afterClosed()
      .subscribe((name) => {
        if (name === undefined) return;
        if (this.notifications.unlessDone(errorsOf(act(name))[0])) this.openState.emit(name);
      });
  }

  protected copy(): void {
    const text = copiedStateText(this.machine(), this.workspace.compiled().file!, this.state().index);
    if (text === undefined) return;
    navigator.clipboard.writeText(text).then(
      () =>
        this.notifications.say(
          $localize`${this.state().name} is copied, with its ways out. Ctrl V beside a grid puts it there.`,
        ),
      () => this.notifications.say($localize`The browser does not let this page use the clipboard.`),
    );
  }

  /** Which ways it can be moved among its siblings: by the machine, for reading the text at every look is expensive. */
  protected readonly canMove = computed(() => {
    const { states, lanes } = this.machine();
    const { lane, parent, index } = this.state();
    const siblings = lanes[lane]!.states.filter((s) => states[s]!.parent === parent);
    return { earlier: siblings[0] !== index, later: siblings[siblings.length - 1] !== index };
  });

  /** Puts the state before the one before it, or after the one after it, among its siblings. */
  protected move(by: -1 | 1): void {
    const { path, name } = this.state();
    const text = movedKey(this.workspace.text(), path, by);
    const what = by < 0 ? $localize`move ${name} up` : $localize`move ${name} down`;
    if (text !== undefined) this.workspace.replace(what, text);
  }

  protected remove(): void {
    const changes = removeState(this.machine(), this.state().index);
    this.notifications.unlessDone(this.workspace.apply($localize`remove ${this.state().name}`, changes)[0]);
  }
}
