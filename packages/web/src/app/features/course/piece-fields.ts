import type { CourseFile, Path } from '@glenmark/core/model';
import { LISTS, type Piece } from './pieces';

/** A field of a piece as its row shows it. */
export interface PieceField {
  label: string;
  path: Path;
  text: string;
  placeholder: string;
}

/** Everything that can be said of a piece in numbers and words, corners first. */
export function fieldsOf(piece: Piece, file: CourseFile): PieceField[] {
  const list = (file as unknown as Record<string, Record<string | number, Record<string, unknown>>>)[
    LISTS[piece.kind]
  ]!;
  const own = list[piece.path[1] as number];
  if (own === undefined) return [];
  const field = (label: string, keys: (string | number)[], placeholder = ''): PieceField => {
    const value = keys.reduce<unknown>(
      (at, key) => (at as Record<string | number, unknown> | undefined)?.[key],
      own,
    );
    return {
      label,
      path: [...piece.path, ...keys],
      text: value === undefined ? '' : String(value as string | number),
      placeholder,
    };
  };
  const pair = (label: string, keys: (string | number)[], placeholder = ''): PieceField[] => [
    field(`${label} x`, [...keys, 0], placeholder),
    field(`${label} y`, [...keys, 1], placeholder),
  ];
  const corners =
    piece.form === 'at'
      ? pair($localize`at`, ['at'])
      : piece.form === 'ends'
        ? [...pair($localize`from`, ['from']), ...pair($localize`to`, ['to'])]
        : piece.points.flatMap((_, i) => pair($localize`corner ${i + 1}`, [piece.form, i]));
  const more: Record<Piece['kind'], () => PieceField[]> = {
    solid: () => [field('name', ['name'], $localize`none`), field('tag', ['tag'], 'stone')],
    oneWay: () => [field('name', ['name'], $localize`none`), field('tag', ['tag'], 'stone')],
    mover: () => [
      field('name', ['name'], $localize`none`),
      field('tag', ['tag'], 'stone'),
      field('period', ['period']),
      ...piece.route.slice(1).flatMap((_, i) => pair($localize`goes by`, ['path', i + 1])),
    ],
    zone: () => [
      field('tag', ['tag']),
      field('name', ['name'], $localize`none`),
      field('drag', ['drag'], $localize`none`),
      field('unlocks', ['unlocks'], $localize`nothing`),
      ...('wind' in own ? pair('wind', ['wind']) : []),
      ...('launch' in own ? pair('launch', ['launch']) : []),
    ],
    anchor: () => [field('tag', ['tag'])],
    spawn: () => [field('facing', ['facing'], 'right')],
  };
  return [...more[piece.kind](), ...corners];
}
