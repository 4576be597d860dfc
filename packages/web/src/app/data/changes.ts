import { Injectable } from '@angular/core';
import type { Kind } from '@glenmark/core/model';
import { Observable, retry, share } from 'rxjs';

/** A document that somebody saved, or removed: then without a revision. `anew`: anything may be other than before. */
export type HeardChange = { kind: Kind; id: string; revision?: number } | 'anew';

/** Under this name one window of a browser listens to the server, and tells the others. */
const NAME = 'glenmark-changes';
/** How long after the server refused to be listened to it is asked again (ms). */
const AGAIN_AFTER = 3000;

/** What anybody saves and removes, as the server tells it. */
@Injectable({ providedIn: 'root' })
export class Changes {
  // Without a secure connection there are no locks; then each window listens for itself.
  readonly heard = ('locks' in navigator ? heardByOne(navigator.locks) : fromServer()).pipe(share());
}

/**
 * A browser keeps six connections to a server that speaks HTTP/1.1, and each window that listened would take one of them. So
 * only the window that has the lock listens. When it goes, another one takes over, and what was said in between is not known.
 */
function heardByOne(locks: LockManager): Observable<HeardChange> {
  return new Observable((observer) => {
    const channel = new BroadcastChannel(NAME);
    channel.onmessage = ({ data }: MessageEvent<HeardChange>) => observer.next(data);
    const left = new AbortController();
    const tell = (change: HeardChange): void => {
      observer.next(change);
      channel.postMessage(change);
    };
    /** Listens until this window is left. */
    const listen = (): Promise<void> =>
      new Promise((done) => {
        const listening = fromServer().subscribe(tell);
        left.signal.addEventListener('abort', () => {
          listening.unsubscribe();
          done();
        });
      });
    const listenInTurn = async (): Promise<void> => {
      const hasListened = await locks.request(NAME, { ifAvailable: true }, async (lock) => {
        if (lock !== null) await listen();
        return lock !== null;
      });
      if (hasListened) return;
      await locks.request(NAME, { signal: left.signal }, async () => {
        tell('anew');
        await listen();
      });
    };
    // It fails when the window is left while it waits.
    void listenInTurn().catch(() => undefined);
    return () => {
      left.abort();
      channel.close();
    };
  });
}

/**
 * What the server says. When a connection breaks, the browser connects again and says what it was told last, so nothing is
 * missed; when the server refuses (it is starting, or asks for the token), the browser gives up, so it is begun anew here.
 */
function fromServer(): Observable<HeardChange> {
  let wasRefused = false;
  return new Observable<HeardChange>((observer) => {
    const source = new EventSource('/api/changes');
    source.onopen = () => {
      if (wasRefused) observer.next('anew');
      wasRefused = false;
    };
    source.onmessage = ({ data }: MessageEvent<string>) => observer.next(JSON.parse(data) as HeardChange);
    source.addEventListener('anew', () => observer.next('anew'));
    source.onerror = () => {
      if (source.readyState !== EventSource.CLOSED) return;
      wasRefused = true;
      observer.error(new Error('refused'));
    };
    return () => source.close();
  }).pipe(retry({ delay: AGAIN_AFTER }));
}
