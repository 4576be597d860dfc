import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  output,
  signal,
  untracked,
} from '@angular/core';
import type { Session, Tape } from '@glenmark/core/run';
import { elementSize } from '../../../shared/ui/element-size';
import { type BarChange, ControlRow } from './control-row';
import { curvesOf } from './curve-data';
import { Curves } from './curves';
import { DrawnRow } from './drawn-row';
import { GUTTER, RIGHT } from './layout';
import { RowsMenu } from './rows-menu';
import { ScoreChoice } from './score-choice';
import {
  type Group,
  GROUPS,
  isQuiet,
  scoreRows,
  type Stretch,
  valueAt,
  type Mark,
} from '../../../shared/document/score-rows';
import { type SpanAct, SpanBar } from './span-bar';
import { type MarkAct, TimeAxis } from './time-axis';
import { panned, showing, timeScale, type TimeWindow, wholeOf, within, zoomed } from './time-window';
import { shortcutOf } from '../../../shared/ui/shortcuts/shortcuts';

/**
 * Tape, lanes, clocks and curves on one time axis, with the playhead through all. A drag moves the playhead, with
 * Shift it chooses a span of ticks; the wheel with Ctrl zooms, with Shift pans.
 */
@Component({
  selector: 'gm-score',
  imports: [ControlRow, Curves, DrawnRow, RowsMenu, SpanBar, TimeAxis],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './score.html',
  styleUrl: './score.scss',
})
export class Score {
  readonly session = input.required<Session>();
  readonly tick = input.required<number>();
  /** The tape itself, when its bars can be edited here. */
  readonly tape = input<Tape | undefined>();
  readonly marks = input.required<readonly Mark[]>();
  readonly span = input<Stretch | undefined>();
  readonly looping = input(false);
  /** Another run, whose lanes and curves are drawn beside those of this one. */
  readonly other = input<Session | undefined>();
  readonly moveTo = output<number>();
  /** The playhead goes by so many ticks. */
  readonly step = output<number>();
  readonly edit = output<BarChange>();
  readonly choose = output<Stretch | undefined>();
  readonly spanAct = output<SpanAct>();
  readonly markAct = output<MarkAct>();

  private readonly choice = inject(ScoreChoice);
  private readonly size = elementSize();
  private readonly dragging = signal<{ chosenFrom?: number } | undefined>(undefined);
  /** The part that is shown; all of the run when undefined. */
  private readonly part = signal<TimeWindow | undefined>(undefined);

  protected readonly rows = computed(() => scoreRows(this.session().trace));
  protected readonly total = computed(() => this.rows().ticks);
  readonly window = computed(() => within(this.total(), this.part() ?? wholeOf(this.total())));
  protected readonly scale = computed(() =>
    timeScale(this.window(), Math.max(50, this.size().width - GUTTER - RIGHT)),
  );
  protected readonly isPart = computed(() => this.window().ticks < this.total());
  protected readonly playhead = computed(() => {
    const x = this.scale().x(this.tick() + 0.5);
    return x < 0 || x > this.scale().width ? undefined : Math.round(GUTTER + x);
  });
  protected readonly band = computed(() => {
    const span = this.span();
    if (span === undefined) return undefined;
    const { x, width } = this.scale();
    const [left, right] = [x(span.from), x(span.to)].map((p) => Math.max(0, Math.min(width, p)));
    return { left: GUTTER + left!, width: right! - left! };
  });
  protected readonly seconds = computed(() => ((this.tick() + 1) / this.rows().rate).toFixed(3));
  /** The controls with their bars; those of a tape that is edited may go beyond the end of the run. */
  protected readonly controls = computed(() => {
    const tape = this.tape();
    return this.rows().controls.map(({ name, kind, bars }) => ({
      name,
      kind,
      spans:
        tape === undefined
          ? bars.map((b) => ({ from: b.from, length: b.to - b.from, value: b.value }))
          : tape.inputs.filter((i) => i.control === name).flatMap((i) => i.spans),
    }));
  });
  protected readonly held = computed(() =>
    Object.fromEntries(this.rows().controls.map(({ name, bars }) => [name, holding(bars, this.tick())])),
  );
  private readonly otherRows = computed(() => {
    const other = this.other();
    return other && scoreRows(other.trace);
  });
  private readonly shown = computed(() =>
    GROUPS.filter((g) => this.choice.groups().includes(g)).flatMap((group) =>
      this.rows().groups[group].flatMap((row) => {
        const twin = isLane(group) && this.otherRows()?.groups.lanes.find((r) => r.name === row.name);
        const own = { group, row, quiet: isQuiet(row, this.total()) };
        const differs = twin && JSON.stringify(twin) !== JSON.stringify(row);
        return differs ? [own, { ...own, row: { ...twin, name: $localize`${row.name}, other` } }] : [own];
      }),
    ),
  );
  /** Whether rows that never change are shown too. */
  protected readonly showsAll = signal(false);
  protected readonly quiet = computed(() => this.shown().filter((r) => r.quiet).length);
  protected readonly drawn = computed(() =>
    this.shown()
      .filter((r) => this.showsAll() || !r.quiet)
      .map(({ group, row }) => ({ id: `${group} ${row.name}`, row, isLane: isLane(group) })),
  );
  protected readonly values = computed(() =>
    Object.fromEntries(this.drawn().map(({ id, row }) => [id, valueAt(row, this.tick())])),
  );
  protected readonly curves = computed(() => {
    const other = this.other();
    const own = curvesOf(this.session(), this.choice.curves());
    const others = other === undefined ? [] : curvesOf(other, this.choice.curves());
    return [...own, ...others.map((c) => ({ ...c, text: $localize`${c.text}, other`, isOther: true }))];
  });

  constructor() {
    // The playhead is followed wherever it goes.
    effect(() => {
      const tick = this.tick();
      const part = untracked(this.part);
      if (part === undefined) return;
      const window = untracked(this.window);
      const next = showing(untracked(this.total), window, tick);
      // The same part once more would have everything drawn again at every tick.
      if (next !== window) this.part.set(next);
    });
  }

  /** Shows these ticks, or all. */
  show(window: TimeWindow | undefined): void {
    this.part.set(window && within(this.total(), window));
  }

  /** Zooms by a factor around the playhead. */
  zoom(factor: number, at = this.tick() + 0.5): void {
    const next = zoomed(this.total(), this.window(), at, factor);
    this.part.set(next.ticks >= this.total() ? undefined : next);
  }

  protected onWheel(event: WheelEvent): void {
    const sideways = event.shiftKey ? event.deltaY + event.deltaX : event.deltaX;
    if (event.ctrlKey || event.metaKey) this.zoom(Math.exp(event.deltaY / 300), this.tickAt(event));
    else if (sideways !== 0 && this.isPart())
      this.show(panned(this.total(), this.window(), sideways / this.scale().perTick));
    else return;
    event.preventDefault();
  }

  protected onPointer(event: PointerEvent): void {
    const tick = Math.floor(this.tickAt(event));
    if (event.type === 'pointerdown') {
      if (event.button !== 0 || this.isInGutter(event)) return;
      (event.currentTarget as HTMLElement).setPointerCapture(event.pointerId);
      this.dragging.set(event.shiftKey ? { chosenFrom: tick } : {});
    }
    const drag = this.dragging();
    if (drag === undefined) return;
    if (event.type === 'pointerup' || event.type === 'pointercancel') this.dragging.set(undefined);
    if (drag.chosenFrom === undefined) return this.emit(tick);
    const [from, last] = [Math.min(drag.chosenFrom, tick), Math.max(drag.chosenFrom, tick)];
    const to = Math.min(this.total(), last + 1);
    if (to > Math.max(0, from)) this.choose.emit({ from: Math.max(0, from), to });
  }

  protected onKey(event: KeyboardEvent): void {
    const shortcut = shortcutOf(event, 'axis');
    if (shortcut === undefined) return;
    event.preventDefault();
    const size = event.shiftKey ? 10 : 1;
    // By so much from where it is: the tick that is shown may be behind keys that follow each other fast.
    if (shortcut === 'axisStep') this.step.emit(event.key === 'ArrowLeft' ? -size : size);
    else this.emit(event.key === 'Home' ? 0 : this.total() - 1);
  }

  private emit(tick: number): void {
    this.moveTo.emit(Math.max(0, Math.min(this.total() - 1, tick)));
  }

  private tickAt(event: MouseEvent): number {
    return this.scale().tickAt(event.clientX - leftOf(event) - GUTTER);
  }

  private isInGutter(event: MouseEvent): boolean {
    return event.clientX - leftOf(event) < GUTTER;
  }
}

const leftOf = (event: MouseEvent): number =>
  (event.currentTarget as HTMLElement).getBoundingClientRect().left;

const isLane = (group: Group): boolean => group === 'lanes';

/** What is held of a control at a tick. */
function holding(bars: readonly (Stretch & { value: number })[], tick: number): string {
  const value = bars.find((b) => b.from <= tick && tick < b.to)?.value ?? 0;
  return value === 0 ? '' : value === 1 ? 'on' : String(value);
}
