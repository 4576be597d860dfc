import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { MatTableModule } from '@angular/material/table';
import { MatTooltip } from '@angular/material/tooltip';
import { RouterLink } from '@angular/router';
import { catchError, debounceTime, map, of, switchMap, tap } from 'rxjs';
import { Analysis } from '../../data/analysis';
import type { WallTape } from '../../data/wall';
import { Workspace } from '../../data/workspace';
import { wallRows } from './wall-rows';

/** The tick rates that engines use; the moveset's own is added. */
const RATES = [30, 50, 60, 120, 144];

/** The wall of expectations: all of all tapes, at the moveset's own tick rate and at others, kept up to date. */
@Component({
  selector: 'gm-wall',
  imports: [MatTableModule, MatTooltip, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './wall.html',
  styleUrl: './wall.scss',
})
export class Wall {
  protected readonly workspace = inject(Workspace);
  private readonly analysis = inject(Analysis);

  private readonly tapes = computed(() =>
    this.workspace.tapes().filter((t) => t.moveset === this.workspace.id() && t.course !== undefined),
  );
  private readonly own = computed(() => this.workspace.machine()?.nominalRate ?? 60);
  private readonly rates = computed(() => [...new Set([...RATES, this.own()])].sort((a, b) => a - b));
  private readonly answer = signal<{ rates: readonly number[]; wall: WallTape[] } | undefined>(undefined);
  protected readonly waiting = signal(true);
  protected readonly failed = signal('');

  protected readonly heads = computed(() =>
    (this.answer()?.rates ?? []).map((rate, i) => ({
      column: `rate-${i}`,
      rate,
      isOwn: rate === this.own(),
      cell: i,
    })),
  );
  protected readonly columns = computed(() => ['tape', 'text', ...this.heads().map((h) => h.column)]);
  protected readonly rows = computed(() => {
    const answer = this.answer();
    return answer === undefined ? [] : wallRows(this.tapes(), answer.wall, answer.rates);
  });
  protected readonly missed = computed(
    () => this.rows().filter((row) => row.cells.some((cell) => cell.isMissed)).length,
  );

  constructor() {
    toObservable(
      computed(() => ({
        moveset: this.workspace.text(),
        tapes: this.tapes().map(({ tape, course }) => ({ tape: tape.text, course: course!.text })),
        rates: this.rates(),
      })),
    )
      .pipe(
        tap(() => this.waiting.set(true)),
        debounceTime(100),
        switchMap((asked) => {
          this.failed.set('');
          if (asked.moveset === '') return of(undefined);
          return this.analysis.wall(asked).pipe(
            map((wall) => ({ rates: asked.rates, wall })),
            catchError((error: Error) => {
              this.failed.set(error.message);
              return of(undefined);
            }),
          );
        }),
        takeUntilDestroyed(),
      )
      .subscribe((answer) => {
        this.waiting.set(false);
        this.answer.set(answer);
      });
  }
}
