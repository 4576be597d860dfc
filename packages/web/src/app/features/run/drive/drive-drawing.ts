import type { Machine } from '@glenmark/core/machine';
import type { TickRecord } from '@glenmark/core/run';
import { type Course, cornersOf, moverAt } from '@glenmark/core/world';
import { KINDS } from '../../../shared/ui/kind-mark';
import { partPath } from '../../../shared/ui/part-path';

/** Pixels a metre. */
export const SCALE = 46;
const px = (metres: number): number => metres * SCALE;

/** Ticks of the trail behind the body. */
const TRAIL = 240;

/** A polygon in pixels from the origin of the course. */
const outline = (polygon: Float64Array): string =>
  `M${cornersOf(polygon)
    .map(([x, y]) => `${px(x)} ${-px(y)}`)
    .join('L')}Z`;

/** Everything of a course that stands still, in pixels from its origin, and the movers where they begin. */
export function drawnCourse({ solids, zones, anchors }: Course) {
  return {
    solids: solids
      .filter((s) => s.mover < 0)
      .map((s) => ({
        d: outline(s.polygon),
        tone: s.oneWay ? 'one-way' : s.tag === 'plank' ? 'plank' : '',
      })),
    movers: solids.filter((s) => s.mover >= 0).map((s) => ({ d: outline(s.polygon), mover: s.mover })),
    zones: zones.map((z) => ({
      d: outline(z.polygon),
      tag: z.tag,
      x: px(z.polygon[0]!),
      y: -px(z.polygon[1]!),
    })),
    anchors: anchors.map((a) => ({ x: px(a.x), y: -px(a.y) })),
  };
}

/** How far the movers of a drawn course are from where they begin, at a time (s). */
export const drawnMovers = (
  course: Course,
  movers: readonly { d: string; mover: number }[],
  seconds: number,
): { d: string; shift: string }[] =>
  movers.map(({ d, mover }) => {
    const { x, y } = moverAt(course.movers[mover]!, seconds);
    return { d, shift: `translate(${px(x)} ${-px(y)})` };
  });

/** The body with its lines, and the camera that keeps it in the middle of a view of this size. */
export function drawnBody(
  machine: Machine,
  { body: { x, y, vx, vy }, leaf, stance, anchors }: Pose,
  { width, height }: { width: number; height: number },
) {
  const { colour } = KINDS[machine.states[leaf]!.kind];
  const parts = machine.stances[stance]!.parts.map((p) =>
    partPath({ ...p, width: px(p.width), height: px(p.height), ox: px(p.ox), oy: px(p.oy) }, px(x), -px(y)),
  );
  return {
    camera: `translate(${Math.round(width / 2 - px(x))} ${Math.round(height * 0.62 + px(y))})`,
    x: px(x),
    y: -px(y),
    d: parts.join(''),
    fill: `var(--${colour}-wash)`,
    stroke: `var(--${colour})`,
    lines: anchors.map((a) => ({ x: px(a.x), y: -px(a.y) })),
    speed: Math.sqrt(vx * vx + vy * vy).toFixed(1),
  };
}

/** What is drawn of a body: taken from a record, or from the start before the first tick. */
export interface Pose {
  body: { x: number; y: number; vx: number; vy: number };
  leaf: number;
  stance: number;
  anchors: readonly { x: number; y: number }[];
}

/** The last of the trail in pieces, each in the colour of the state it was made in. */
export function drawnTrail(machine: Machine, records: readonly TickRecord[], tick: number) {
  const pieces: { d: string; stroke: string }[] = [];
  let [colour, last] = ['', ''];
  for (const { body, leaves } of records.slice(Math.max(0, tick - TRAIL), tick + 1)) {
    const at = `${px(body.x).toFixed(1)} ${(-px(body.y)).toFixed(1)}`;
    const next = KINDS[machine.states[leaves[0]!]!.kind].colour;
    if (next !== colour) {
      colour = next;
      pieces.push({ d: `M${last === '' ? at : last}`, stroke: `var(--${colour})` });
    }
    pieces[pieces.length - 1]!.d += `L${at}`;
    last = at;
  }
  return pieces;
}
