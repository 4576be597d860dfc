import { MatInput } from '@angular/material/input';
import { MatButton } from '@angular/material/button';
import { DatePipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { MatMenuModule } from '@angular/material/menu';
import { MatTooltip } from '@angular/material/tooltip';
import { Router, RouterLink } from '@angular/router';
import type { StoredDocument, Summary } from '@glenmark/contract';
import { edit, type Kind } from '@glenmark/core/model';
import {
  catchError,
  debounceTime,
  forkJoin,
  merge,
  type Observable,
  of,
  startWith,
  Subject,
  switchMap,
  tap,
} from 'rxjs';
import { Changes } from '../../data/changes';
import { Api, type ApiError } from '../../data/api';
import { Walk } from '../../shared/document/walk';
import { TapeShelf } from '../../data/tape-shelf';
import { Counts } from './counts';
import { EMPTY_MOVESET } from './empty-moveset';
import { type ImportedFile, Importing } from './importing';
import { itemOf } from './items';
import { Picture } from './picture';
import { SignOut } from './sign-out';
import { Notifications } from '../../shared/ui/notifications';

const SECTIONS: { kind: Kind; title: string }[] = [
  { kind: 'moveset', title: $localize`Movesets` },
  { kind: 'course', title: $localize`Courses` },
  { kind: 'tape', title: $localize`Tapes` },
];

/** Changes that come so close together (ms) are shown at once. */
const GATHERED = 200;

/** The list of movesets, courses and tapes. */
@Component({
  selector: 'gm-shelf',
  imports: [MatInput, MatButton, DatePipe, MatMenuModule, MatTooltip, RouterLink, Picture, SignOut],
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { '(dragover)': '$event.preventDefault()', '(drop)': 'onDrop($event)' },
  templateUrl: './shelf.html',
  styleUrl: './shelf.scss',
})
export class Shelf {
  protected readonly api = inject(Api);
  protected readonly walk = inject(Walk);
  private readonly router = inject(Router);
  private readonly notifications = inject(Notifications);
  private readonly counts = inject(Counts);
  private readonly importing = inject(Importing);
  private readonly tapeShelf = inject(TapeShelf);
  private readonly reload = new Subject<void>();

  private readonly documents = signal<StoredDocument[]>([]);
  protected readonly loaded = signal(false);
  protected readonly problem = signal<string | undefined>(undefined);
  protected readonly query = signal('');
  protected readonly refusals = signal<ImportedFile[]>([]);
  /** Charts of which something did not come over. */
  protected readonly losses = signal<ImportedFile[]>([]);
  /** Backups, with what became of what is in them. */
  protected readonly backups = signal<ImportedFile[]>([]);
  private readonly items = computed(() => this.documents().map(itemOf));
  protected readonly sections = computed(() => {
    const sought = this.query().toLowerCase();
    return SECTIONS.map((section) => ({
      ...section,
      items: this.items()
        .filter(({ document: d }) => d.kind === section.kind && d.name.toLowerCase().includes(sought))
        .map((item) => ({ ...item, counts: this.counts.of(item.document) })),
    }));
  });

  constructor() {
    merge(this.reload, inject(Changes).heard.pipe(debounceTime(GATHERED)))
      .pipe(
        startWith(undefined),
        switchMap(() =>
          forkJoin(
            SECTIONS.map(({ kind }) =>
              this.api
                .list(kind)
                .pipe(
                  switchMap((list) =>
                    list.length === 0 ? of([]) : forkJoin(list.map((d) => this.documentOf(d))),
                  ),
                ),
            ),
          ).pipe(
            catchError((error: ApiError) => {
              this.problem.set(error.problem.detail);
              return of([]);
            }),
          ),
        ),
        tap((lists) => {
          this.documents.set(lists.flat());
          this.loaded.set(true);
        }),
        switchMap((lists) => this.counts.count(lists.flat())),
        takeUntilDestroyed(),
      )
      .subscribe();
  }

  /** A document that is listed; read only when it is not the one that is shown. */
  private documentOf({ kind, id, revision, updatedAt }: Summary): Observable<StoredDocument> {
    const shown = this.documents().find(
      (d) => d.kind === kind && d.id === id && d.revision === revision && d.updatedAt === updatedAt,
    );
    return shown === undefined ? this.api.read(kind, id) : of(shown);
  }

  protected create(): void {
    this.api.create('moveset', { text: EMPTY_MOVESET, message: $localize`New` }).subscribe({
      next: ({ id }) => void this.router.navigate(['/moveset', id, 'model']),
      error: (error: ApiError) => this.notifications.say(error.problem.detail),
    });
  }

  /** The same text once more, under a name of its own. */
  protected duplicate(document: StoredDocument): void {
    const name = $localize`${document.name} copy`;
    const text = edit(document.text, [{ path: ['name'], value: name }]);
    this.api.create(document.kind, { text, message: $localize`Copied from ${document.name}` }).subscribe({
      next: () => {
        this.reload.next();
        this.notifications.say($localize`“${name}” is on the shelf.`);
      },
      error: (error: ApiError) => this.notifications.say(error.problem.detail),
    });
  }

  /** Every document as a file, in one zip. */
  protected restoreSamples(): void {
    this.api.restoreSamples().subscribe({
      next: ({ restored, changed }) => {
        this.reload.next();
        const back =
          restored.length === 0
            ? $localize`No samples were missing`
            : $localize`Restored: ${restored.join(', ')}`;
        const kept = changed.length === 0 ? '' : $localize` Left as you changed them: ${changed.join(', ')}.`;
        this.notifications.say(`${back}.${kept}`);
      },
      error: (error: ApiError) => this.notifications.say(error.problem.detail),
    });
  }

  protected remove(document: StoredDocument): void {
    this.api.remove(document).subscribe({
      next: () => {
        this.reload.next();
        this.notifications
          .offerUndo($localize`“${document.name}” was deleted.`)
          .pipe(
            switchMap(() =>
              this.api.create(document.kind, { text: document.text, message: $localize`Restored` }),
            ),
          )
          .subscribe({
            next: () => this.reload.next(),
            error: (error: ApiError) => this.notifications.say(error.problem.detail),
          });
      },
      error: (error: ApiError) => this.notifications.say(error.problem.detail),
    });
  }

  protected onDrop(event: DragEvent): void {
    event.preventDefault();
    this.importFiles([...(event.dataTransfer?.files ?? [])]);
  }

  protected onPick(event: Event): void {
    const input = event.target as HTMLInputElement;
    this.importFiles([...(input.files ?? [])]);
    input.value = '';
  }

  private importFiles(files: File[]): void {
    this.importing.all(files).subscribe((results) => {
      const refused = results.filter((r) => r.refused.length > 0);
      this.refusals.set(refused);
      this.losses.set(results.filter((r) => r.lost.length > 0));
      this.backups.set(results.filter((r) => r.backup.length > 0));
      this.reload.next();
      // What became of a backup is told by itself.
      const count = files.length - refused.length - this.backups().length;
      if (count > 0) this.notifications.say($localize`${count} imported.`);
      // Whoever opened a moveset in the meantime has its tapes now.
      this.tapeShelf.readAgain().subscribe({ error: () => undefined });
    });
  }
}
