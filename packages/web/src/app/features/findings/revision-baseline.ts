import { MatSelectModule } from '@angular/material/select';
import { ChangeDetectionStrategy, Component, computed, inject, output, signal } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import type { Finding } from '@glenmark/core/findings';
import { catchError, of, switchMap } from 'rxjs';
import { Analysis } from '../../data/analysis';
import { Api } from '../../data/api';
import { Revisions } from '../../data/revisions';
import { Workspace } from '../../data/workspace';
import { MarkedText } from '../../shared/ui/marked-text';
import { apart } from './apart';

/** What came, went and stayed of the findings since an earlier revision, found again with the tapes of today. */
@Component({
  selector: 'gm-revision-baseline',
  imports: [MatSelectModule, MarkedText],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './revision-baseline.html',
  styles: `
    :host {
      display: grid;
      gap: 4px;
    }
    .labelled {
      display: flex;
      align-items: center;
      gap: 6px;
      color: var(--ink-2);
    }
    mat-form-field {
      width: 260px;
    }
    .gone {
      display: flex;
      gap: 6px;
      font-size: 12px;
    }
    .bad:empty {
      display: none;
    }
  `,
})
export class RevisionBaseline {
  private readonly workspace = inject(Workspace);
  private readonly api = inject(Api);
  private readonly analysis = inject(Analysis);
  /** The fingerprints of the revision that is looked back to; undefined for when it was opened. */
  readonly baseline = output<ReadonlySet<string> | undefined>();

  protected readonly earlier = inject(Revisions).earlier;
  protected readonly chosen = signal<number | undefined>(undefined);
  private readonly found = signal<Finding[] | undefined>(undefined);
  protected readonly waiting = computed(() => this.chosen() !== undefined && this.found() === undefined);
  protected readonly wrong = signal('');
  protected readonly change = computed(() => {
    const before = this.found();
    return before && apart(before, this.workspace.findings());
  });

  constructor() {
    toObservable(this.chosen)
      .pipe(
        switchMap((number) => {
          this.found.set(undefined);
          this.wrong.set('');
          if (number === undefined) return of(undefined);
          return this.api.readRevision('moveset', this.workspace.id()!, number).pipe(
            switchMap(({ text }) => this.analysis.findingsThen(text, this.workspace.playable())),
            catchError(() => {
              this.wrong.set($localize`This revision could not be loaded.`);
              return of(undefined);
            }),
          );
        }),
        takeUntilDestroyed(),
      )
      .subscribe((findings) => {
        this.found.set(findings);
        this.baseline.emit(findings && new Set(findings.map((f) => f.fingerprint)));
      });
  }

  protected choose(value: string): void {
    this.chosen.set(value === '' ? undefined : Number(value));
  }
}
