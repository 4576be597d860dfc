import draft from '../../../../../../examples/courier-draft.yaml' with { loader: 'text' };
import { findAll, repairsOf } from '@glenmark/core/findings';
import { readMoveset } from '@glenmark/core/machine';
import { edit } from '@glenmark/core/model';
import { previewOf } from './preview';

describe('the preview of a repair', () => {
  const machine = readMoveset(draft).machine!;
  const repairs = findAll(machine, []).flatMap((finding) => repairsOf(machine, finding));

  it('is what the repair does: the lines that go are there, those that come are there after', () => {
    expect(repairs.length).toBeGreaterThan(3);
    for (const { changes } of repairs) {
      let lines = edit(draft, []).split('\n');
      const hunks = previewOf(draft, changes);
      expect(hunks.length).toBeGreaterThan(0);
      for (const { line, gone, come } of hunks) {
        expect(lines.slice(line - 1, line - 1 + gone.length).map((l) => l.trimEnd())).toEqual(gone);
        lines = [...lines.slice(0, line - 1), ...come, ...lines.slice(line - 1 + gone.length)];
      }
      expect(lines.join('\n')).toBe(edit(draft, changes));
    }
  });

  it('is empty for no change', () => {
    expect(previewOf(draft, [])).toEqual([]);
  });
});
