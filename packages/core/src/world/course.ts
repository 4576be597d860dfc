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
import { checkText, type Dimension, LENGTH, type Scope } from '../notation/index.js';
import { cornersOf, doubleArea, type Polygon } from './shape.js';

export interface Solid {
  name: string | undefined;
  tag: string;
  polygon: Polygon;
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
  solids: Solid[];
  spawns: Spawn[];
  bounds: { minX: number; minY: number; maxX: number; maxY: number };
}

/** The tag of a solid that does not name one. */
export const DEFAULT_TAG = 'stone';

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
  elapsed: 'elapsed',
};

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
    const { expression, faults } = checkText(String(value), BARE, dimension);
    for (const f of faults) fault(path, f.message, f.start);
    const number = expression?.kind === 'constant' ? expression.value : 0;
    if (Math.abs(number) > MAX_EXTENT)
      fault(path, `found ${number} m, expected at most ${MAX_EXTENT} m from the middle`);
    return number;
  };
  const point = (p: readonly [NotationText, NotationText], path: Path): [number, number] => [
    quantity(p[0], [...path, 0], LENGTH),
    quantity(p[1], [...path, 1], LENGTH),
  ];
  const solids = file.solids.map((solid, i): Solid => {
    const path: Path = ['solids', i];
    let corners: [number, number][];
    if ('box' in solid) {
      const [a, b] = solid.box.map((p, k) => point(p, [...path, 'box', k])) as [
        [number, number],
        [number, number],
      ];
      const [x0, x1] = [Math.min(a[0], b[0]), Math.max(a[0], b[0])];
      const [y0, y1] = [Math.min(a[1], b[1]), Math.max(a[1], b[1])];
      corners = [
        [x0, y0],
        [x1, y0],
        [x1, y1],
        [x0, y1],
      ];
    } else corners = solid.points.map((p, k) => point(p, [...path, 'points', k]));
    let polygon = Float64Array.from(corners.flat());
    const area = doubleArea(polygon);
    if (area < 0) polygon = Float64Array.from([...corners].reverse().flat());
    const wrong =
      Math.abs(area) < 1e-6
        ? 'a solid without area'
        : isConvex(polygon)
          ? undefined
          : 'corners that are not convex';
    if (wrong !== undefined)
      fault(
        [...path, 'box' in solid ? 'box' : 'points'],
        `found ${wrong}, expected a convex polygon (cut it into several)`,
      );
    return { name: solid.name, tag: solid.tag ?? DEFAULT_TAG, polygon };
  });
  const spawns = Object.entries(file.spawns).map(([name, spawn]): Spawn => {
    const [x, y] = point(spawn.at, ['spawns', name, 'at']);
    return { name, x, y, facing: spawn.facing === 'left' ? -1 : 1 };
  });
  const xy = [
    ...solids.flatMap((s) => cornersOf(s.polygon)),
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
  return { course: { name: file.name, solids, spawns, bounds }, diagnostics };
}

/** Beyond this, doubles no longer hold a micrometre with room to spare. */
const MAX_EXTENT = 1_000_000;

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
