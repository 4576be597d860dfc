import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { MatButton } from '@angular/material/button';
import type { ColumnApart } from '@glenmark/core/run';
import { catchError, map, of, switchMap } from 'rxjs';
import { Analysis } from '../../data/analysis';
import type { LogCompared } from '../../data/logged';
import { TapeShelf } from '../../data/tape-shelf';
import { Workspace } from '../../data/workspace';
import { Notifications } from '../../shared/ui/notifications';
import { type LogRow, logRows } from './log-rows';

/** A log of the game beside the model that has the same inputs. */
@Component({
  selector: 'gm-log-panel',
  imports: [MatButton],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './log-panel.html',
  styleUrl: './log-panel.scss',
})
export class LogPanel {
  private readonly workspace = inject(Workspace);
  private readonly analysis = inject(Analysis);
  private readonly shelf = inject(TapeShelf);
  private readonly notifications = inject(Notifications);
  /** The tape and the course of the run that is shown. */
  readonly tape = input.required<string>();
  readonly course = input.required<string>();
  readonly log = input.required<{ name: string; text: string }>();
  readonly goTo = output<number>();
  readonly openTape = output<string>();
  /** The game's run, to be drawn over the one that is shown when that has the same inputs. */
  readonly beside = output<LogCompared['session']>();

  protected readonly compared = signal<LogCompared | undefined>(undefined);
  protected readonly failure = signal('');
  protected readonly rows = computed((): LogRow[] =>
    logRows(this.compared()?.columns ?? ([] as ColumnApart[])),
  );
  protected readonly parts = computed(() => this.compared()?.first);

  constructor() {
    const asked = computed(() => ({
      moveset: this.workspace.text(),
      movesetId: this.workspace.id() ?? '',
      course: this.course(),
      tape: this.tape(),
      log: this.log(),
    }));
    toObservable(asked)
      .pipe(
        switchMap((log) =>
          this.analysis.logged(log).pipe(
            map((compared) => ({ compared, failure: '' })),
            catchError((error: Error) => of({ compared: undefined, failure: error.message })),
          ),
        ),
        takeUntilDestroyed(),
      )
      .subscribe(({ compared, failure }) => {
        this.compared.set(compared);
        this.failure.set(failure);
        this.beside.emit(compared?.isShown === true ? compared.session : undefined);
      });
  }

  /** Puts the inputs of the log on the shelf as a tape, and opens it. */
  protected keep(text: string): void {
    this.shelf.add(text, $localize`From a log of the game`).subscribe({
      next: (id) => this.openTape.emit(id),
      error: (error: Error) =>
        this.notifications.say($localize`The tape could not be saved\: ${error.message}`),
    });
  }
}
