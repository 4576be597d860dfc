import type { Axis, Swept } from '@glenmark/core/tune';
import { AXIS_FONT, type ChartOption } from './chart';
import { shortValue } from './ranges';
import { bandsOf, type Edge, edgesOf, holds, valueAt } from './sweep-shown';

/** A dial and its unit, as an axis names it. */
export interface NamedAxis {
  axis: Axis;
  unit: string;
}

const titled = ({ axis, unit }: NamedAxis): string => (unit === '' ? axis.dial : `${axis.dial} (${unit})`);

/** One dial: the outcome over it, with the bands in which all is as expected, and where the dial stands. */
export const curveOption =
  (named: NamedAxis, swept: readonly Swept[], outcome: string, own: number, cursor: number): ChartOption =>
  (colour) => {
    const { axis } = named;
    const bands = bandsOf(swept.map(holds));
    const half = (axis.to - axis.from) / (axis.places - 1) / 2;
    const edge = (place: number, by: number): number =>
      Math.min(axis.to, Math.max(axis.from, valueAt(axis, place) + by * half));
    const line = (value: number, type: 'solid' | 'dashed'): object => ({
      xAxis: value,
      lineStyle: { color: colour('ink'), type, width: 1 },
    });
    return {
      grid: { left: 52, right: 16, top: 26, bottom: 40 },
      xAxis: { ...valueAxis(colour, titled(named), 24), min: axis.from, max: axis.to },
      yAxis: { ...valueAxis(colour, outcome, 34), scale: true },
      series: [
        {
          type: 'line',
          showSymbol: false,
          connectNulls: false,
          lineStyle: { color: colour('tide'), width: 2 },
          data: swept.map(({ values: [value = NaN] }, i) => [
            valueAt(axis, i),
            Number.isNaN(value) ? null : value,
          ]),
          markArea: {
            silent: true,
            itemStyle: { color: colour('moss-wash') },
            data: bands.map(({ from, to }) => [{ xAxis: edge(from, -1) }, { xAxis: edge(to, 1) }]) as never,
          },
          markLine: {
            silent: true,
            symbol: 'none',
            label: { show: false },
            data: [line(own, 'dashed'), line(valueAt(axis, cursor), 'solid')] as never,
          },
        },
      ],
    };
  };

/** Two dials: the outcome as a colour, with borders where an expectation breaks and where a finding begins. */
export const mapOption =
  ([across, up]: readonly [NamedAxis, NamedAxis], swept: readonly Swept[], cursor: number): ChartOption =>
  (colour) => {
    const [columns, rows] = [across.axis.places, up.axis.places];
    const at = (x: number, y: number): Swept => swept[x * rows + y]!;
    const values = swept.map(({ values: [value = NaN] }) => value);
    const known = values.filter((v) => !Number.isNaN(v));
    const broken = edgesOf(columns, rows, (x, y) => holds(at(x, y)));
    const begun = edgesOf(columns, rows, (x, y) => (at(x, y).begun?.length ?? 0) > 0);
    return {
      grid: { left: 58, right: 70, top: 12, bottom: 40 },
      xAxis: placesAxis(colour, across, 24),
      yAxis: placesAxis(colour, up, 40),
      visualMap: {
        type: 'continuous',
        min: known.length === 0 ? 0 : Math.min(...known),
        max: known.length === 0 ? 1 : Math.max(...known),
        calculable: false,
        precision: 2,
        orient: 'vertical',
        right: 0,
        top: 8,
        itemWidth: 10,
        itemHeight: 90,
        textStyle: { ...AXIS_FONT, color: colour('ink-2') },
        text: [
          known.length === 0 ? '' : Math.max(...known).toFixed(2),
          known.length === 0 ? '' : Math.min(...known).toFixed(2),
        ],
        seriesIndex: 0,
        inRange: { color: [colour('sheet'), colour('tide-wash'), colour('tide')] },
      },
      series: [
        {
          type: 'heatmap',
          data: values.map((value, i) => [Math.floor(i / rows), i % rows, Number.isNaN(value) ? '-' : value]),
          itemStyle: { borderWidth: 0 },
          emphasis: { disabled: true },
        },
        misses(swept, rows, colour('rowan')),
        borders(begun, colour('amber'), 2.5, [4, 3]),
        borders(broken, colour('rowan'), 2.5, undefined),
        borders(around(Math.floor(cursor / rows), cursor % rows), colour('ink'), 2, undefined),
      ],
    };
  };

const around = (x: number, y: number): Edge[] => [
  { x1: x - 0.5, y1: y - 0.5, x2: x + 0.5, y2: y - 0.5 },
  { x1: x - 0.5, y1: y + 0.5, x2: x + 0.5, y2: y + 0.5 },
  { x1: x - 0.5, y1: y - 0.5, x2: x - 0.5, y2: y + 0.5 },
  { x1: x + 0.5, y1: y - 0.5, x2: x + 0.5, y2: y + 0.5 },
];

interface Drawing {
  coord(at: [number, number]): number[];
  size?(data: [number, number]): number | number[];
}

/** A place on a map in pixels: halves between places, which an axis of places does not know. */
function pixelOf(api: Drawing, x: number, y: number): [number, number] {
  const [x0 = 0, y0 = 0] = api.coord([0, 0]);
  const [x1 = 0, y1 = 0] = api.coord([1, 1]);
  return [x0 + x * (x1 - x0), y0 + y * (y1 - y0)];
}

/** Small crosses where something is not as expected: a border alone does not say which side is which. */
const misses = (swept: readonly Swept[], rows: number, stroke: string) => ({
  type: 'custom' as const,
  silent: true,
  data: swept.flatMap((place, i) => (holds(place) ? [] : [[Math.floor(i / rows), i % rows]])),
  renderItem: (_: unknown, api: Drawing & { value(i: number): number }) => {
    const [x, y] = pixelOf(api, api.value(0), api.value(1));
    const r = 2;
    return {
      type: 'path' as const,
      shape: { pathData: `M${x - r} ${y - r}L${x + r} ${y + r}M${x - r} ${y + r}L${x + r} ${y - r}` },
      style: { stroke, lineWidth: 1, fill: 'none' },
    };
  },
});

const borders = (
  edges: readonly Edge[],
  stroke: string,
  lineWidth: number,
  lineDash: number[] | undefined,
) => ({
  type: 'custom' as const,
  silent: true,
  // One item draws all of them.
  data: edges.length === 0 ? [] : [[0, 0]],
  renderItem: (_: unknown, api: Drawing) => ({
    type: 'group' as const,
    children: edges.map(({ x1, y1, x2, y2 }) => {
      const [from, to] = [pixelOf(api, x1, y1), pixelOf(api, x2, y2)];
      return {
        type: 'line' as const,
        shape: { x1: from[0], y1: from[1], x2: to[0], y2: to[1] },
        style: { stroke, lineWidth, ...(lineDash === undefined ? {} : { lineDash }) },
      };
    }),
  }),
});

const lines = (colour: (token: string) => string) => ({
  axisLine: { show: true, lineStyle: { color: colour('rule-2') } },
  axisTick: { show: false },
  axisLabel: { ...AXIS_FONT, color: colour('ink-2'), hideOverlap: true },
  nameTextStyle: { ...AXIS_FONT, color: colour('ink') },
  nameLocation: 'middle' as const,
});

const valueAxis = (colour: (token: string) => string, name: string, nameGap: number) => ({
  type: 'value' as const,
  name,
  nameGap,
  ...lines(colour),
  splitLine: { lineStyle: { color: colour('rule') } },
});

const placesAxis = (colour: (token: string) => string, named: NamedAxis, nameGap: number) => ({
  type: 'category' as const,
  name: titled(named),
  nameGap,
  ...lines(colour),
  axisLabel: { ...AXIS_FONT, color: colour('ink-2'), interval: Math.ceil(named.axis.places / 7) - 1 },
  data: Array.from({ length: named.axis.places }, (_, i) => shortValue(valueAt(named.axis, i), 3)),
});
