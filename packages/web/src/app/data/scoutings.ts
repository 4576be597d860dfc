import { HttpClient, type HttpErrorResponse } from '@angular/common/http';
import { computed, inject, Injectable, signal } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { isUnderWay, type Scouting, type ScoutingRequest } from '@glenmark/contract';
import { catchError, EMPTY, filter, Observable, of, retry, Subject, switchMap, tap, timer } from 'rxjs';
import { toApiError } from './api';
import { IN_PAGE, PageScouting } from './page-scouting';
import { Workspace } from './workspace';

/** How long after its stream was refused a running one is looked for again (ms). */
const RETRY_AFTER = 2000;

/** The scouting of the open moveset: the newest the server has, followed while it runs and found again on return. */
@Injectable({ providedIn: 'root' })
export class Scoutings {
  private readonly http = inject(HttpClient);
  private readonly workspace = inject(Workspace);
  private readonly inPage = inject(PageScouting);
  private readonly followed = new Subject<Scouting | Observable<Scouting>>();

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
        tap(() => {
          this.inPage.drop();
          this.show(undefined);
        }),
        filter((id) => id !== undefined),
        switchMap((id) =>
          this.http
            .get<Scouting[]>(`/api/movesets/${encodeURIComponent(id)}/scoutings`)
            .pipe(catchError(() => of([]))),
        ),
        takeUntilDestroyed(),
      )
      .subscribe(([newest]) => {
        if (newest !== undefined) this.follow(newest);
      });
    this.followed
      .pipe(
        switchMap((scouting) =>
          scouting instanceof Observable ? scouting : isUnderWay(scouting) ? this.events(scouting.id) : EMPTY,
        ),
        takeUntilDestroyed(),
      )
      .subscribe((state) => this.show(state));
  }

  start(request: ScoutingRequest): void {
    this.inPage.drop();
    this.ask('/api/scoutings', request);
  }

  /** A short one in a worker of this page, with the texts as they are. */
  startHere(request: ScoutingRequest, courses: string[]): void {
    this.problem.set(undefined);
    const { situations, seed, grid } = request;
    const search = { moveset: this.workspace.text(), courses, situations, seed };
    const more = grid === undefined ? search : { ...search, grid };
    this.followed.next(this.inPage.begin(request, this.workspace.revision(), more));
  }

  stop(): void {
    if (this.current()!.id === IN_PAGE) this.inPage.stop();
    else this.ask(`/api/scoutings/${encodeURIComponent(this.current()!.id)}/stop`, {});
  }

  /** Goes on with one that was stopped; one that failed begins again. */
  resume(): void {
    if (this.current()!.id === IN_PAGE) this.followed.next(this.inPage.goOn());
    else this.ask(`/api/scoutings/${encodeURIComponent(this.current()!.id)}/resume`, {});
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
    const before = this.current();
    this.current.set(scouting);
    // Findings are looked at as they come: only when there are others than before.
    const isOther =
      before?.id !== scouting?.id ||
      before?.findings.length !== scouting?.findings.length ||
      before?.state !== scouting?.state;
    if (isOther) this.workspace.scouted.set((scouting?.findings.length ?? 0) > 0 ? scouting : undefined);
  }

  /** The states of a scouting as they come; connected again when the server was away, until it says that there is none. */
  private events(id: string): Observable<Scouting> {
    const stream = new Observable<Scouting>((observer) => {
      const source = new EventSource(`/api/scoutings/${encodeURIComponent(id)}/events`);
      source.onopen = () => this.connected.set(true);
      source.onerror = () => {
        this.connected.set(false);
        // Refused, the browser does not connect again by itself.
        if (source.readyState === EventSource.CLOSED)
          observer.error(new Error($localize`The server refused the event stream`));
      };
      source.onmessage = ({ data }: MessageEvent<string>) => {
        const state = JSON.parse(data) as Scouting;
        observer.next(state);
        if (!isUnderWay(state)) observer.complete();
      };
      return () => source.close();
    });
    return stream.pipe(
      retry({
        delay: () =>
          timer(RETRY_AFTER).pipe(
            switchMap(() => this.http.get<Scouting>(`/api/scoutings/${encodeURIComponent(id)}`)),
            catchError((error: HttpErrorResponse) => (error.status === 404 ? EMPTY : of(undefined))),
          ),
      }),
    );
  }
}
