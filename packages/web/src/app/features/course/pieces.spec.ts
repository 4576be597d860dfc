import { edit } from '@glenmark/core/model';
import { readCourse } from '@glenmark/core/world';
import { doubled, drawn, mirrored, type Piece, type PieceKind, piecesOf, placed, shifted } from './pieces';

const TEXT = `glenmark: 1
kind: course
name: Small
solids:
  - { name: floor, box: [[0 m, -1 m], [20 m, 0 m]] }
  - { points: [[4 m, 0 m], [8 m, 0 m], [8 m, 2 m]], tag: plank }
oneWays: [{ from: [1 m, 3 m], to: [3 m, 3 m] }]
anchors: { hook1: { at: [5 m, 6 m], tag: hook } }
spawns: { gate: { at: [1 m, 50 cm] } }
`;
const fileOf = (text: string) => readCourse(text).file!;
const find = (text: string, key: string): Piece => piecesOf(fileOf(text)).find((p) => p.key === key)!;

describe('pieces of a course', () => {
  it('are read in metres, whatever the unit', () => {
    expect(find(TEXT, 'spawns.gate').points).toEqual([[1, 0.5]]);
    expect(piecesOf(fileOf(TEXT)).map((p) => p.kind)).toEqual([
      'solid',
      'solid',
      'oneWay',
      'anchor',
      'spawn',
    ]);
  });

  it.each(['solids.0', 'solids.1', 'oneWays.0', 'anchors.hook1', 'spawns.gate'])(
    '%s moves there and back, mirrors twice, and the file loads in between',
    (key) => {
      const piece = find(TEXT, key);
      const away = edit(TEXT, placed(piece, shifted(piece, 2, 1)));
      expect(find(away, key).points).toEqual(piece.points.map(([x, y]) => [x + 2, y + 1]));
      const back = edit(away, placed(find(away, key), shifted(find(away, key), -2, -1)));
      expect(find(back, key).points).toEqual(piece.points);
      const turned = edit(TEXT, placed(piece, mirrored(piece)));
      expect(readCourse(turned).course).toBeDefined();
      expect(mirrored(find(turned, key))).toEqual(piece.points);
    },
  );

  it.each<PieceKind | 'slope'>(['solid', 'slope', 'oneWay', 'mover', 'zone', 'anchor', 'spawn'])(
    'a %s is drawn, found under its path, and can be doubled',
    (kind) => {
      const { path, changes } = drawn(fileOf(TEXT), kind, [2, 4], [5, 6]);
      const text = edit(TEXT, changes);
      expect(readCourse(text).course).toBeDefined();
      const piece = find(text, path.join('.'));
      expect(piece.kind).toBe(kind === 'slope' ? 'solid' : kind);
      const twin = doubled(fileOf(text), piece, 3);
      const twice = edit(text, twin.changes);
      expect(find(twice, twin.path.join('.')).points).toEqual(shifted(piece, 3, 0));
      expect(piecesOf(fileOf(twice))).toHaveLength(piecesOf(fileOf(TEXT)).length + 2);
    },
  );
});
