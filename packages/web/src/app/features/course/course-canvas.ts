import {
  ChangeDetectionStrategy,
  Component,
  computed,
  input,
  linkedSignal,
  output,
  signal,
  untracked,
} from '@angular/core';
import { elementSize } from '../../shared/ui/element-size';
import { partPath } from '../../shared/ui/part-path';
import type { Machine } from '@glenmark/core/machine';
import type { Standing } from './body-probe';
import { extentOf, outlineOf, type Piece, placed, type Point, shifted, WORDS } from './pieces';
import type { Tool } from './tools';
import { placeBeside } from '../../shared/ui/labels';

type Drag =
  | { what: 'pan'; x: number; y: number; middle: Point }
  | { what: 'draw'; from: Point; to: Point }
  | { what: 'move'; piece: Piece; from: Point; to: Point }
  | { what: 'corner'; piece: Piece; corner: number; to: Point };

/** The metric sheet on which a course is drawn. Everything snaps to the grid; the wheel zooms, an empty drag pans. */
@Component({
  selector: 'gm-course-canvas',
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './course-canvas.html',
  styleUrl: './course-canvas.scss',
})
export class CourseCanvas {
  readonly pieces = input.required<Piece[]>();
  readonly chosen = input<string | undefined>();
  /** Others that are chosen with it, by key. */
  readonly beside = input<ReadonlySet<string>>(new Set());
  readonly tool = input.required<Tool>();
  readonly snap = input.required<number>();
  readonly machine = input<Machine | undefined>();
  readonly standing = input<Standing | undefined>();

  /** What was chosen; `more` when it is to be added to what is chosen already. */
  readonly choose = output<{ key: string | undefined; more: boolean }>();
  readonly draw = output<{ from: Point; to: Point }>();
  readonly place = output<{ piece: Piece; points: Point[] }>();
  readonly stand = output<Point>();

  protected readonly size = elementSize();
  private readonly middle = signal<Point | undefined>(undefined);
  private readonly zoom = signal<number | undefined>(undefined);
  protected readonly drag = signal<Drag | undefined>(undefined);

  /** What is shown until somebody zooms: all of the course as it was when it was opened, lest drawing moves the sheet. */
  private readonly extent = linkedSignal<boolean, ReturnType<typeof extentOf>>({
    source: () => this.pieces().length > 0,
    // It is asked at every change of the pieces, not only when the source is another.
    computation: (isThere, before) =>
      before?.source === isThere ? before.value : untracked(() => extentOf(this.pieces())),
  });

  protected readonly words = WORDS;

  /** Metres to pixels. */
  private readonly frame = computed(() => {
    const { width, height } = this.size();
    const { minX, maxX, minY, maxY } = this.extent();
    const scale = this.zoom() ?? Math.min(width / (maxX - minX), height / (maxY - minY), 70);
    const [mx, my] = this.middle() ?? [(minX + maxX) / 2, (minY + maxY) / 2];
    return {
      scale,
      middle: [mx, my] as Point,
      x: (m: number) => width / 2 + (m - mx) * scale,
      y: (m: number) => height / 2 - (m - my) * scale,
      toMetres: (px: number, py: number): Point => [
        mx + (px - width / 2) / scale,
        my - (py - height / 2) / scale,
      ],
    };
  });

  protected readonly grid = computed(() => {
    const { x, y, toMetres, scale } = this.frame();
    const { width, height } = this.size();
    const step = [0.5, 1, 5, 10, 50].find((s) => s * scale >= 22) ?? 100;
    const [left, top] = toMetres(0, 0);
    const [right, bottom] = toMetres(width, height);
    const range = (from: number, to: number): number[] =>
      Array.from({ length: Math.ceil((to - from) / step) + 1 }, (_, i) => Math.ceil(from / step + i) * step);
    return {
      columns: range(left, right).map((m) => ({ at: x(m), text: `${+m.toFixed(1)}`, zero: m === 0 })),
      rows: range(bottom, top).map((m) => ({ at: y(m), text: `${+m.toFixed(1)}`, zero: m === 0 })),
    };
  });

  protected readonly shapes = computed(() => {
    const drag = this.drag();
    const shapes = this.pieces().map((piece) => {
      const now = drag !== undefined && 'piece' in drag ? this.during(drag, piece) : piece.points;
      const points = outlineOf({ ...piece, points: now });
      const [x, y] = this.px(points[0]!);
      return {
        ...piece,
        piece,
        x,
        y,
        chosen: piece.key === this.chosen(),
        beside: this.beside().has(piece.key),
        label: piece.name || piece.tag,
        d: `M${points.map((p) => this.px(p).join(' ')).join('L')}${piece.form === 'ends' ? '' : 'Z'}`,
        route:
          piece.route.length === 0
            ? ''
            : `M${piece.route.map(([rx, ry]) => this.px([points[0]![0] + rx, points[0]![1] + ry]).join(' ')).join('L')}`,
        handles: piece.key === this.chosen() && piece.form !== 'at' ? now.map((p) => this.px(p)) : [],
      };
    });
    // What stands close together has its words beside each other, not over each other.
    const worded = shapes.filter((s) => s.form === 'at' || s.kind === 'zone' || s.chosen);
    const words = placeBeside(worded.map(({ key, label, x, y }) => ({ id: key, text: label, x, y })));
    return shapes.map((shape) => ({ ...shape, word: words.get(shape.key) }));
  });
  protected readonly ghost = computed(() => {
    const drag = this.drag();
    if (drag?.what !== 'draw') return undefined;
    const [x1, y1] = this.px(drag.from);
    const [x2, y2] = this.px(drag.to);
    const [w, h] = [Math.abs(drag.to[0] - drag.from[0]), Math.abs(drag.to[1] - drag.from[1])];
    return {
      x: Math.min(x1, x2),
      y: Math.min(y1, y2),
      width: Math.abs(x2 - x1),
      height: Math.abs(y2 - y1),
      text: `${+w.toFixed(2)} × ${+h.toFixed(2)} m`,
    };
  });
  protected readonly body = computed(() => {
    const [standing, machine] = [this.standing(), this.machine()];
    if (standing === undefined || machine === undefined) return undefined;
    const { scale } = this.frame();
    const stance = machine.stances[standing.stance]!;
    const [x, y] = this.px([standing.x, standing.y]);
    return {
      x,
      y,
      fits: standing.stances.some((s) => s.fits),
      d: stance.parts
        .map((p) =>
          partPath(
            { ...p, width: p.width * scale, height: p.height * scale, ox: p.ox * scale, oy: p.oy * scale },
            x,
            y,
          ),
        )
        .join(''),
      contacts: standing.contacts.map((c) => ({ x2: x + c.nx * 26, y2: y - c.ny * 26 })),
      probes: standing.probes.map((p) => ({ ...p, a: this.px([p.x, p.y]), b: this.px([p.x2, p.y2]) })),
    };
  });

  protected down(event: PointerEvent, piece?: Piece, corner?: number): void {
    if (event.button !== 0) return;
    event.stopPropagation();
    (event.currentTarget as Element).closest('svg')!.setPointerCapture(event.pointerId);
    const at = this.snapped(event);
    const tool = this.tool();
    if (tool === 'body') this.stand.emit(at);
    else if (tool !== 'choose') this.drag.set({ what: 'draw', from: at, to: at });
    else if (piece === undefined) {
      this.choose.emit({ key: undefined, more: false });
      this.drag.set({ what: 'pan', x: event.clientX, y: event.clientY, middle: this.frame().middle });
    } else if (corner === undefined) {
      const isOneOfSeveral = this.beside().size > 0 && this.isChosen(piece);
      if (event.shiftKey || !isOneOfSeveral) this.choose.emit({ key: piece.key, more: event.shiftKey });
      if (!event.shiftKey) this.drag.set({ what: 'move', piece, from: at, to: at });
    } else this.drag.set({ what: 'corner', piece, corner, to: at });
  }

  protected move(event: PointerEvent): void {
    const drag = this.drag();
    if (this.tool() === 'body' && event.buttons === 1) this.stand.emit(this.snapped(event));
    if (drag === undefined) return;
    if (drag.what === 'pan') {
      const { scale } = this.frame();
      const [mx, my] = drag.middle;
      this.middle.set([mx - (event.clientX - drag.x) / scale, my + (event.clientY - drag.y) / scale]);
    } else this.drag.set({ ...drag, to: this.snapped(event) });
  }

  protected up(): void {
    const drag = this.drag();
    this.drag.set(undefined);
    if (drag === undefined || drag.what === 'pan') return;
    if (drag.what === 'draw') this.draw.emit({ from: drag.from, to: drag.to });
    else {
      const points = this.moved(drag);
      const same =
        JSON.stringify(placed(drag.piece, points)) === JSON.stringify(placed(drag.piece, drag.piece.points));
      if (!same) this.place.emit({ piece: drag.piece, points });
    }
  }

  protected wheel(event: WheelEvent): void {
    event.preventDefault();
    const box = (event.currentTarget as Element).getBoundingClientRect();
    const { scale, toMetres, middle } = this.frame();
    const at = toMetres(event.clientX - box.left, event.clientY - box.top);
    const next = Math.max(4, Math.min(200, scale * Math.exp(-event.deltaY / 500)));
    const keep = 1 - scale / next;
    this.zoom.set(next);
    this.middle.set([middle[0] + (at[0] - middle[0]) * keep, middle[1] + (at[1] - middle[1]) * keep]);
  }

  /** Shows all of the course again. */
  whole(): void {
    this.extent.set(extentOf(this.pieces()));
    this.zoom.set(undefined);
    this.middle.set(undefined);
  }

  private isChosen(piece: Piece): boolean {
    return piece.key === this.chosen() || this.beside().has(piece.key);
  }

  /** Where a piece is while something is dragged: all that is chosen goes along with one of it. */
  private during(drag: Extract<Drag, { piece: Piece }>, piece: Piece): Point[] {
    if (drag.piece.key === piece.key) return this.moved(drag);
    const isAlong = drag.what === 'move' && this.isChosen(drag.piece) && this.isChosen(piece);
    return isAlong ? shifted(piece, drag.to[0] - drag.from[0], drag.to[1] - drag.from[1]) : piece.points;
  }

  private moved(drag: Extract<Drag, { piece: Piece }>): Point[] {
    if (drag.what === 'corner') return drag.piece.points.map((p, i) => (i === drag.corner ? drag.to : p));
    return shifted(drag.piece, drag.to[0] - drag.from[0], drag.to[1] - drag.from[1]);
  }

  private px([x, y]: Point): Point {
    const { x: toX, y: toY } = this.frame();
    return [+toX(x).toFixed(1), +toY(y).toFixed(1)];
  }

  private snapped(event: PointerEvent): Point {
    const box = (event.currentTarget as Element).closest('svg')!.getBoundingClientRect();
    const snap = this.snap();
    const [x, y] = this.frame().toMetres(event.clientX - box.left, event.clientY - box.top);
    return [Math.round(x / snap) * snap, Math.round(y / snap) * snap];
  }
}
