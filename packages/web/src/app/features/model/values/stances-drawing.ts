import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { partPath } from '../../../shared/ui/part-path';
import { Workspace } from '../../../data/workspace';
import { stanceShapes, type StanceShape, writtenSize } from './stance-sizes';
import { Notifications } from '../../../shared/ui/notifications';

/** Pixels a metre. */
const SCALE = 84;
const WIDTH = 360;
const FOOT = 22;

type Side = 'height' | 'width';

/** The stances over each other to scale, on common feet; their dimensions are dragged, or moved by arrows. */
@Component({
  selector: 'gm-stances-drawing',
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './stances-drawing.html',
  styles: `
    svg {
      display: block;
      max-width: 100%;
      touch-action: none;
    }
    .ground {
      stroke: var(--ink-2);
    }
    .metre {
      stroke: var(--rule);
    }
    path {
      fill: var(--tide-wash);
      fill-opacity: 0.45;
      stroke: var(--tide);
    }
    .handle {
      fill: var(--sheet);
      stroke: var(--ink);
      cursor: ns-resize;
    }
    .handle.width {
      cursor: ew-resize;
    }
  `,
})
export class StancesDrawing {
  private readonly workspace = inject(Workspace);
  private readonly notifications = inject(Notifications);

  protected readonly width = WIDTH;
  protected readonly held = signal<{ name: string; side: Side } | undefined>(undefined);

  private readonly shapes = computed(() =>
    stanceShapes(this.workspace.machine()!, this.workspace.compiled().file!),
  );
  private readonly tallest = computed(() => Math.max(1, ...this.shapes().map((s) => s.height)));
  protected readonly height = computed(() => Math.ceil(this.tallest() * SCALE) + FOOT + 14);
  protected readonly ground = computed(() => this.height() - FOOT);
  protected readonly metres = computed(() =>
    Array.from({ length: Math.floor(this.tallest() + 0.1) }, (_, i) => ({
      y: this.ground() - (i + 1) * SCALE,
      text: `${i + 1} m`,
    })),
  );
  protected readonly drawn = computed(() =>
    this.shapes().map((shape) => {
      const [w, h] = [shape.width * SCALE, shape.height * SCALE];
      const part = { shape: shape.round ? ('capsule' as const) : ('box' as const), width: w, height: h };
      const [x, y] = [WIDTH / 2, this.ground()];
      return {
        shape,
        d: partPath({ ...part, ox: 0, oy: 0 }, x, y),
        size: `${shape.width.toFixed(2)} × ${shape.height.toFixed(2)} m`,
        right: x + w / 2,
        top: y - h,
        handles:
          shape.path === undefined
            ? []
            : [
                { side: 'height' as const, x, y: y - h },
                { side: 'width' as const, x: x + w / 2, y: y - h / 2 },
              ],
      };
    }),
  );

  protected take(event: PointerEvent, { name }: StanceShape, side: Side): void {
    (event.currentTarget as Element).closest('svg')!.setPointerCapture(event.pointerId);
    this.held.set({ name, side });
  }

  protected drag(event: PointerEvent): void {
    const held = this.held();
    const shape = this.shapes().find((s) => s.name === held?.name);
    if (held === undefined || shape === undefined) return;
    const box = (event.currentTarget as Element).getBoundingClientRect();
    const metres =
      held.side === 'height'
        ? (box.top + this.ground() - event.clientY) / SCALE
        : (2 * Math.abs(event.clientX - box.left - WIDTH / 2)) / SCALE;
    this.set(shape, held.side, metres);
  }

  protected onKey(event: KeyboardEvent, shape: StanceShape, side: Side): void {
    const by = { ArrowUp: 0.05, ArrowRight: 0.05, ArrowDown: -0.05, ArrowLeft: -0.05 }[event.key];
    if (by === undefined) return;
    event.preventDefault();
    this.set(shape, side, shape[side] + by);
  }

  /** One drag is one step to undo. */
  private set({ name, path, ...shape }: StanceShape, side: Side, metres: number): void {
    const value = writtenSize(metres);
    if (path === undefined || value === writtenSize(shape[side])) return;
    this.notifications.unlessDone(
      this.workspace.apply($localize`${side} of ${name}`, [{ path: [...path, side], value }], {
        goesOn: true,
      })[0],
    );
  }
}
