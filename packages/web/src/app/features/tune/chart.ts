import {
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  effect,
  type ElementRef,
  inject,
  input,
  output,
  untracked,
  viewChild,
} from '@angular/core';
import { BarChart, CustomChart, HeatmapChart, LineChart } from 'echarts/charts';
import { GridComponent, MarkAreaComponent, MarkLineComponent, VisualMapComponent } from 'echarts/components';
import { type EChartsType, init, use } from 'echarts/core';
import { CanvasRenderer } from 'echarts/renderers';
import { elementSize } from '../../shared/ui/element-size';
import { ThemeChoice } from '../../shared/ui/theme';

use([
  BarChart,
  CustomChart,
  HeatmapChart,
  LineChart,
  GridComponent,
  MarkAreaComponent,
  MarkLineComponent,
  VisualMapComponent,
  CanvasRenderer,
]);

/** What a chart shows, given the colours of the theme by the names of their tokens. */
export type ChartOption = (colour: (token: string) => string) => Parameters<EChartsType['setOption']>[0];

/** How numbers and names on an axis are written. */
export const AXIS_FONT = { fontFamily: 'JetBrains Mono Variable', fontSize: 10 };

/** A chart in the colours of the theme. Whoever shows it says in words beside it what it shows. */
@Component({
  selector: 'gm-chart',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: '<div #plot></div>',
  host: { role: 'img', '[attr.aria-label]': 'label()' },
  styles: `
    :host {
      display: block;
      position: relative;
      min-width: 0;
      overflow: hidden;
    }
    div {
      position: absolute;
      inset: 0;
    }
  `,
})
export class Chart {
  readonly option = input.required<ChartOption>();
  readonly label = input.required<string>();
  /** Where the chart is clicked, in the units of its axes. */
  readonly picked = output<{ x: number; y: number }>();

  private readonly plot = viewChild.required<ElementRef<HTMLElement>>('plot');
  private readonly themes = inject(ThemeChoice);
  private readonly size = elementSize();
  private chart: EChartsType | undefined;

  constructor() {
    effect(() => {
      const { width, height } = this.size();
      const option = this.option();
      this.themes.theme();
      untracked(() => {
        if (width < 80 || height < 40) return;
        this.chart ??= this.made(width, height);
        this.chart.resize({ width, height });
        const styles = getComputedStyle(this.plot().nativeElement);
        const colour = (token: string): string => styles.getPropertyValue(`--${token}`).trim();
        this.chart.setOption({ animation: false, ...option(colour) }, true);
      });
    });
    inject(DestroyRef).onDestroy(() => this.chart?.dispose());
  }

  private made(width: number, height: number): EChartsType {
    const chart = init(this.plot().nativeElement, undefined, { renderer: 'canvas', width, height });
    chart.getZr().on('click', ({ offsetX, offsetY }) => {
      const at = chart.convertFromPixel('grid', [offsetX, offsetY]) as [number, number] | undefined;
      if (at !== undefined && chart.containPixel('grid', [offsetX, offsetY]))
        this.picked.emit({ x: at[0], y: at[1] });
    });
    return chart;
  }
}
