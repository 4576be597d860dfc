import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import type { Machine, Probe, State } from '@glenmark/core/machine';
import { partPath } from '../../shared/ui/part-path';
import { KINDS } from '../../shared/ui/kind-mark';

const SCALE = 62;

/** The body of a state to scale: its stance with dimensions, the others dashed, the probes. */
@Component({
  selector: 'gm-body-drawing',
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './body-drawing.html',
  styles: `
    :host {
      display: block;
    }
    .ground {
      stroke: var(--ink-2);
    }
    .other {
      fill: none;
      stroke: var(--ink-3);
      stroke-dasharray: 2 3;
    }
    .probe {
      stroke: var(--rowan);
    }
    .tip {
      fill: var(--rowan);
    }
    .measure {
      stroke: var(--ink-3);
    }
  `,
})
export class BodyDrawing {
  readonly machine = input.required<Machine>();
  readonly state = input.required<State>();

  protected readonly view = computed(() => {
    const { stances: all, probes } = this.machine();
    const stance = all[Math.max(0, this.state().stance)]!;
    const stances = all.filter((s) => !s.hidden || s === stance);
    const px = (m: number): number => m * SCALE;
    const scaled = (s: typeof stance): string[] =>
      s.parts.map((p) =>
        partPath({ ...p, width: px(p.width), height: px(p.height), ox: px(p.ox), oy: px(p.oy) }, 0),
      );
    const top = Math.max(...stances.map((s) => s.top));
    const wide = Math.max(...stances.flatMap((s) => s.parts.map((p) => p.width)));
    const half = px(wide / 2) + 20;
    const { colour } = KINDS[this.state().kind];
    return {
      label: $localize`${this.state().name}\: stance ${stance.name}, ${wide.toFixed(2)} by ${(stance.top - stance.bottom).toFixed(2)} metres`,
      box: `${-half - 48} ${-px(top) - 10} ${2 * half + 130} ${px(top) + 40}`,
      width: 2 * half + 130,
      height: px(top) + 40,
      half,
      left: -half + 4,
      tall: px(stance.top),
      heightText: `${(stance.top - stance.bottom).toFixed(2)} m`,
      widthText: `${Math.max(...stance.parts.map((p) => p.width)).toFixed(2)} m`,
      others: stances.filter((s) => s !== stance).flatMap((s) => scaled(s).map((d) => ({ name: s.name, d }))),
      body: scaled(stance),
      wash: `var(--${colour}-wash)`,
      stroke: `var(--${colour})`,
      probes: probes.map((p) => line(p, px)),
    };
  });
}

function line(
  probe: Probe,
  px: (m: number) => number,
): { name: string; x: number; y: number; x2: number; y2: number } {
  // A probe that follows an aim is drawn straight ahead.
  const direction = 'aim' in probe.direction ? { x: 1, y: 0 } : probe.direction;
  const [dx, dy] = [direction.x, -direction.y];
  const [x, y] = [px(probe.x), -px(probe.y)];
  return { name: probe.name, x, y, x2: x + dx * px(probe.reach), y2: y + dy * px(probe.reach) };
}
