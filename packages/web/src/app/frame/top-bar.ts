import { MatIcon } from '@angular/material/icon';
import { MatIconButton } from '@angular/material/button';
import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { MatDialog } from '@angular/material/dialog';
import { type MatTabNavPanel, MatTabsModule } from '@angular/material/tabs';
import { MatTooltip } from '@angular/material/tooltip';
import { RouterLink, RouterLinkActive } from '@angular/router';
import { ThemeChoice } from '../shared/ui/theme';
import type { Desk } from '../data/desk';
import { TapeDesk } from '../data/tape-desk';
import { Workspace } from '../data/workspace';
import { askedOf } from '../shared/document/asked';
import { Shortcuts } from '../shared/ui/shortcuts/shortcuts';
import { OpenKeys } from './open-keys';
import { SAVE_WORDS } from '../shared/document/save-words';
import { UnsavedList } from './unsaved-list';
import { currentUrl } from './current-url';

const VIEWS = [
  { path: 'model', label: $localize`Model` },
  { path: 'run', label: $localize`Run` },
  { path: 'tune', label: $localize`Tune` },
  { path: 'findings', label: $localize`Findings` },
  { path: 'history', label: $localize`History` },
];

/** The bar on every view: where we are, what the open moveset is called, and the three questions with their counts. */
@Component({
  selector: 'gm-top-bar',
  imports: [MatIcon, MatIconButton, MatTabsModule, RouterLink, RouterLinkActive, MatTooltip, UnsavedList],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './top-bar.html',
  styleUrl: './top-bar.scss',
})
export class TopBar {
  /** What the views are shown in. */
  readonly panel = input.required<MatTabNavPanel>();
  protected readonly workspace = inject(Workspace);
  private readonly tapes = inject(TapeDesk);
  protected readonly themes = inject(ThemeChoice);
  private readonly dialog = inject(MatDialog);
  protected readonly keys = inject(OpenKeys);

  private readonly url = currentUrl();
  protected readonly open = computed(
    () => this.url().startsWith('/moveset/') && this.workspace.id() !== undefined,
  );
  protected readonly views = computed(() =>
    VIEWS.map((view) => ({ ...view, link: ['/moveset', this.workspace.id(), view.path] })),
  );
  /** What is edited in this view: in Run the tape, elsewhere the moveset. */
  protected readonly desk = computed((): Desk =>
    /\/run\b/.test(this.url()) && this.tapes.id() !== undefined ? this.tapes : this.workspace,
  );
  protected readonly saveWord = computed(() => SAVE_WORDS[this.desk().saveState()]);
  protected readonly isUnsaved = computed(() => !['saved', 'saving'].includes(this.desk().saveState()));
  /** The document whose state the bar shows beside its name. */
  protected readonly spokenOf = computed(() =>
    this.open() ? `${this.desk() === this.tapes ? 'tape' : 'moveset'}/${this.desk().id()}` : undefined,
  );
  protected readonly undoTip = computed(() =>
    this.desk().undoName() === undefined
      ? $localize`Nothing to undo`
      : $localize`Undo\: ${this.desk().undoName()} (Ctrl Z)`,
  );
  protected readonly redoTip = computed(() =>
    this.desk().redoName() === undefined
      ? $localize`Nothing to redo`
      : $localize`Redo\: ${this.desk().redoName()} (Ctrl Shift Z)`,
  );
  protected readonly otherTheme = computed(() =>
    this.themes.theme() === 'day' ? $localize`Night` : $localize`Day`,
  );
  protected readonly themeIcon = computed(() => (this.themes.theme() === 'day' ? 'night' : 'day'));
  protected readonly questions = computed(() => askedOf(this.workspace.findings()));

  constructor() {
    inject(Shortcuts).on({
      find: () => void this.find(),
      keys: () => void this.keys.open(),
      undo: (event) => this.step('undo', event),
      redo: (event) => this.step('redo', event),
    });
  }

  /** The finder is loaded when it is first asked for. */
  protected async find(): Promise<void> {
    if (this.dialog.openDialogs.length > 0) return;
    const { CommandFinder } = await import('./command-finder');
    this.dialog.open(CommandFinder, {
      ariaLabel: $localize`Find`,
      width: '640px',
      maxWidth: '94vw',
      position: { top: '80px' },
    });
  }

  /** Undoes or redoes; false where a field or the text editor has steps of its own. */
  /** A clicked tab gives up the focus, so that Space plays in Run; with the keyboard, the focus stays on the tab. */
  protected giveBackKeys({ detail, currentTarget }: MouseEvent): void {
    if (detail > 0 && currentTarget instanceof HTMLElement) currentTarget.blur();
  }

  private step(way: 'undo' | 'redo', event?: KeyboardEvent): boolean {
    if (!this.open() || hasItsOwnSteps(event?.target)) return false;
    this.desk()[way]();
    return true;
  }
}

/** The text editor has an undo of its own, and so has a field that somebody has written in. */
const hasItsOwnSteps = (target: EventTarget | null | undefined): boolean =>
  (target instanceof HTMLElement && target.closest('.cm-editor') !== null) ||
  (target instanceof HTMLInputElement && target.value !== target.defaultValue);
