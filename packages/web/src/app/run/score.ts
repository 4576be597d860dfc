import { ChangeDetectionStrategy, Component, computed, input, output, signal } from '@angular/core';
import type { Session, Tape } from '@glenmark/core';
import { KINDS } from '../ui/kind-mark';
import { type BarChange, ControlRow } from './control-row';
import { Curves } from './curves';
import { elementSize } from './element-size';
import { levelPath, scoreRows } from './run-data';

/** Width of the names to the left of the time axis, and of the room at its right end. */
export const GUTTER = 104;
export const RIGHT = 14;
const ROW = 21;

/** Tape, lanes, clocks and curves on one time axis, with the playhead through all. Drag it, or use the arrow keys. */
@Component({
  selector: 'gm-score',
  imports: [ControlRow, Curves],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './score.html',
  styleUrl: './score.scss',
})
export class Score {
  readonly session = input.required<Session>();
  readonly tick = input.required<number>();
  /** The tape itself, when its bars can be edited here. */
  readonly tape = input<Tape | undefined>();
  readonly moveTo = output<number>();
  readonly edit = output<BarChange>();

  protected readonly size = elementSize();
  protected readonly gutter = GUTTER;
  protected readonly rowHeight = ROW;
  private readonly dragging = signal(false);

  protected readonly rows = computed(() => scoreRows(this.session()));
  protected readonly perTick = computed(
    () => (this.size().width - GUTTER - RIGHT) / Math.max(1, this.rows().ticks),
  );
  protected readonly playhead = computed(() => Math.round(this.x(this.tick() + 0.5)));
  protected readonly seconds = computed(() => ((this.tick() + 1) / this.rows().rate).toFixed(3));
  protected readonly axis = computed(() => {
    const every = [5, 10, 30, 60, 120, 300, 600, 1200, 3000].find((n) => n * this.perTick() >= 56) ?? 6000;
    const marks = Array.from({ length: Math.floor(this.rows().ticks / every) + 1 }, (_, i) => ({
      x: this.x(i * every),
      text: String(i * every),
    }));
    return marks.filter((mark) => mark.x < this.size().width - 34);
  });
  /** The controls with the bars of the tape, which may go beyond the end of the run. */
  protected readonly editable = computed(() => {
    const tape = this.tape();
    return tape === undefined
      ? []
      : this.rows().controls.map(({ name, kind, bars }) => ({
          name,
          kind,
          now: this.valueNow(bars),
          spans: tape.inputs.filter((i) => i.control === name).flatMap((i) => i.spans),
        }));
  });
  protected readonly controls = computed(() =>
    this.tape() !== undefined
      ? []
      : this.rows().controls.map((control) => ({
          ...control,
          now: this.valueNow(control.bars),
          bars: control.bars.map((b) => {
            const half = control.kind === 'axis';
            const height = half ? 6 : 10;
            return {
              x: this.x(b.from),
              width: Math.max(1.5, this.x(b.to) - this.x(b.from)),
              y: half ? (b.value > 0 ? 4 : 11) : 5,
              height,
              title: `ticks ${b.from} to ${b.to - 1}${half ? `, ${b.value}` : ''}`,
            };
          }),
        })),
  );
  protected readonly lanes = computed(() =>
    this.rows().lanes.map((lane) => ({
      name: lane.name,
      bands: lane.bands.map((b) => {
        const width = this.x(b.to) - this.x(b.from);
        const { colour } = KINDS[b.kind];
        return {
          ...b,
          x: this.x(b.from),
          width,
          text: width > b.state.length * 6.5 + 8 ? b.state : '',
          fill: `var(--${colour}-wash)`,
          stroke: `var(--${colour})`,
          title: `${b.state}: ${b.to - b.from} ticks from ${b.from}`,
        };
      }),
    })),
  );
  /** Whether rows that never change are shown too. */
  protected readonly showsAll = signal(false);
  protected readonly quiet = computed(() => this.rows().clocks.filter(isQuiet).length);
  protected readonly clocks = computed(() =>
    this.rows()
      .clocks.filter((clock) => this.showsAll() || !isQuiet(clock))
      .map((clock) => ({
        name: clock.name,
        now: String(clock.steps[this.tick()] ?? 0),
        d: levelPath(clock.steps, clock.full, (t) => this.x(t), ROW - 6),
      })),
  );

  protected onPointer(event: PointerEvent): void {
    if (event.type === 'pointerdown') {
      (event.currentTarget as HTMLElement).setPointerCapture(event.pointerId);
      this.dragging.set(true);
    }
    if (!this.dragging()) return;
    if (event.type === 'pointerup' || event.type === 'pointercancel') this.dragging.set(false);
    const left = (event.currentTarget as HTMLElement).getBoundingClientRect().left;
    this.emit(Math.floor((event.clientX - left - GUTTER) / this.perTick()));
  }

  protected onKey(event: KeyboardEvent): void {
    const last = this.rows().ticks - 1;
    const step = event.shiftKey ? 10 : 1;
    const to = { ArrowLeft: this.tick() - step, ArrowRight: this.tick() + step, Home: 0, End: last }[
      event.key
    ];
    if (to === undefined) return;
    event.preventDefault();
    this.emit(to);
  }

  private emit(tick: number): void {
    this.moveTo.emit(Math.max(0, Math.min(this.rows().ticks - 1, tick)));
  }

  private x(tick: number): number {
    return GUTTER + tick * this.perTick();
  }

  private valueNow(bars: readonly { from: number; to: number; value: number }[]): string {
    const value = bars.find((b) => b.from <= this.tick() && this.tick() < b.to)?.value ?? 0;
    return value === 0 ? '' : value === 1 ? 'on' : String(value);
  }
}

const isQuiet = ({ steps }: { steps: readonly number[] }): boolean => steps.every((v) => v === steps[0]);
