import { SPAWN_SLACK } from '../tolerances.js';
import {
  type CourseFile,
  diagnosticAt,
  type Diagnostic,
  isUsable,
  type NotationText,
  type Path,
  readFile,
  type Source,
} from '../model/index.js';
import {
  ACCELERATION,
  checkText,
  type Dimension,
  LENGTH,
  RATE,
  type Scope,
  SPEED,
  TIME,
} from '../notation/index.js';
import { cornersOf, doubleArea, type Polygon } from './shape.js';

export interface Solid {
  name: string | undefined;
  tag: string;
  polygon: Polygon;
  /** A platform that stops only what comes from above: its outline is a line. */
  oneWay: boolean;
  /** Index of the mover that it is, or −1. */
  mover: number;
}

/** Where a moving solid is, as a function of the tick: offsets there and back along a path in one period. */
export interface Mover {
  path: { x: number; y: number; at: number }[];
  length: number;
  /** Seconds. */
  period: number;
}

export interface Zone {
  name: string;
  tag: string;
  polygon: Polygon;
  wind: { x: number; y: number } | undefined;
  launch: { x: number; y: number } | undefined;
  drag: number;
  unlocks: string | undefined;
  once: boolean;
}

export interface Anchor {
  name: string;
  tag: string;
  x: number;
  y: number;
}

export interface Spawn {
  name: string;
  x: number;
  y: number;
  facing: 1 | -1;
}

/** A course in metres, checked: every solid is a convex polygon with its corners counter-clockwise. */
export interface Course {
  name: string;
  /** Fixed solids first, then one-way platforms, then movers where they begin. */
  solids: Solid[];
  movers: Mover[];
  zones: Zone[];
  anchors: Anchor[];
  spawns: Spawn[];
  bounds: { minX: number; minY: number; maxX: number; maxY: number };
}

/** How thick a one-way platform is below its line (metres). */
const PLANK = 0.02;

/** The tag of a solid that does not name one. */
export const DEFAULT_TAG = 'stone';

/** Corners of one outline at most: what is round needs far fewer. */
const MAX_CORNERS = 1000;

/** A scope with nothing in it but units: what a course can say. */
const BARE: Scope = {
  rate: 60,
  pixel: undefined,
  constant: () => undefined,
  variable: () => undefined,
  things: () => [],
  names: () => [],
  slot: () => undefined,
  memory: () => undefined,
  elapsed: { fact: 'elapsed' },
};

/** A quantity as courses hold it, in SI units (0 for a text that is none), with what is wrong with its text. */
export function readQuantity(
  text: NotationText,
  dimension: Dimension = LENGTH,
): { value: number; faults: { message: string; start?: number }[] } {
  const { expression, faults } = checkText(String(text), BARE, dimension);
  const value = expression?.kind === 'constant' ? expression.value : 0;
  if (Math.abs(value) <= MAX_EXTENT) return { value, faults };
  return { value, faults: [{ message: `found ${String(text)}, expected at most ${MAX_EXTENT} either way` }] };
}

/** A length of a course in metres; 0 for a text that is none, which `readCourse` tells of. */
export const metresOf = (text: NotationText): number => readQuantity(text).value;

/** Reads a course from YAML or JSON text; all faults, each at its place. */
export function readCourse(text: string): { course?: Course; file?: CourseFile; diagnostics: Diagnostic[] } {
  const { file, source, diagnostics } = readFile('course', text);
  if (file === undefined || source === undefined) return { diagnostics };
  const built = buildCourse(file, source);
  return isUsable(built.diagnostics) ? { ...built, file } : { file, diagnostics: built.diagnostics };
}

function buildCourse(file: CourseFile, source: Source): { course: Course; diagnostics: Diagnostic[] } {
  const diagnostics: Diagnostic[] = [];
  const fault = (path: Path, message: string, offset?: number): void => {
    diagnostics.push(diagnosticAt(source, path, message, offset === undefined ? {} : { offset }));
  };
  const quantity = (value: NotationText, path: Path, dimension: Dimension): number => {
    const read = readQuantity(value, dimension);
    for (const f of read.faults) fault(path, f.message, f.start);
    return read.value;
  };
  const point = (p: readonly [NotationText, NotationText], path: Path): [number, number] => [
    quantity(p[0], [...path, 0], LENGTH),
    quantity(p[1], [...path, 1], LENGTH),
  ];
  type Outlined = { box: [Pair, Pair] } | { points: Pair[] };
  const outline = (thing: Outlined, path: Path): Polygon => {
    const key = 'box' in thing ? 'box' : 'points';
    if ('points' in thing && thing.points.length > MAX_CORNERS) {
      fault([...path, key], `found ${thing.points.length} corners, expected at most ${MAX_CORNERS}`);
      return new Float64Array(0);
    }
    const given = ('box' in thing ? thing.box : thing.points).map((p, k) => point(p, [...path, key, k]));
    const corners = 'box' in thing ? boxCorners(given[0]!, given[1]!) : given;
    const polygon = Float64Array.from(corners.flat());
    const area = doubleArea(polygon);
    const turned = area < 0 ? Float64Array.from([...corners].reverse().flat()) : polygon;
    const wrong =
      Math.abs(area) < 1e-6
        ? 'an outline without area'
        : isConvex(turned)
          ? undefined
          : 'corners that are not convex';
    if (wrong !== undefined)
      fault([...path, key], `found ${wrong}, expected a convex polygon (cut it into several)`);
    return turned;
  };
  const fixed = file.solids.map((solid, i): Solid => ({
    name: solid.name,
    tag: solid.tag ?? DEFAULT_TAG,
    polygon: outline(solid, ['solids', i]),
    oneWay: false,
    mover: -1,
  }));
  const oneWays = (file.oneWays ?? []).map((platform, i): Solid => {
    const path: Path = ['oneWays', i];
    const ends = [point(platform.from, [...path, 'from']), point(platform.to, [...path, 'to'])].sort(
      (a, b) => a[0] - b[0],
    );
    if (ends[1]![0] - ends[0]![0] < 1e-3)
      fault(path, 'found a one-way platform without width, expected one that can be stood on');
    const [[ax, ay], [bx, by]] = ends as [[number, number], [number, number]];
    const polygon = Float64Array.from([ax, ay - PLANK, bx, by - PLANK, bx, by, ax, ay]);
    return { name: platform.name, tag: platform.tag ?? 'plank', polygon, oneWay: true, mover: -1 };
  });
  const movers = (file.movers ?? []).map((mover, i): Mover => {
    const path: Path = ['movers', i];
    const period = quantity(mover.period, [...path, 'period'], TIME);
    let length = 0;
    const offsets = mover.path.map((p, k) => point(p, [...path, 'path', k]));
    const legs = offsets.map(([x, y], k) => {
      const before = offsets[k - 1];
      if (before !== undefined) length += Math.sqrt((x - before[0]) ** 2 + (y - before[1]) ** 2);
      return { x, y, at: length };
    });
    if (offsets[0]![0] !== 0 || offsets[0]![1] !== 0)
      fault([...path, 'path', 0], 'found a path that begins elsewhere, expected it to begin with [0 m, 0 m]');
    if (length === 0) fault([...path, 'path'], 'found a path without length, expected points that differ');
    if (period <= 0) fault([...path, 'period'], `found ${String(mover.period)}, expected a period above 0 s`);
    return { path: legs, length, period };
  });
  const moving = (file.movers ?? []).map((mover, i): Solid => ({
    name: mover.name,
    tag: mover.tag ?? DEFAULT_TAG,
    polygon: outline(mover, ['movers', i]),
    oneWay: false,
    mover: i,
  }));
  const zones = (file.zones ?? []).map((zone, i): Zone => {
    const path: Path = ['zones', i];
    const vector = (key: 'wind' | 'launch', dimension: Dimension) => {
      const given = zone[key];
      return given === undefined
        ? undefined
        : {
            x: quantity(given[0], [...path, key, 0], dimension),
            y: quantity(given[1], [...path, key, 1], dimension),
          };
    };
    return {
      name: zone.name ?? zone.tag,
      tag: zone.tag,
      polygon: outline(zone, path),
      wind: vector('wind', ACCELERATION),
      launch: vector('launch', SPEED),
      drag: zone.drag === undefined ? 0 : quantity(zone.drag, [...path, 'drag'], RATE),
      unlocks: zone.unlocks,
      once: zone.once ?? false,
    };
  });
  const anchors = Object.entries(file.anchors ?? {}).map(([name, anchor]): Anchor => {
    const [x, y] = point(anchor.at, ['anchors', name, 'at']);
    return { name, tag: anchor.tag, x, y };
  });
  const spawns = Object.entries(file.spawns).map(([name, spawn]): Spawn => {
    const [x, y] = point(spawn.at, ['spawns', name, 'at']);
    return { name, x, y, facing: spawn.facing === 'left' ? -1 : 1 };
  });
  const solids = [...fixed, ...oneWays, ...moving];
  for (const spawn of spawns) {
    const solid = fixed.find((s) => depthIn(s.polygon, spawn.x, spawn.y) > SPAWN_SLACK);
    if (solid === undefined) continue;
    const what = solid.name === undefined ? 'a solid' : `the solid '${solid.name}'`;
    const message = `the spawn '${spawn.name}' is inside ${what}, expected a place where feet can stand`;
    diagnostics.push(diagnosticAt(source, ['spawns', spawn.name, 'at'], message, { severity: 'warning' }));
  }
  const xy = [
    ...solids.flatMap((s) => cornersOf(s.polygon)),
    ...moving.flatMap((s, i) =>
      movers[i]!.path.flatMap(({ x, y }) =>
        cornersOf(s.polygon).map(([cx, cy]): [number, number] => [cx + x, cy + y]),
      ),
    ),
    ...spawns.map((s): [number, number] => [s.x, s.y]),
  ];
  const bounds = xy.reduce(
    (b, [x, y]) => ({
      minX: Math.min(b.minX, x),
      minY: Math.min(b.minY, y),
      maxX: Math.max(b.maxX, x),
      maxY: Math.max(b.maxY, y),
    }),
    { minX: Infinity, minY: Infinity, maxX: -Infinity, maxY: -Infinity },
  );
  return { course: { name: file.name, solids, movers, zones, anchors, spawns, bounds }, diagnostics };
}

type Pair = [NotationText, NotationText];

function boxCorners(a: [number, number], b: [number, number]): [number, number][] {
  const [x0, x1] = [Math.min(a[0], b[0]), Math.max(a[0], b[0])];
  const [y0, y1] = [Math.min(a[1], b[1]), Math.max(a[1], b[1])];
  return [
    [x0, y0],
    [x1, y0],
    [x1, y1],
    [x0, y1],
  ];
}

/** Where a mover is at a time (seconds), as an offset from where it begins. */
export function moverAt(mover: Mover, seconds: number): { x: number; y: number } {
  const offset = new Float64Array(2);
  putMover(mover, seconds, offset, 0);
  return { x: offset[0]!, y: offset[1]! };
}

/** The same without making an object: x and y go into a list, at a place. */
export function putMover(mover: Mover, seconds: number, into: Float64Array, at: number): void {
  const phase = seconds / mover.period - Math.floor(seconds / mover.period);
  const distance = mover.length * (phase < 0.5 ? 2 * phase : 2 - 2 * phase);
  let i = 1;
  while (i < mover.path.length - 1 && distance > mover.path[i]!.at) i++;
  const a = mover.path[i - 1]!;
  const b = mover.path[i]!;
  const share = b.at === a.at ? 0 : (distance - a.at) / (b.at - a.at);
  into[at] = a.x + (b.x - a.x) * share;
  into[at + 1] = a.y + (b.y - a.y) * share;
}

/** Beyond this, doubles no longer hold a micrometre with room to spare. */
const MAX_EXTENT = 1_000_000;

/** How far a point is inside a convex polygon: the least distance to a side; negative outside. */
function depthIn(polygon: Polygon, x: number, y: number): number {
  const corners = cornersOf(polygon);
  return corners.reduce((min, [ax, ay], i) => {
    const [bx, by] = corners[(i + 1) % corners.length]!;
    const length = Math.sqrt((bx - ax) ** 2 + (by - ay) ** 2);
    return Math.min(min, ((bx - ax) * (y - ay) - (by - ay) * (x - ax)) / length);
  }, Infinity);
}

/** Convex and not wound round twice: every corner turns left, and the turns add up to one round. */
function isConvex(polygon: Polygon): boolean {
  const corners = cornersOf(polygon);
  const n = corners.length;
  let quadrantTurns = 0;
  for (let i = 0; i < n; i++) {
    const [a, b, c] = [corners[i]!, corners[(i + 1) % n]!, corners[(i + 2) % n]!];
    const [ux, uy, vx, vy] = [b[0] - a[0], b[1] - a[1], c[0] - b[0], c[1] - b[1]];
    if (ux * vy - uy * vx < -1e-9 || (ux === 0 && uy === 0)) return false;
    if (uy < 0 && vy >= 0) quadrantTurns++;
  }
  return quadrantTurns <= 1;
}
