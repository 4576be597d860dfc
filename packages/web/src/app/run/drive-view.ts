import { MatSelectModule } from '@angular/material/select';
import { MatButton } from '@angular/material/button';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  input,
  type OnDestroy,
  type OnInit,
  output,
} from '@angular/core';
import type { Player } from '@glenmark/core/run';
import { cornersOf } from '@glenmark/core/world';
import { KINDS } from '../ui/kind-mark';
import { partPath } from '../ui/part-path';
import { Driver } from './driver';
import { elementSize } from './element-size';

/** Pixels a metre. */
const SCALE = 46;

/** Driving: the course follows the body, keys and pad play it, and everything held is recorded. */
@Component({
  selector: 'gm-drive-view',
  imports: [MatSelectModule, MatButton],
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: {
    '(document:keydown)': 'onKey($event)',
    '(document:keyup)': 'driver()?.hands?.release($event.code)',
    '(window:blur)': 'driver()?.hands?.letGo()',
    '(pointermove)': 'onPointer($event)',
  },
  templateUrl: './drive-view.html',
  styleUrls: ['./course-view.scss', './drive-view.scss'],
})
export class DriveView implements OnInit, OnDestroy {
  readonly player = input.required<Player>();
  /** The inputs of the tape up to where it is taken over. */
  readonly before = input.required<readonly (readonly number[])[]>();
  readonly done = output<number[][]>();
  readonly again = output();

  protected readonly size = elementSize();
  protected readonly speeds = [1, 0.5, 0.25, 0.1];
  readonly driver = computed(() => new Driver(this.player(), this.before()));

  /** Everything that stands still, in pixels from the origin of the course. */
  protected readonly still = computed(() => {
    const { course } = this.player().world;
    const d = (polygon: Float64Array): string =>
      `M${cornersOf(polygon)
        .map(([x, y]) => `${px(x)} ${-px(y)}`)
        .join('L')}Z`;
    return {
      solids: course.solids
        .filter((s) => s.mover < 0)
        .map((s) => ({ d: d(s.polygon), tone: s.oneWay ? 'one-way' : s.tag === 'plank' ? 'plank' : '' })),
      movers: course.solids
        .map((s, i) => ({ d: d(s.polygon), index: i }))
        .filter((m) => course.solids[m.index]!.mover >= 0),
      zones: course.zones.map((z) => ({
        d: d(z.polygon),
        tag: z.tag,
        x: px(z.polygon[0]!),
        y: -px(z.polygon[1]!),
      })),
      anchors: course.anchors.map((a) => ({ x: px(a.x), y: -px(a.y) })),
    };
  });
  protected readonly now = computed(() => {
    const { machine, world, situation } = this.player();
    const record = this.driver().record();
    const { x, y } = record?.body ?? situation.body;
    const leaf = record?.leaves[0] ?? situation.leaves[0]!;
    const stance = machine.stances[record?.stance ?? situation.stance]!;
    const { colour } = KINDS[machine.states[leaf]!.kind];
    const { width, height } = this.size();
    return {
      camera: `translate(${Math.round(width / 2 - px(x))} ${Math.round(height * 0.62 + px(y))})`,
      x: px(x),
      y: -px(y),
      body: stance.parts
        .map((p) =>
          partPath(
            { ...p, width: px(p.width), height: px(p.height), ox: px(p.ox), oy: px(p.oy) },
            px(x),
            -px(y),
          ),
        )
        .join(''),
      fill: `var(--${colour}-wash)`,
      stroke: `var(--${colour})`,
      trail: this.driver()
        .trail.map((p, i) => `${i === 0 ? 'M' : 'L'}${px(p.x).toFixed(1)} ${(-px(p.y)).toFixed(1)}`)
        .join(''),
      movers: this.still().movers.map((m) => {
        const solid = world.course.solids[m.index]!;
        return {
          d: m.d,
          shift: `translate(${px(world.offsets[solid.mover * 2]!)} ${-px(world.offsets[solid.mover * 2 + 1]!)})`,
        };
      }),
      lines: (record?.anchors ?? []).map((a) => ({ x: px(a.x), y: -px(a.y) })),
      states: machine.lanes.map((lane, i) => ({
        lane: lane.name,
        state: machine.states[record?.leaves[i] ?? situation.leaves[i]!]!.name,
        colour: `var(--${KINDS[machine.states[record?.leaves[i] ?? situation.leaves[i]!]!.kind].colour})`,
      })),
      speed: Math.hypot(record?.body.vx ?? 0, record?.body.vy ?? 0).toFixed(1),
    };
  });
  protected readonly keys = computed(() => {
    const held = this.driver().record()?.input ?? [];
    return this.player().machine.controls.map((c, i) => ({
      name: c.name,
      keys: [...c.keys, ...c.negative, ...c.positive].filter((k, j, all) => all.indexOf(k) === j).join(' '),
      held: (held[i] ?? 0) !== 0,
    }));
  });

  ngOnInit(): void {
    this.driver().start();
  }

  ngOnDestroy(): void {
    this.driver().stop();
  }

  protected stop(): void {
    this.driver().stop();
    this.done.emit(this.driver().inputs);
  }

  protected togglePause(): void {
    this.driver().paused.update((p) => !p);
  }

  protected onKey(event: KeyboardEvent): void {
    if (event.ctrlKey || event.metaKey || event.target instanceof HTMLSelectElement) return;
    const { controls } = this.player().machine;
    const used = controls.some((c) => [...c.keys, ...c.negative, ...c.positive].includes(event.code));
    if (used) {
      event.preventDefault();
      this.driver().hands.press(event.code);
    } else if (event.key === 'Escape') this.stop();
    else if (event.key === 'p') this.togglePause();
    else if (event.key === '.' && this.driver().paused()) this.driver().stepOnce();
    else if (event.key === 'Backspace') this.again.emit();
  }

  /** An aim points from the middle of the body to the pointer. */
  protected onPointer(event: PointerEvent): void {
    const box = (event.currentTarget as HTMLElement).getBoundingClientRect();
    const dx = event.clientX - box.left - this.size().width / 2;
    const dy = this.size().height * 0.62 - SCALE - (event.clientY - box.top);
    this.driver().hands.aim = (Math.atan2(dy, dx) * 180) / Math.PI;
  }
}

const px = (metres: number): number => metres * SCALE;
