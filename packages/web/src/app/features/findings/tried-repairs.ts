import { MatButton } from '@angular/material/button';
import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import type { Finding, Repair } from '@glenmark/core/findings';
import { catchError, distinctUntilChanged, of, startWith, switchMap } from 'rxjs';
import { Workspace } from '../../data/workspace';
import { MarkedText } from '../../shared/ui/marked-text';
import { type Hunk, previewOf } from './preview';

/** The repairs of a finding that were tried and do what they say, with what each changes in the text. */
@Component({
  selector: 'gm-tried-repairs',
  imports: [MatButton, MarkedText],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './tried-repairs.html',
  styleUrl: './tried-repairs.scss',
})
export class TriedRepairs {
  private readonly workspace = inject(Workspace);
  readonly finding = input.required<Finding>();
  /** Why the last repair could not be made; undefined when it was. */
  readonly refused = output<string | undefined>();

  /** Undefined while they are tried. */
  protected readonly repairs = toSignal(
    toObservable(
      computed(() => ({
        finding: this.finding(),
        text: this.workspace.text(),
        tapes: this.workspace.tapes(),
      })),
    ).pipe(
      // Every analysis makes its findings anew.
      distinctUntilChanged(
        (a, b) => a.finding.fingerprint === b.finding.fingerprint && a.text === b.text && a.tapes === b.tapes,
      ),
      switchMap(({ finding }) =>
        this.workspace.triedRepairs(finding).pipe(
          catchError(() => of([])),
          startWith(undefined),
        ),
      ),
    ),
  );
  /** What each repair would do to the text, by its title. */
  protected readonly previews = computed((): Record<string, Hunk[]> => {
    const text = this.workspace.text();
    return Object.fromEntries((this.repairs() ?? []).map((r) => [r.title, previewOf(text, r.changes)]));
  });

  protected repair({ title, changes }: Repair): void {
    const [first] = this.workspace.apply($localize`repair\: ${title}`, changes);
    this.refused.emit(first?.message);
  }
}
