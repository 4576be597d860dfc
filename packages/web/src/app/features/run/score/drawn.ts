import { KINDS } from '../../../shared/ui/kind-mark';
import type { Band, Row, Spot, Stretch } from '../../../shared/document/score-rows';
import type { TimeScale } from './time-window';

/** A rectangle of a row, in pixels from the left end of the plot. */
export interface Box {
  x: number;
  width: number;
  y: number;
  height: number;
  fill: string;
  /** Colour of its left edge, when it has one. */
  edge: string;
  text: string;
  title: string;
}

/** A row as it is drawn: boxes, or the line of a level. */
export interface Drawn {
  boxes: Box[];
  line: string;
}

/** What of a row is seen at a scale. What is narrower than a pixel is drawn once a pixel. */
export function drawn(row: Row, scale: TimeScale, height: number): Drawn {
  if (row.kind === 'level') return { boxes: [], line: levelPath(row, scale, height - 6) };
  const boxes =
    row.kind === 'bands'
      ? seen(row.bands, scale).map((b) => bandBox(b, scale, height))
      : row.spots.some((s) => s.track !== 1)
        ? [0, 1, 2].flatMap((track) =>
            seen(
              row.spots.filter((s) => s.track === track),
              scale,
            ).map((s) => spotBox(s, scale, 3 + 6 * track, 3)),
          )
        : seen(row.spots, scale).map((s) => spotBox(s, scale, 7, 7));
  return { boxes, line: '' };
}

const bandBox = (b: Band, scale: TimeScale, height: number): Box => {
  const { colour } = KINDS[b.kind];
  // A name stays readable while its band begins left of what is shown.
  const x = Math.max(scale.x(b.from), -3);
  const width = scale.x(b.to) - x;
  return {
    x,
    width,
    y: 2,
    height: height - 4,
    fill: `var(--${colour}-wash)`,
    edge: `var(--${colour})`,
    text: Math.min(width, scale.width - x) > b.state.length * 6.5 + 8 ? b.state : '',
    title: $localize`${b.state}\: ${b.to - b.from} ticks from ${b.from}`,
  };
};

const spotBox = (s: Spot, scale: TimeScale, y: number, height: number): Box => ({
  x: scale.x(s.from),
  width: Math.max(1.5, scale.x(s.to) - scale.x(s.from)),
  y,
  height,
  fill: 'var(--ink-2)',
  edge: '',
  text: '',
  title: $localize`${s.text}\: ${s.to - s.from} ticks from ${s.from}`,
});

/** The stretches that lie in the window, each at least half a pixel beyond the one before. */
function seen<T extends Stretch>(list: readonly T[], scale: TimeScale): T[] {
  let reached = -Infinity;
  return list.filter(({ from, to }) => {
    if (to <= scale.from || from >= scale.from + scale.ticks) return false;
    const end = scale.x(to);
    if (end < reached + 0.5) return false;
    reached = end;
    return true;
  });
}

/** The line of a level over time, in a row so many pixels high: it steps where the level changes. */
export function levelPath(
  { steps, low, full }: { steps: readonly number[]; low: number; full: number },
  scale: TimeScale,
  height: number,
): string {
  const y = (tick: number): string =>
    (height * (1 - Math.min(1, ((steps[tick] ?? 0) - low) / (full - low)))).toFixed(1);
  const first = Math.max(0, Math.floor(scale.from));
  const end = Math.min(steps.length, Math.ceil(scale.from + scale.ticks));
  let path = `M${scale.x(first).toFixed(1)} ${y(first)}`;
  let reached = -Infinity;
  for (let tick = first + 1; tick < end; tick++) {
    if (steps[tick] === steps[tick - 1]) continue;
    const x = scale.x(tick);
    // Two changes within a third of a pixel look like one.
    if (x < reached + 0.3 && tick < end - 1) continue;
    reached = x;
    path += `L${x.toFixed(1)} ${y(tick - 1)}L${x.toFixed(1)} ${y(tick)}`;
  }
  return `${path}L${scale.x(end).toFixed(1)} ${y(end - 1)}`;
}
