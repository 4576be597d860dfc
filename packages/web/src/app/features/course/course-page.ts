import { MatSelectModule } from '@angular/material/select';
import { MatButton } from '@angular/material/button';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { RouterLink } from '@angular/router';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import type { StoredDocument } from '@glenmark/contract';
import { readMoveset } from '@glenmark/core/machine';
import type { Change } from '@glenmark/core/model';
import { buildWorld } from '@glenmark/core/world';
import { catchError, forkJoin, of, switchMap } from 'rxjs';
import { Api } from '../../data/api';
import { toggled } from '../../shared/ui/toggled';
import { Shortcuts } from '../../shared/ui/shortcuts/shortcuts';
import { isTyping } from '../../shared/ui/typing';
import { DeskNotice } from '../../shared/document/desk-notice';
import { FieldRow } from '../../shared/document/field-row';
import { standAt } from './body-probe';
import { aligned, type Alignment, placedWith, removed } from './align';
import { AlignBar } from './align-bar';
import { CourseCanvas } from './course-canvas';
import { CourseTools } from './course-tools';
import { Workspace } from '../../data/workspace';
import { SAVE_WORDS } from '../../shared/document/save-words';
import { CourseDesk } from './course-desk';
import { PlayFrom } from './play-from';
import { fieldsOf } from './piece-fields';
import { PieceList } from './piece-list';
import { doubled, drawn, mirrored, type Piece, piecesOf, placed, type Point, shifted, WORDS } from './pieces';
import { ARROWS, type Tool, TOOLS } from './tools';
import { Notifications } from '../../shared/ui/notifications';
import { SideWidth } from '../../shared/ui/side-width';

/** A course as a metric sheet: drawn by dragging, with numbers for everything, and a body that can be set down anywhere. */
@Component({
  selector: 'gm-course-page',
  imports: [
    MatSelectModule,
    MatButton,
    AlignBar,
    CourseCanvas,
    CourseTools,
    DeskNotice,
    FieldRow,
    PieceList,
    RouterLink,
    SideWidth,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './course-page.html',
  styleUrl: './course-page.scss',
})
export class CoursePage {
  protected readonly desk = inject(CourseDesk);
  private readonly api = inject(Api);
  private readonly notifications = inject(Notifications);
  readonly id = input.required<string>();

  private readonly canvas = viewChild(CourseCanvas);
  protected readonly saveWords = SAVE_WORDS;
  protected readonly tool = signal<Tool>('choose');
  protected readonly snap = signal(0.25);
  protected readonly chosen = signal<string | undefined>(undefined);
  /** What is chosen beside it. */
  protected readonly beside = signal<ReadonlySet<string>>(new Set());
  protected readonly stoodAt = signal<Point | undefined>(undefined);
  /** The movesets whose bodies can be set down. */
  protected readonly movesets = signal<StoredDocument[]>([]);
  protected readonly moveset = signal(inject(Workspace).id());

  protected readonly pieces = computed((): Piece[] => {
    const { file } = this.desk.compiled();
    return file === undefined ? [] : piecesOf(file);
  });
  protected readonly piece = computed(() => this.pieces().find((p) => p.key === this.chosen()));
  /** All that is chosen, the first one first. */
  private readonly several = computed(() => {
    const [first, beside] = [this.piece(), this.beside()];
    return first === undefined ? [] : [first, ...this.pieces().filter((p) => beside.has(p.key))];
  });
  protected readonly title = computed(() => {
    const piece = this.piece();
    return piece === undefined ? '' : `${WORDS[piece.kind]} ${piece.name}`.trim();
  });
  protected readonly fields = computed(() => {
    const piece = this.piece();
    const { file } = this.desk.compiled();
    return piece === undefined || file === undefined ? [] : fieldsOf(piece, file);
  });
  protected readonly warnings = computed(() => this.desk.compiled().diagnostics);
  /** The moveset whose body is set down: the chosen one, else the first. */
  protected readonly bodyOf = computed(
    () => this.movesets().find((d) => d.id === this.moveset()) ?? this.movesets()[0],
  );
  protected readonly machine = computed(() => {
    const text = this.bodyOf()?.text;
    return text === undefined ? undefined : readMoveset(text).machine;
  });
  /** The course made ready for the body: once, not at every step of a drag. */
  private readonly world = computed(() => {
    const machine = this.machine();
    const { course } = this.desk.compiled();
    return machine === undefined || course === undefined
      ? undefined
      : buildWorld(course, machine.stances, machine.casts);
  });
  protected readonly standing = computed(() => {
    const [machine, world, at] = [this.machine(), this.world(), this.stoodAt()];
    if (machine === undefined || at === undefined || world === undefined) return undefined;
    return standAt(machine, world, at[0], at[1]);
  });

  private readonly playFrom = inject(PlayFrom);

  constructor() {
    const unlessTyping = (act: () => unknown) => (event?: KeyboardEvent) =>
      event === undefined || !isTyping(event) ? act() : false;
    inject(Shortcuts).on({
      undo: unlessTyping(() => this.desk.undo()),
      redo: unlessTyping(() => this.desk.redo()),
      duplicate: () => this.duplicate(),
      mirror: () => this.mirror(),
      removePiece: () => this.remove(),
      chooseTool: () => this.take('choose'),
      nudge: (event) => event !== undefined && this.nudge(event.key),
      tool: (event) => {
        const tool = TOOLS.find((t) => t.key === event?.key);
        return tool !== undefined && this.take(tool.tool);
      },
    });
    effect(() => {
      const id = this.id();
      untracked(() => this.desk.open(id));
    });
    this.api
      .list('moveset')
      .pipe(
        switchMap((list) =>
          list.length === 0 ? of([]) : forkJoin(list.map((d) => this.api.read('moveset', d.id))),
        ),
        // Without them no body is set down; the sheet goes on.
        catchError(() => of([])),
        takeUntilDestroyed(),
      )
      .subscribe((documents) => this.movesets.set(documents));
  }

  protected choose({ key, more }: { key: string | undefined; more: boolean }): void {
    if (!more || key === undefined || this.chosen() === undefined) {
      this.chosen.set(key);
      this.beside.set(new Set());
    } else if (key !== this.chosen()) this.beside.update((keys) => toggled(keys, key));
  }

  protected align(how: Alignment): void {
    this.apply($localize`align`, aligned(this.several(), how));
  }

  protected draw({ from, to }: { from: Point; to: Point }): void {
    const tool = this.tool();
    if (tool === 'choose' || tool === 'body') return;
    const place = tool === 'spawn' || tool === 'anchor';
    if (!place && from[0] === to[0]) return;
    if (!place && tool !== 'oneWay' && from[1] === to[1]) return;
    const { path, changes } = drawn(this.desk.compiled().file!, tool, from, to);
    const { step } = TOOLS.find((t) => t.tool === tool)!;
    if (this.apply(step, changes)) this.choose({ key: path.join('.'), more: false });
    this.tool.set('choose');
  }

  protected place(piece: Piece, points: Point[]): void {
    this.apply($localize`move ${WORDS[piece.kind]}`, placedWith(piece, points, this.several()));
  }

  /** The body goes away when another tool is taken. */
  protected take(tool: Tool): void {
    this.tool.set(tool);
    if (tool !== 'body') this.stoodAt.set(undefined);
  }

  protected spawnHere(): void {
    const at = this.stoodAt();
    if (at !== undefined)
      this.apply($localize`add a spawn`, drawn(this.desk.compiled().file!, 'spawn', at, at).changes);
  }

  /** Makes the place a spawn, if it is none yet, and opens a new tape there in Run. */
  protected playHere(): void {
    const [at, machine] = [this.stoodAt(), this.machine()];
    const moveset = this.bodyOf();
    if (at === undefined || machine === undefined || moveset === undefined) return;
    if (this.playFrom.spawnAt(at) === undefined) this.spawnHere();
    this.playFrom.play(machine, moveset.id, at);
  }

  protected duplicate(): void {
    const piece = this.piece();
    if (piece === undefined) return;
    const { path, changes } = doubled(this.desk.compiled().file!, piece, Math.max(1, this.snap()));
    if (this.apply($localize`duplicate ${WORDS[piece.kind]}`, changes))
      this.choose({ key: path.join('.'), more: false });
  }

  protected mirror(): void {
    const piece = this.piece();
    if (piece !== undefined) this.place(piece, mirrored(piece));
  }

  protected remove(): void {
    const several = this.several();
    const [first] = several;
    if (first === undefined) return;
    const what = several.length > 1 ? $localize`${several.length} things` : WORDS[first.kind];
    if (this.apply($localize`remove ${what}`, removed(several))) this.choose({ key: undefined, more: false });
  }

  protected whole(): void {
    this.canvas()?.whole();
  }

  /** Moves what is chosen by a step of the grid; false when nothing is. */
  private nudge(key: string): boolean {
    const [step, piece] = [ARROWS[key], this.piece()];
    if (step === undefined || piece === undefined) return false;
    const [dx, dy] = [step[0] * this.snap(), step[1] * this.snap()];
    this.apply(
      $localize`move ${WORDS[piece.kind]}`,
      this.several().flatMap((p) => placed(p, shifted(p, dx, dy))),
    );
    return true;
  }

  private apply(name: string, changes: Change[]): boolean {
    return this.notifications.unlessDone(this.desk.apply(name, changes)[0]);
  }
}
