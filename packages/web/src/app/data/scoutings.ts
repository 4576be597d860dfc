import { HttpClient } from '@angular/common/http';
import { computed, inject, Injectable, signal } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { isUnderWay, type Scouting, type ScoutingRequest } from '@glenmark/contract';
import { catchError, EMPTY, filter, Observable, of, Subject, switchMap, tap } from 'rxjs';
import { toApiError } from './api';
import { Workspace } from './workspace';

/** The scouting of the open moveset: the newest the server has, followed while it runs and found again on return. */
@Injectable({ providedIn: 'root' })
export class Scoutings {
  private readonly http = inject(HttpClient);
  private readonly workspace = inject(Workspace);
  private readonly followed = new Subject<Scouting>();

  readonly current = signal<Scouting | undefined>(undefined);
  readonly problem = signal<string | undefined>(undefined);
  /** False while the connection to a running one is lost; it comes back by itself. */
  readonly connected = signal(true);
  readonly underWay = computed(() => {
    const current = this.current();
    return current !== undefined && isUnderWay(current);
  });

  constructor() {
    toObservable(this.workspace.id)
      .pipe(
        tap(() => this.show(undefined)),
        filter((id) => id !== undefined),
        switchMap((id) =>
          this.http.get<Scouting[]>(`/api/movesets/${id}/scoutings`).pipe(catchError(() => of([]))),
        ),
        takeUntilDestroyed(),
      )
      .subscribe(([newest]) => {
        if (newest !== undefined) this.follow(newest);
      });
    this.followed
      .pipe(
        switchMap((scouting) => (isUnderWay(scouting) ? this.events(scouting.id) : EMPTY)),
        takeUntilDestroyed(),
      )
      .subscribe((state) => this.show(state));
  }

  start(request: ScoutingRequest): void {
    this.ask('/api/scoutings', request);
  }

  stop(): void {
    this.ask(`/api/scoutings/${this.current()!.id}/stop`, {});
  }

  resume(): void {
    this.ask(`/api/scoutings/${this.current()!.id}/resume`, {});
  }

  private ask(path: string, body: object): void {
    this.problem.set(undefined);
    this.http
      .post<Scouting>(path, body)
      .pipe(catchError(toApiError))
      .subscribe({
        next: (scouting) => this.follow(scouting),
        error: (error: Error) => this.problem.set(error.message),
      });
  }

  private follow(scouting: Scouting): void {
    this.show(scouting);
    this.followed.next(scouting);
  }

  private show(scouting: Scouting | undefined): void {
    this.current.set(scouting);
    const has = scouting !== undefined && !isUnderWay(scouting) && scouting.findings.length > 0;
    this.workspace.scouted.set(has ? scouting : undefined);
  }

  /** The states of a scouting as they come; the browser connects again by itself when the server was away. */
  private events(id: string): Observable<Scouting> {
    return new Observable((observer) => {
      const source = new EventSource(`/api/scoutings/${id}/events`);
      source.onopen = () => this.connected.set(true);
      source.onerror = () => this.connected.set(false);
      source.onmessage = ({ data }: MessageEvent<string>) => {
        const state = JSON.parse(data) as Scouting;
        observer.next(state);
        if (!isUnderWay(state)) observer.complete();
      };
      return () => source.close();
    });
  }
}
