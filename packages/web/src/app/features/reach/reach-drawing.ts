import {
  ChangeDetectionStrategy,
  Component,
  computed,
  ElementRef,
  inject,
  input,
  output,
  signal,
} from '@angular/core';
import { CELL, type Raster } from '@glenmark/core/reach';
import type { Box } from '@glenmark/core/scout';
import type { Course } from '@glenmark/core/world';
import { frameOf } from '../../shared/document/course-frame';
import { CourseGround } from '../../shared/document/course-ground';
import { elementSize } from '../../shared/ui/element-size';
import { ThemeChoice } from '../../shared/ui/theme';
import type { Contour } from './contours';
import { type Painted, pixelsOf } from './raster-picture';

/** Pixels for a metre at which a cell can be pointed at, and at most; and what a scrollbar takes. */
const READABLE = 20;
const LARGEST = 60;
const SCROLLBAR = 16;

/** A pull of fewer pixels than this is a click. */
const CLICK = 5;

/** The whole course with the cells that were reached; a click picks a place, a pull draws a goal. */
@Component({
  selector: 'gm-reach-drawing',
  imports: [CourseGround],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './reach-drawing.html',
  styleUrl: './reach-drawing.scss',
  host: { tabindex: '0', role: 'application', '[attr.aria-label]': 'label', '(keydown)': 'onKey($event)' },
})
export class ReachDrawing {
  private readonly own = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
  private readonly themes = inject(ThemeChoice);
  readonly course = input.required<Course>();
  readonly raster = input<Raster | undefined>();
  /** The colour of a cell, given those of the theme by the names of their tokens. */
  readonly paint = input.required<(colour: (token: string) => string) => (cell: number) => Painted>();
  readonly goal = input<Box | undefined>();
  /** Lines of equal time, and where a body does not get out again. */
  readonly contours = input<readonly Contour[]>([]);
  readonly pits = input<readonly (readonly Box[])[]>([]);
  readonly picked = input<{ x: number; y: number } | undefined>();
  /** A place that was clicked, and a goal that was drawn (m). */
  readonly pick = output<{ x: number; y: number }>();
  readonly draw = output<Box>();

  protected readonly label = $localize`Course: arrow keys move over places, with Shift by a metre`;
  protected readonly size = elementSize();
  private readonly extent = computed(() => {
    const { minX, maxX, minY, maxY } = this.course().bounds;
    return { minX: minX - 1, maxX: maxX + 1, minY: minY - 1, maxY: maxY + 4 };
  });
  /** A long course is wider than its view, which scrolls: else nobody could point at a cell. */
  protected readonly box = computed(() => {
    const { width, height } = this.size();
    const { minX, maxX, minY, maxY } = this.extent();
    const scale = Math.min(
      LARGEST,
      Math.max(width / (maxX - minX), Math.min(READABLE, height / (maxY - minY))),
    );
    return { scale, width: Math.max(width, (maxX - minX) * scale), height: Math.max(0, height - SCROLLBAR) };
  });
  protected readonly frame = computed(() => frameOf(this.extent(), this.box(), this.box().scale));
  protected readonly spawns = computed(() => {
    const { x, y } = this.frame();
    return this.course().spawns.map((s) => ({ name: s.name, x: x(s.x), y: y(s.y) }));
  });
  protected readonly picture = computed(() => {
    const raster = this.raster();
    this.themes.theme();
    if (raster === undefined) return undefined;
    const { columns, rows, left, bottom } = raster;
    const styles = getComputedStyle(this.own);
    const colour = (token: string): string => styles.getPropertyValue(`--${token}`).trim();
    const canvas = Object.assign(document.createElement('canvas'), { width: columns, height: rows });
    const image = new ImageData(pixelsOf(raster, this.paint()(colour)), columns, rows);
    canvas.getContext('2d')!.putImageData(image, 0, 0);
    const { x, y, scale } = this.frame();
    return {
      href: canvas.toDataURL(),
      x: x(left),
      y: y(bottom + rows * CELL),
      width: columns * CELL * scale,
      height: rows * CELL * scale,
    };
  });

  protected readonly lines = computed(() => {
    const { x, y } = this.frame();
    return this.contours().map(({ seconds, pieces }) => ({
      label: `${seconds} s`,
      path: pieces.map(({ from, to }) => `M${x(from[0])} ${y(from[1])}L${x(to[0])} ${y(to[1])}`).join(''),
    }));
  });
  protected readonly pitBoxes = computed(() =>
    this.pits().flatMap((squares, pit) =>
      squares.map((box) => ({ ...this.pixelsOf(box), label: $localize`Pit ${pit + 1}` })),
    ),
  );

  /** Where a pull began, and is now, in metres. */
  private readonly pulled = signal<{ from: Point; to: Point; pixels: number } | undefined>(undefined);
  protected readonly goalBox = computed(() => {
    const pulled = this.pulled();
    const box = pulled !== undefined && pulled.pixels >= CLICK ? boxOf(pulled.from, pulled.to) : this.goal();
    return box && this.pixelsOf(box);
  });
  protected readonly pickedAt = computed(() => {
    const at = this.picked();
    return at && { x: this.frame().x(at.x), y: this.frame().y(at.y) };
  });

  private start: { x: number; y: number } | undefined;

  /** Arrow keys pick a place, from the first spawn on. */
  protected onKey(event: KeyboardEvent): void {
    const by = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[event.key];
    if (by === undefined) return;
    event.preventDefault();
    const at = this.picked() ?? this.course().spawns[0] ?? { x: 0, y: 0 };
    const step = event.shiftKey ? 1 : CELL;
    this.pick.emit({ x: at.x + by[0]! * step, y: at.y + by[1]! * step });
  }

  protected press(event: PointerEvent): void {
    (event.currentTarget as Element).setPointerCapture(event.pointerId);
    this.start = { x: event.clientX, y: event.clientY };
    const at = this.metresAt(event);
    this.pulled.set({ from: at, to: at, pixels: 0 });
  }

  protected move(event: PointerEvent): void {
    const pulled = this.pulled();
    if (pulled === undefined || this.start === undefined) return;
    const pixels = Math.max(
      Math.abs(event.clientX - this.start.x),
      Math.abs(event.clientY - this.start.y),
      pulled.pixels,
    );
    this.pulled.set({ from: pulled.from, to: this.metresAt(event), pixels });
  }

  protected release(event: PointerEvent): void {
    this.move(event);
    const pulled = this.pulled();
    this.pulled.set(undefined);
    if (pulled === undefined) return;
    if (pulled.pixels < CLICK) this.pick.emit(pulled.from);
    else this.draw.emit(boxOf(pulled.from, pulled.to));
  }

  private pixelsOf({ minX, maxX, minY, maxY }: Box): Record<'x' | 'y' | 'width' | 'height', number> {
    const { x, y, scale } = this.frame();
    return { x: x(minX), y: y(maxY), width: (maxX - minX) * scale, height: (maxY - minY) * scale };
  }

  private metresAt(event: PointerEvent): Point {
    const { left, top } = (event.currentTarget as Element).getBoundingClientRect();
    const { x, y, scale } = this.frame();
    return { x: (event.clientX - left - x(0)) / scale, y: -(event.clientY - top - y(0)) / scale };
  }
}

interface Point {
  x: number;
  y: number;
}

const boxOf = (a: Point, b: Point): Box => ({
  minX: Math.min(a.x, b.x),
  maxX: Math.max(a.x, b.x),
  minY: Math.min(a.y, b.y),
  maxY: Math.max(a.y, b.y),
});
