import { computed, inject, type Signal, signal } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import type { LoneState, Response } from '@glenmark/core/run';
import { catchError, EMPTY, map, of, switchMap } from 'rxjs';
import { Analysis } from '../../data/analysis';

/**
 * How the state that is asked for answers its controls. While it is edited, the last answer is shown until the next is
 * there; that of another state never is.
 */
export function shownResponse(asked: Signal<LoneState | undefined>): Signal<Response | undefined> {
  const analysis = inject(Analysis);
  const answer = signal<{ state: string; response: Response | undefined } | undefined>(undefined);
  toObservable(computed(asked, { equal: isSame }))
    .pipe(
      switchMap((alone) =>
        alone === undefined
          ? of(undefined)
          : analysis.response(alone).pipe(
              map((response) => ({ state: alone.state, response })),
              catchError(() => EMPTY),
            ),
      ),
      takeUntilDestroyed(),
    )
    .subscribe((next) => answer.set(next));
  return computed(() => (answer()?.state === asked()?.state ? answer()?.response : undefined));
}

const isSame = (a: LoneState | undefined, b: LoneState | undefined): boolean =>
  a?.state === b?.state && a?.moveset === b?.moveset && a?.isAirborne === b?.isAirborne;
