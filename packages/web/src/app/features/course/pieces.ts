import type { Change, CourseFile, NotationText, Path } from '@glenmark/core/model';
import { metresOf } from '@glenmark/core/world';

/** The kinds of thing that a course is made of. */
export type PieceKind = 'solid' | 'oneWay' | 'mover' | 'zone' | 'anchor' | 'spawn';

export type Point = [number, number];

/** A thing on a course, with its corners in metres as the file has them. */
export interface Piece {
  kind: PieceKind;
  /** Where it is in the document; also tells pieces apart. */
  path: Path;
  key: string;
  name: string;
  tag: string;
  /** How its corners are written: two opposite ones, several, two ends, or one place. */
  form: 'box' | 'points' | 'ends' | 'at';
  points: Point[];
  /** Where a mover goes, as offsets. */
  route: Point[];
}

/** Lists of a course by the kind of their pieces; those of anchors and spawns go by name. */
export const LISTS: Record<PieceKind, string> = {
  solid: 'solids',
  oneWay: 'oneWays',
  mover: 'movers',
  zone: 'zones',
  anchor: 'anchors',
  spawn: 'spawns',
};

/** What each kind of piece is called. */
export const WORDS: Record<PieceKind, string> = {
  solid: $localize`solid`,
  oneWay: $localize`one-way platform`,
  mover: $localize`mover`,
  zone: $localize`zone`,
  anchor: $localize`anchor`,
  spawn: $localize`spawn`,
};

type Pair = readonly [NotationText, NotationText];
type Named = { name?: string | undefined; tag?: string | undefined };
type Outlined = Named & ({ box: readonly Pair[] } | { points: readonly Pair[] });

/** Every piece of a course, what is drawn below first. */
export function piecesOf(file: CourseFile): Piece[] {
  const of = (
    kind: PieceKind,
    at: string | number,
    thing: Named,
    { form, pairs }: { form: Piece['form']; pairs: readonly Pair[] },
    route: readonly Pair[] = [],
  ): Piece => ({
    kind,
    path: [LISTS[kind], at],
    key: `${LISTS[kind]}.${at}`,
    name: thing.name ?? (typeof at === 'string' ? at : ''),
    tag: thing.tag ?? '',
    form,
    points: pairs.map(pointOf),
    route: route.map(pointOf),
  });
  const outlined = (kind: PieceKind, i: number, thing: Outlined, route: readonly Pair[] = []): Piece =>
    'box' in thing
      ? of(kind, i, thing, { form: 'box', pairs: thing.box }, route)
      : of(kind, i, thing, { form: 'points', pairs: thing.points }, route);
  return [
    ...(file.zones ?? []).map((z, i) => outlined('zone', i, z)),
    ...file.solids.map((s, i) => outlined('solid', i, s)),
    ...(file.oneWays ?? []).map((o, i) => of('oneWay', i, o, { form: 'ends', pairs: [o.from, o.to] })),
    ...(file.movers ?? []).map((m, i) => outlined('mover', i, m, m.path)),
    ...Object.entries(file.anchors ?? {}).map(([name, a]) =>
      of('anchor', name, a, { form: 'at', pairs: [a.at] }),
    ),
    ...Object.entries(file.spawns).map(([name, s]) => of('spawn', name, {}, { form: 'at', pairs: [s.at] })),
  ];
}

const pointOf = ([x, y]: Pair): Point => [metresOf(x), metresOf(y)];

/** The corners that a piece is drawn with. */
export function outlineOf({ form, points }: Piece): Point[] {
  if (form !== 'box') return points;
  const [[x1, y1], [x2, y2]] = points as [Point, Point];
  return [
    [x1, y1],
    [x2, y1],
    [x2, y2],
    [x1, y2],
  ];
}

const written = (points: readonly Point[]): [string, string][] =>
  points.map(([x, y]) => [`${round(x)} m`, `${round(y)} m`]);

const round = (value: number): number => Math.round(value * 1000) / 1000;

/** The change that gives a piece other corners. */
export function placed(piece: Piece, points: readonly Point[]): Change[] {
  const list = written(points);
  switch (piece.form) {
    case 'ends':
      return [
        { path: [...piece.path, 'from'], value: list[0] },
        { path: [...piece.path, 'to'], value: list[1] },
      ];
    case 'at':
      return [{ path: [...piece.path, 'at'], value: list[0] }];
    default:
      return [{ path: [...piece.path, piece.form], value: list }];
  }
}

export const shifted = ({ points }: Piece, dx: number, dy: number): Point[] =>
  points.map(([x, y]) => [x + dx, y + dy]);

/** Mirrored about the upright through its own middle. */
export function mirrored({ points }: Piece): Point[] {
  const xs = points.map((p) => p[0]);
  const sum = Math.min(...xs) + Math.max(...xs);
  return points.map(([x, y]) => [sum - x, y]);
}

/** A new piece drawn from one place to another, and the path under which it will be found. */
export function drawn(
  file: CourseFile,
  kind: PieceKind | 'slope',
  from: Point,
  to: Point,
): { path: Path; changes: Change[] } {
  const box = written([from, to]);
  if (kind === 'spawn' || kind === 'anchor') {
    const list = (kind === 'spawn' ? file.spawns : file.anchors) ?? {};
    const path = [LISTS[kind], freeName(kind === 'spawn' ? 'spawn' : 'hook', list)];
    const value = kind === 'spawn' ? { at: box[1] } : { at: box[1], tag: 'hook' };
    return { path, changes: [{ path, value }] };
  }
  const value = {
    solid: { box },
    slope: { points: written(ramp(from, to)) },
    oneWay: { from: box[0], to: [box[1]![0], box[0]![1]] },
    mover: {
      box,
      path: [
        ['0 m', '0 m'],
        ['4 m', '0 m'],
      ],
      period: '4 s',
    },
    zone: { tag: 'water', box },
  }[kind];
  return added(file, kind === 'slope' ? 'solid' : kind, value);
}

/** A piece once more, a step to the right. */
export function doubled(file: CourseFile, piece: Piece, by: number): { path: Path; changes: Change[] } {
  const own = (file as unknown as Record<string, Record<string | number, object>>)[LISTS[piece.kind]]!;
  const [, at] = piece.path;
  const copy = structuredClone(own[at as number]!) as Record<string, unknown>;
  const points = written(shifted(piece, by, 0));
  if (piece.form === 'ends') [copy['from'], copy['to']] = points;
  else if (piece.form === 'at') copy['at'] = points[0];
  else copy[piece.form] = points;
  if (piece.form !== 'at') return added(file, piece.kind, copy);
  const path = [LISTS[piece.kind], freeName(String(at), own)];
  return { path, changes: [{ path, value: copy }] };
}

function added(file: CourseFile, kind: PieceKind, value: unknown): { path: Path; changes: Change[] } {
  const list = (file as unknown as Record<string, unknown[] | undefined>)[LISTS[kind]];
  const path = [LISTS[kind], list?.length ?? 0];
  const change =
    list === undefined || list.length === 0
      ? { path: [LISTS[kind]], value: [value] }
      : { path, value, insert: true };
  return { path, changes: [change] };
}

/** A ramp that climbs from one place to another, on its foot. */
const ramp = (from: Point, to: Point): Point[] => {
  const foot = Math.min(from[1], to[1]);
  const high = from[1] > to[1] ? from : to;
  return [[from[0], foot], [to[0], foot], high];
};

const freeName = (name: string, taken: object): string => {
  const stem = name.replace(/\d+$/, '');
  let n = 1;
  while (Object.hasOwn(taken, `${stem}${n}`)) n++;
  return `${stem}${n}`;
};

/** The rectangle that holds all pieces, with some room round it (metres). */
export function extentOf(pieces: readonly Piece[]): {
  minX: number;
  maxX: number;
  minY: number;
  maxY: number;
} {
  const all = pieces.flatMap((p) => p.points);
  const [xs, ys] = [all.map((p) => p[0]), all.map((p) => p[1])];
  return {
    minX: Math.min(...xs, 0) - 2,
    maxX: Math.max(...xs, 10) + 2,
    minY: Math.min(...ys, 0) - 2,
    maxY: Math.max(...ys, 4) + 3,
  };
}
