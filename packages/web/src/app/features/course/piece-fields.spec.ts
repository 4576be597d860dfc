import yard from '../../../../../../examples/mill-yard.yaml' with { loader: 'text' };
import quay from '../../../../../../examples/lower-quay.yaml' with { loader: 'text' };
import { edit } from '@glenmark/core/model';
import { readCourse } from '@glenmark/core/world';
import { fieldsOf } from './piece-fields';
import { piecesOf } from './pieces';

const COURSES = [yard, quay].map((text) => ({ text, file: readCourse(text).file! }));
const pieces = COURSES.flatMap(({ text, file }) => piecesOf(file).map((piece) => ({ text, file, piece })));

describe('the fields of a piece', () => {
  it('say what stands in the file, each at its path', () => {
    for (const { file, piece } of pieces)
      for (const { path, text } of fieldsOf(piece, file)) {
        const value = path.reduce<unknown>(
          (at, key) => (at as Record<string, unknown> | undefined)?.[key],
          file,
        );
        expect(text).toBe(value === undefined ? '' : String(value as string | number));
      }
  });

  it('can each be written back as they are, and change nothing', () => {
    for (const { text, file, piece } of pieces)
      for (const field of fieldsOf(piece, file).filter((f) => f.text !== '')) {
        const after = readCourse(edit(text, [{ path: field.path, value: field.text }]));
        expect(after.course, `${piece.key} ${field.label}`).toEqual(readCourse(text).course);
      }
  });

  it('have a label for each number of each corner', () => {
    for (const { file, piece } of pieces) {
      const labels = fieldsOf(piece, file).map((field) => field.label);
      if (piece.form === 'at') expect(labels).toContain('at x');
      else if (piece.form === 'ends') expect(labels).toEqual(expect.arrayContaining(['from x', 'to y']));
      else expect(labels.filter((label) => label.startsWith('corner'))).toHaveLength(piece.points.length * 2);
    }
  });

  it('are none for a piece that the file no longer has', () => {
    const { file, piece } = pieces[0]!;
    expect(fieldsOf({ ...piece, path: [piece.path[0]!, 999] }, file)).toEqual([]);
  });
});
