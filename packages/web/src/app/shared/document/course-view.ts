import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import type { Account, Session } from '@glenmark/core/run';
import { partPath } from '../ui/part-path';
import { KINDS } from '../ui/kind-mark';
import { elementSize } from '../ui/element-size';
import { castsAt } from './casts';
import { extentOf, frameOf, moverPaths, wayPath } from './course-frame';
import { CourseGround } from './course-ground';
import { crossingTicks, type Mark } from './score-rows';

/** More ghosts than this cannot be told apart. */
const MAX_GHOSTS = 60;

const roundBody = ({ x, y }: { x: number; y: number }) => ({ minX: x, maxX: x, minY: y, maxY: y + 1.5 });

/** Where the feet were, from the start on, as x0, y0, x1, y1 and so on. */
const wayOf = ({ trace: { start, records } }: Session): number[] => [
  start.x,
  start.y,
  ...records.flatMap(({ body }) => [body.x, body.y]),
];

/** The course with the trail, the body at the playhead, its ghosts at crossings, and what does not fit. */
@Component({
  selector: 'gm-course-view',
  imports: [CourseGround],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './course-view.html',
  styleUrl: './course-view.scss',
})
export class CourseView {
  readonly session = input.required<Session>();
  readonly tick = input.required<number>();
  readonly account = input.required<Account>();
  /** Another run, whose way is drawn over this one. */
  readonly other = input<Session | undefined>();
  readonly marks = input<readonly Mark[]>([]);
  /** Whether the course moves with the body, at a scale that shows it well; else all of the trail is shown. */
  readonly follows = input(false);

  protected readonly size = elementSize();

  /** The trail with some room round it, at the scale that shows all of it; or the body, at one that shows it well. */
  protected readonly frame = computed(() => {
    const size = this.size();
    return this.follows()
      ? frameOf(roundBody(this.record().body), size, Math.min(46, size.height / 5))
      : frameOf(this.extent(), size);
  });

  private readonly extent = computed(() => extentOf([this.way()]));
  private readonly way = computed(() => wayOf(this.session()));

  /** Movers where they are after the tick. */
  protected readonly movers = computed(() =>
    moverPaths(this.frame(), this.course(), (this.tick() + 1) / this.session().trace.machine.rate),
  );
  /** Lines from the middle of the body to where its tethers hold. */
  protected readonly lines = computed(() => {
    const { x, y } = this.frame();
    return this.record().anchors.map((a) => ({ x: x(a.x), y: y(a.y) }));
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
    const other = this.other();
    return other === undefined ? '' : wayPath(this.frame(), wayOf(other).slice(2));
  });

  /** The body at crossings, as many as can be told apart, and at marks, with their names. */
  protected readonly ghosts = computed(() => {
    const { records } = this.session().trace;
    const taken = [0, ...crossingTicks(records)].filter((t, i, all) => all.indexOf(t) === i);
    const every = Math.ceil(taken.length / MAX_GHOSTS);
    const marks = this.marks().filter((m) => m.tick < records.length);
    return [
      ...taken.filter((_, i) => i % every === 0).map((tick) => ({ id: `${tick}`, tick, name: '' })),
      ...marks.map(({ name, tick }) => ({ id: name, tick, name })),
    ].map((ghost) => ({ ...ghost, ...this.bodyAt(ghost.tick), says: $localize`tick ${ghost.tick}` }));
  });
  protected readonly probes = computed(() => {
    const { x, y } = this.frame();
    return castsAt(this.session(), this.tick()).map((c) => ({
      name: c.name,
      says: c.hit ? $localize`${c.name} hits` : c.name,
      hit: c.hit,
      x1: x(c.x),
      y1: y(c.y),
      x2: x(c.x2),
      y2: y(c.y2),
    }));
  });
  /** The ways out of what the body touches: short lines from its middle. */
  protected readonly contacts = computed(() => {
    const { x, y } = this.body();
    return this.record().contacts.map(({ nx, ny }) => ({ x1: x, y1: y, x2: x + nx * 22, y2: y - ny * 22 }));
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
      text: $localize`${machine.stances[stance]!.name} needs ${((crossing.missing ?? 0) * 100).toFixed(0)} cm more`,
    };
  });

  protected readonly course = computed(() => this.session().world.course);

  private record() {
    return this.session().trace.records[this.tick()]!;
  }

  /** Where the body was when the tick decided: where the tick before had left it. */
  private decidedAt(): { x: number; y: number } {
    const { records, start } = this.session().trace;
    return records[this.tick() - 1]?.body ?? start;
  }

  private bodyAt(tick: number): {
    d: string;
    x: number;
    y: number;
    top: number;
    fill: string;
    stroke: string;
  } {
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
