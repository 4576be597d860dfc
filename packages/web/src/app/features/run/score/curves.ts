import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  type ElementRef,
  inject,
  input,
  untracked,
  viewChild,
} from '@angular/core';
import { LineChart } from 'echarts/charts';
import { GridComponent } from 'echarts/components';
import { type EChartsType, init, use } from 'echarts/core';
import { CanvasRenderer } from 'echarts/renderers';
import { ThemeChoice } from '../../../shared/ui/theme';
import { elementSize } from '../../../shared/ui/element-size';
import { type Curve, shortNumber } from './curve-data';
import { GUTTER, RIGHT } from './layout';
import type { TimeWindow } from './time-window';

use([LineChart, GridComponent, CanvasRenderer]);

const HEIGHT = 112;

/** Quantities over time, on the axis of the score above; those of one unit share one scale. */
@Component({
  selector: 'gm-curves',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div #plot></div>
    <p class="legend">
      @for (item of legend(); track item.text) {
        <span class="name"
          ><i [style.background]="item.colour"></i><span class="text">{{ item.text }}</span>
          <small class="mono">{{ item.now }}</small></span
        >
      }
    </p>
  `,
  host: { '[style.height.px]': 'height', role: 'img', '[attr.aria-label]': 'label()' },
  styles: `
    :host {
      display: block;
      position: relative;
      pointer-events: none;
    }
    .legend {
      position: absolute;
      left: 14px;
      top: 4px;
      width: 92px;
      z-index: 1;
    }
    .name {
      display: flex;
      align-items: baseline;
      gap: 5px;
      font: 500 12px/16px var(--label);
    }
    .text {
      flex: 1;
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
    }
    i {
      width: 8px;
      height: 3px;
      align-self: center;
      flex: none;
    }
    small {
      font-size: 10px;
      color: var(--ink-2);
    }
  `,
})
export class Curves {
  readonly curves = input.required<readonly Curve[]>();
  readonly window = input.required<TimeWindow>();
  readonly tick = input.required<number>();

  protected readonly height = HEIGHT;
  protected readonly label = computed(
    () =>
      $localize`Curves of ${this.curves()
        .map((c) => c.text)
        .join(', ')}`,
  );
  protected readonly legend = computed(() =>
    this.curves()
      .filter((c) => !c.isOther)
      .map(({ text, unit, token, values }) => ({
        text,
        colour: `var(--${token})`,
        now: `${shortNumber(values[this.tick()] ?? 0)} ${unit}`,
      })),
  );

  /** The chart empties the element that it is given, so that has one of its own. */
  private readonly plot = viewChild.required<ElementRef<HTMLElement>>('plot');
  private readonly themes = inject(ThemeChoice);
  private readonly size = elementSize();
  private chart: EChartsType | undefined;

  constructor() {
    // The lines are set once a run; a zoom only moves the axis under them.
    effect(() => {
      const { width } = this.size();
      const curves = this.curves();
      this.themes.theme();
      untracked(() => {
        if (width < 200) return;
        this.chart ??= init(this.plot().nativeElement, undefined, {
          renderer: 'canvas',
          width,
          height: HEIGHT,
        });
        this.chart.resize({ width, height: HEIGHT });
        const colour = (token: string): string =>
          getComputedStyle(this.plot().nativeElement).getPropertyValue(`--${token}`).trim();
        this.chart.setOption({ ...optionFor(curves, colour), xAxis: axisOf(this.window()) }, true);
      });
    });
    effect(() => {
      const window = this.window();
      this.chart?.setOption({ xAxis: axisOf(window) });
    });
    inject(DestroyRef).onDestroy(() => this.chart?.dispose());
  }
}

const axisOf = ({ from, ticks }: TimeWindow): object => ({
  type: 'value',
  min: from,
  max: from + ticks,
  show: false,
});

function optionFor(
  curves: readonly Curve[],
  colour: (token: string) => string,
): Parameters<EChartsType['setOption']>[0] {
  const units = [...new Set(curves.map((c) => c.unit))];
  const font = { fontFamily: 'JetBrains Mono Variable', fontSize: 10 };
  return {
    animation: false,
    grid: { left: GUTTER, right: RIGHT, top: 8, bottom: 6 },
    yAxis: units.map((unit, i) => {
      const own = curves.filter((c) => c.unit === unit);
      const values = own.flatMap((c) => c.values.filter(Number.isFinite));
      return {
        type: 'value',
        // The first two units have their numbers beside the plot; those of more stand in the legend.
        show: i < 2,
        position: i === 1 ? 'right' : 'left',
        min: Math.floor(values.reduce((min, v) => Math.min(min, v), 0)),
        max: Math.ceil(values.reduce((max, v) => Math.max(max, v), 0.1)),
        splitNumber: 2,
        axisLine: { show: false },
        axisTick: { show: false },
        axisLabel: {
          ...font,
          color: colour(own[0]!.token),
          inside: true,
          showMinLabel: false,
          showMaxLabel: false,
          formatter: (v: number) => `${Number(v.toFixed(2))} ${unit}`,
        },
        splitLine: { show: i === 0, lineStyle: { color: colour('rule') } },
      };
    }),
    series: curves.map(({ text, unit, token, values, isOther = false }) => ({
      type: 'line',
      name: text,
      yAxisIndex: units.indexOf(unit),
      showSymbol: false,
      animation: false,
      sampling: 'minmax',
      lineStyle: { color: colour(token), width: isOther ? 1.2 : 1.6, type: isOther ? 'dashed' : 'solid' },
      data: values.map((v, i) => [i + 0.5, v]),
    })),
  };
}
