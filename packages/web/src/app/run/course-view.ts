import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { type Account, cornersOf, moverAt, type Session } from '@glenmark/core';
import { partPath } from '../ui/part-path';
import { KINDS } from '../ui/kind-mark';
import { elementSize } from './element-size';
import { crossingTicks } from './run-data';

/** The course with the trail, the body at the playhead, its ghosts at crossings, and what does not fit. */
@Component({
  selector: 'gm-course-view',
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './course-view.html',
  styleUrl: './course-view.scss',
})
export class CourseView {
  readonly session = input.required<Session>();
  readonly tick = input.required<number>();
  readonly account = input.required<Account>();
  /** The way of another run, to be drawn over this one. */
  readonly other = input<readonly { x: number; y: number }[]>([]);

  protected readonly size = elementSize();

  /** Metres to pixels: the trail with some room round it, at the scale that shows all of it. */
  private readonly frame = computed(() => {
    const { trace } = this.session();
    const { width, height } = this.size();
    const xs = [trace.start.x, ...trace.records.map((r) => r.body.x)];
    const ys = [trace.start.y, ...trace.records.map((r) => r.body.y)];
    const [minX, maxX] = [Math.min(...xs) - 2.5, Math.max(...xs) + 2.5];
    const [minY, maxY] = [Math.min(...ys) - 1.2, Math.max(...ys) + 2.8];
    const scale = Math.max(4, Math.min(width / (maxX - minX), height / (maxY - minY), 70));
    const left = (minX + maxX) / 2 - width / scale / 2;
    const top = minY + height / scale;
    return {
      scale,
      x: (m: number) => (m - left) * scale,
      y: (m: number) => (top - m) * scale,
      left,
      right: left + width / scale,
    };
  });

  protected readonly solids = computed(() =>
    this.course()
      .solids.filter((solid) => solid.mover < 0)
      .map((solid) => ({
        name: solid.name ?? solid.tag,
        d: this.outlineOf(solid.polygon),
        tone: solid.oneWay ? 'one-way' : solid.tag === 'plank' ? 'plank' : '',
      })),
  );
  /** Movers where they are after the tick. */
  protected readonly movers = computed(() => {
    const seconds = (this.tick() + 1) / this.session().trace.machine.rate;
    return this.course()
      .solids.filter((solid) => solid.mover >= 0)
      .map((solid) => ({
        name: solid.name ?? 'mover',
        d: this.outlineOf(solid.polygon, moverAt(this.course().movers[solid.mover]!, seconds)),
      }));
  });
  protected readonly zones = computed(() => {
    const { x, y } = this.frame();
    return this.course().zones.map((zone) => ({
      name: zone.name,
      tag: zone.tag,
      d: this.outlineOf(zone.polygon),
      x: x(zone.polygon[0]!) + 4,
      y: y(Math.max(...cornersOf(zone.polygon).map((c) => c[1]))) + 12,
    }));
  });
  protected readonly anchors = computed(() => {
    const { x, y } = this.frame();
    return this.course().anchors.map((a) => ({ name: a.name, x: x(a.x), y: y(a.y) }));
  });
  /** Lines from the middle of the body to where its tethers hold. */
  protected readonly lines = computed(() => {
    const { x, y } = this.frame();
    return this.record().anchors.map((a) => ({ x: x(a.x), y: y(a.y) }));
  });

  protected readonly scaleMarks = computed(() => {
    const { left, right, x, scale } = this.frame();
    const step = scale > 40 ? 1 : scale > 14 ? 5 : 10;
    const marks = [];
    for (let m = Math.ceil(left / step) * step; m < right; m += step)
      marks.push({ x: x(m), text: `${m}${marks.length === 0 ? ' m' : ''}` });
    return marks;
  });

  /** The trail in pieces, each in the colour of the state it was made in. */
  protected readonly trail = computed(() => {
    const { x, y } = this.frame();
    const { machine, records, start } = this.session().trace;
    const pieces: { d: string; stroke: string }[] = [];
    let last = { x: start.x, y: start.y };
    let colour = '';
    for (const { body, leaves } of records) {
      const next = KINDS[machine.states[leaves[0]!]!.kind].colour;
      if (next !== colour) {
        colour = next;
        pieces.push({ d: `M${x(last.x).toFixed(1)} ${y(last.y).toFixed(1)}`, stroke: `var(--${colour})` });
      }
      pieces[pieces.length - 1]!.d += `L${x(body.x).toFixed(1)} ${y(body.y).toFixed(1)}`;
      last = body;
    }
    return pieces;
  });

  protected readonly otherTrail = computed(() => {
    const { x, y } = this.frame();
    const points = this.other().map((p) => `${x(p.x).toFixed(1)} ${y(p.y).toFixed(1)}`);
    return points.length === 0 ? '' : `M${points.join('L')}`;
  });

  protected readonly ghosts = computed(() => {
    const { records } = this.session().trace;
    return [0, ...crossingTicks(records)]
      .filter((t, i, all) => all.indexOf(t) === i)
      .map((t) => ({ tick: t, ...this.bodyAt(t) }));
  });
  protected readonly body = computed(() => this.bodyAt(this.tick()));
  protected readonly arrow = computed(() => {
    const { vx, vy } = this.record().body;
    const speed = Math.sqrt(vx * vx + vy * vy);
    const { x, y } = this.body();
    const length = Math.min(70, speed * 6);
    return speed < 0.05
      ? undefined
      : { x2: x + (vx / speed) * length, y2: y - (vy / speed) * length, text: `${speed.toFixed(1)} m/s` };
  });

  /** The stance that a refused crossing had no room for, drawn where it would stand. */
  protected readonly refused = computed(() => {
    const crossing = this.account()
      .lanes.flatMap((l) => l.crossings)
      .find((c) => c.verdict === 'noRoom');
    if (crossing === undefined) return undefined;
    const { machine } = this.session().trace;
    const stance = machine.states.find((s) => s.name === crossing.to)?.stance ?? -1;
    if (stance < 0) return undefined;
    const body = this.outline(stance, this.decidedAt());
    return {
      ...body,
      text: `${machine.stances[stance]!.name} needs ${((crossing.missing ?? 0) * 100).toFixed(0)} cm more`,
    };
  });

  private readonly course = computed(() => this.session().world.course);

  private outlineOf(polygon: Float64Array, offset = { x: 0, y: 0 }): string {
    const { x, y } = this.frame();
    const corners = cornersOf(polygon).map(
      ([px, py]) => `${x(px + offset.x).toFixed(1)} ${y(py + offset.y).toFixed(1)}`,
    );
    return `M${corners.join('L')}Z`;
  }

  private record() {
    return this.session().trace.records[this.tick()]!;
  }

  /** Where the body was when the tick decided: where the tick before had left it. */
  private decidedAt(): { x: number; y: number } {
    const { records, start } = this.session().trace;
    return records[this.tick() - 1]?.body ?? start;
  }

  private bodyAt(tick: number): { d: string; x: number; y: number; fill: string; stroke: string } {
    const { machine, records } = this.session().trace;
    const record = records[tick]!;
    const { colour } = KINDS[machine.states[record.leaves[0]!]!.kind];
    return {
      ...this.outline(record.stance, record.body),
      fill: `var(--${colour}-wash)`,
      stroke: `var(--${colour})`,
    };
  }

  private outline(
    stance: number,
    at: { x: number; y: number },
  ): { d: string; x: number; y: number; top: number } {
    const { x, y, scale } = this.frame();
    const { parts, top } = this.session().trace.machine.stances[stance]!;
    const d = parts
      .map((p) =>
        partPath(
          { ...p, width: p.width * scale, height: p.height * scale, ox: p.ox * scale, oy: p.oy * scale },
          x(at.x),
          y(at.y),
        ),
      )
      .join('');
    return { d, x: x(at.x), y: y(at.y) - (top * scale) / 2, top: y(at.y) - top * scale };
  }
}
