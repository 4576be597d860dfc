import { Clipboard } from '@angular/cdk/clipboard';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { MatButton } from '@angular/material/button';
import { MatDialogModule } from '@angular/material/dialog';
import { MatSelectModule } from '@angular/material/select';
import { catchError, map, type Observable, of, startWith, switchMap } from 'rxjs';
import { Analysis } from '../../../data/analysis';
import type { Exported, ExportedFile, ExportForm } from '../../../data/exported';
import { Workspace } from '../../../data/workspace';
import { Notifications } from '../../../shared/ui/notifications';
import { saveFile } from '../../../shared/ui/save-file';

const FORMS: readonly { value: ExportForm; name: string; about: string }[] = [
  {
    value: 'cpp',
    name: 'C++',
    about: $localize`C++17, one header: the decisions, clocks, effects and velocities of a tick.`,
  },
  {
    value: 'csharp',
    name: 'C#',
    about: $localize`C# 8 or earlier, one file: the decisions, clocks, effects and velocities of a tick.`,
  },
  {
    value: 'lua',
    name: 'Lua',
    about: $localize`Lua 5.4 or 5.1, one module: the decisions, clocks, effects and velocities of a tick.`,
  },
  {
    value: 'typescript',
    name: 'TypeScript',
    about: $localize`TypeScript 5, one module: the decisions, clocks, effects and velocities of a tick.`,
  },
  {
    value: 'scxml',
    name: $localize`SCXML, a chart`,
    about: $localize`A statechart of the W3C. Imported on the shelf it is this moveset again.`,
  },
  {
    value: 'dot',
    name: $localize`DOT, a graph`,
    about: $localize`States and crossings for programs that draw graphs.`,
  },
  {
    value: 'csv',
    name: $localize`CSV, the grid`,
    about: $localize`From and to with the guards between, for a spreadsheet.`,
  },
];

/** What is shown: `file` is missing while it is made, and when that failed, which `wrong` says. */
interface Shown extends Partial<Exported> {
  wrong: string;
}

const NOTHING: Shown = { wrong: '' };

/** Takes a moveset out: as code for the game, as a graph, as a table; with a preview. */
@Component({
  selector: 'gm-export-dialog',
  imports: [MatButton, MatDialogModule, MatSelectModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './export-dialog.html',
  styleUrl: './export-dialog.scss',
})
export class ExportDialog {
  private readonly workspace = inject(Workspace);
  private readonly analysis = inject(Analysis);
  private readonly clipboard = inject(Clipboard);
  private readonly notifications = inject(Notifications);

  protected readonly forms = FORMS;
  protected readonly form = signal<ExportForm>('cpp');
  protected readonly about = computed(() => FORMS.find(({ value }) => value === this.form())?.about ?? '');
  protected readonly shown = toSignal(
    toObservable(computed(() => ({ moveset: this.workspace.text(), form: this.form() }))).pipe(
      switchMap(({ moveset, form }) => this.made(moveset, form)),
    ),
    { initialValue: NOTHING },
  );
  protected readonly lines = computed(() => this.shown().file?.text.trimEnd().split('\n').length ?? 0);

  protected copy(file: ExportedFile): void {
    const copied = this.clipboard.copy(file.text);
    this.notifications.say(
      copied ? $localize`${file.name} copied.` : $localize`The browser did not copy it.`,
    );
  }

  protected save(file: ExportedFile): void {
    saveFile(file.name, new Blob([file.text], { type: 'text/plain' }));
  }

  private made(moveset: string, form: ExportForm): Observable<Shown> {
    return this.analysis.exported(moveset, form).pipe(
      map((exported): Shown => ({
        ...exported,
        wrong: exported === undefined ? $localize`The moveset does not load.` : '',
      })),
      catchError((error: Error) => of<Shown>({ wrong: $localize`It could not be made\: ${error.message}` })),
      startWith(NOTHING),
    );
  }
}
