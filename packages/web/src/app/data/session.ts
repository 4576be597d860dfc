import { DOCUMENT, inject, Injectable, InjectionToken } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { catchError, of } from 'rxjs';
import { Api } from './api';

/** Leaves the application for another page of the server. */
export const LEAVE_FOR = new InjectionToken<(address: string) => void>('leave-for', {
  factory: () => {
    const page = inject(DOCUMENT);
    return (address) => page.defaultView?.location.assign(address);
  },
});

/** The session that this browser has with a server that asks for a token. */
@Injectable({ providedIn: 'root' })
export class Session {
  private readonly api = inject(Api);
  private readonly leaveFor = inject(LEAVE_FOR);
  private readonly told = toSignal(this.api.session().pipe(catchError(() => of({ asksForToken: false }))), {
    initialValue: { asksForToken: false },
  });

  /** Whether there is one that can end. */
  readonly asksForToken = () => this.told().asksForToken;

  /** Ends the session of this browser, or those of all browsers; the sign-in page comes next. */
  signOut({ everywhere }: { everywhere: boolean }, failed: (sentence: string) => void): void {
    this.api.signOut({ everywhere }).subscribe({
      next: () => this.leaveFor('/sign-in'),
      error: ({ problem }: { problem: { detail: string } }) => failed(problem.detail),
    });
  }
}
