import type { Change } from '@glenmark/core/model';
import { type Piece, placed, type Point, shifted } from './pieces';

/** What of pieces can be brought to one line, or spread evenly. */
export type Alignment = 'left' | 'centre' | 'right' | 'top' | 'middle' | 'bottom' | 'spread' | 'spreadUp';

interface Box {
  minX: number;
  maxX: number;
  minY: number;
  maxY: number;
}

const boxOf = ({ points }: Piece): Box => {
  const xs = points.map((p) => p[0]);
  const ys = points.map((p) => p[1]);
  return { minX: Math.min(...xs), maxX: Math.max(...xs), minY: Math.min(...ys), maxY: Math.max(...ys) };
};

/** How far a piece is from where it is to be: the way that its line has to another's. */
const WAY: Record<Exclude<Alignment, 'spread' | 'spreadUp'>, (from: Box, to: Box) => [number, number]> = {
  left: (from, to) => [to.minX - from.minX, 0],
  centre: (from, to) => [(to.minX + to.maxX - from.minX - from.maxX) / 2, 0],
  right: (from, to) => [to.maxX - from.maxX, 0],
  top: (from, to) => [0, to.maxY - from.maxY],
  middle: (from, to) => [0, (to.minY + to.maxY - from.minY - from.maxY) / 2],
  bottom: (from, to) => [0, to.minY - from.minY],
};

/**
 * The changes that bring pieces to the line of the first of them; or that spread them with equal gaps between the
 * outermost two, which stay.
 */
export function aligned(pieces: readonly Piece[], how: Alignment): Change[] {
  if (how === 'spread' || how === 'spreadUp') return spread(pieces, how === 'spread');
  const [to, ...others] = pieces;
  return others.flatMap((piece) => moved(piece, WAY[how](boxOf(piece), boxOf(to!))));
}

function spread(pieces: readonly Piece[], across: boolean): Change[] {
  const ends = (piece: Piece): [number, number] => {
    const { minX, maxX, minY, maxY } = boxOf(piece);
    return across ? [minX, maxX] : [minY, maxY];
  };
  const sorted = [...pieces].sort((a, b) => ends(a)[0] - ends(b)[0]);
  const taken = sorted.reduce((sum, piece) => sum + ends(piece)[1] - ends(piece)[0], 0);
  const whole = ends(sorted.at(-1)!)[1] - ends(sorted[0]!)[0];
  const gap = (whole - taken) / (sorted.length - 1);
  let at = ends(sorted[0]!)[0];
  return sorted.flatMap((piece) => {
    const [from, to] = ends(piece);
    const way = at - from;
    at += to - from + gap;
    return moved(piece, across ? [way, 0] : [0, way]);
  });
}

/** A piece moved; nothing when it stays where it is. */
const moved = (piece: Piece, [dx, dy]: [number, number]): Change[] =>
  Math.abs(dx) + Math.abs(dy) < 1e-9 ? [] : placed(piece, shifted(piece, dx, dy));

/** The changes that remove pieces: the last of a list first, so that the places of the others hold. */
export const removed = (pieces: readonly Piece[]): Change[] =>
  [...pieces]
    .sort((a, b) =>
      typeof a.path[1] === 'number' && typeof b.path[1] === 'number' ? b.path[1] - a.path[1] : 0,
    )
    .map(({ path }) => ({ path }));

/** The changes that give a piece other corners; when it only moved and is one of several, they go the same way. */
export function placedWith(piece: Piece, points: readonly Point[], several: readonly Piece[]): Change[] {
  const way = (i: number): [number, number] => [
    points[i]![0] - piece.points[i]![0],
    points[i]![1] - piece.points[i]![1],
  ];
  const [dx, dy] = way(0);
  const isMove = points.every((_, i) => Math.abs(way(i)[0] - dx) + Math.abs(way(i)[1] - dy) < 1e-9);
  if (!isMove || !several.some((p) => p.key === piece.key)) return placed(piece, points);
  return several.flatMap((p) => moved(p, [dx, dy]));
}
