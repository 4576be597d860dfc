import { inject, Injectable } from '@angular/core';
import { firstNot } from '@glenmark/core/history';
import { firstValueFrom, map, switchMap } from 'rxjs';
import { Analysis } from '../../data/analysis';
import { Api } from '../../data/api';
import type { TapeEntry } from '../../data/library';

/** Finds the revision that began something, by halving. */
@Injectable({ providedIn: 'root' })
export class SinceWhen {
  private readonly analysis = inject(Analysis);
  private readonly api = inject(Api);

  /**
   * The first of some revisions, oldest first, on which a tape does not meet all that it expects; it does on the first
   * and does not on the last. One that no longer loads does not.
   */
  async firstUnmet(
    moveset: string,
    revisions: readonly number[],
    { tape, course }: TapeEntry,
  ): Promise<number> {
    const isMet = (revision: number): Promise<boolean> =>
      firstValueFrom(
        this.api.readRevision('moveset', moveset, revision).pipe(
          switchMap(({ text }) => this.analysis.meets(text, tape.text, course?.text ?? '')),
          map(Boolean),
        ),
      );
    return revisions[await firstNot(revisions, isMet)]!;
  }
}
