import { inject, type Signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { NavigationEnd, Router } from '@angular/router';
import { filter, map } from 'rxjs';

/** The address that is shown, as it changes. To be called in a constructor. */
export function currentUrl(): Signal<string> {
  const router = inject(Router);
  const urls = router.events.pipe(
    filter((e) => e instanceof NavigationEnd),
    map((e) => e.urlAfterRedirects),
  );
  return toSignal(urls, { initialValue: router.url });
}
