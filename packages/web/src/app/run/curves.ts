import {
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  effect,
  ElementRef,
  inject,
  input,
  untracked,
} from '@angular/core';
import type { Session } from '@glenmark/core';
import { LineChart } from 'echarts/charts';
import { GridComponent, LegendComponent } from 'echarts/components';
import { type EChartsType, init, use } from 'echarts/core';
import { CanvasRenderer } from 'echarts/renderers';
import { ThemeChoice } from '../ui/theme';
import { elementSize } from './element-size';

use([LineChart, GridComponent, LegendComponent, CanvasRenderer]);

/** Height and speed over time, on the axis of the score above. */
@Component({
  selector: 'gm-curves',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: '',
  host: { '[style.height.px]': 'height()', role: 'img', 'aria-label': 'Curves of height and speed' },
  styles: `
    :host {
      display: block;
      pointer-events: none;
    }
  `,
})
export class Curves {
  readonly session = input.required<Session>();
  readonly height = input.required<number>();

  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
  private readonly themes = inject(ThemeChoice);
  private readonly size = elementSize();
  private chart: EChartsType | undefined;

  constructor() {
    effect(() => {
      const { width } = this.size();
      const height = this.height();
      const session = this.session();
      this.themes.theme();
      untracked(() => {
        if (width < 200) return;
        this.chart ??= init(this.host, undefined, { renderer: 'canvas', width, height });
        this.chart.resize({ width, height });
        this.chart.setOption(
          optionFor(session, (name) => getComputedStyle(this.host).getPropertyValue(name).trim()),
          true,
        );
      });
    });
    inject(DestroyRef).onDestroy(() => this.chart?.dispose());
  }
}

function optionFor(
  { trace }: Session,
  colour: (token: string) => string,
): Parameters<EChartsType['setOption']>[0] {
  const { records, machine } = trace;
  const height = machine.facts.slots.get('height')!;
  const speeds = records.map(({ body }) => Math.sqrt(body.vx * body.vx + body.vy * body.vy));
  // A record's facts are from before its tick; the next record's say where this one ended.
  const heights = records.map((_, i) => (records[i + 1] ?? records[i]!).facts[height]!);
  const font = { fontFamily: 'JetBrains Mono Variable', fontSize: 10, color: colour('--ink-2') };
  const axis = (token: string, position: 'left' | 'right', values: number[]): object => ({
    type: 'value',
    position,
    min: Math.min(0, Math.floor(Math.min(...values))),
    max: Math.max(1, Math.ceil(Math.max(...values))),
    splitNumber: 2,
    axisLabel: { ...font, color: colour(token), inside: position === 'right' },
    splitLine: { show: position === 'left', lineStyle: { color: colour('--rule') } },
  });
  const line = (name: string, token: string, yAxisIndex: number, values: number[]): object => ({
    type: 'line',
    name,
    yAxisIndex,
    showSymbol: false,
    animation: false,
    lineStyle: { color: colour(token), width: 1.6 },
    data: values.map((v, i) => [i + 0.5, v]),
  });
  return {
    animation: false,
    grid: { left: 104, right: 14, top: 10, bottom: 8 },
    xAxis: { type: 'value', min: 0, max: records.length, show: false },
    yAxis: [axis('--moss', 'left', speeds), axis('--tide', 'right', heights)],
    series: [line('speed', '--moss', 0, speeds), line('height', '--tide', 1, heights)],
  };
}
