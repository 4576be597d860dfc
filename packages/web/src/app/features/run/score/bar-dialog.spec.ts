import { TestbedHarnessEnvironment } from '@angular/cdk/testing/testbed';
import { TestBed } from '@angular/core/testing';
import { MatButtonHarness } from '@angular/material/button/testing';
import { MAT_DIALOG_DATA, MatDialogRef } from '@angular/material/dialog';
import { MatFormFieldHarness } from '@angular/material/form-field/testing';
import { MatInputHarness } from '@angular/material/input/testing';
import type { Span } from '@glenmark/core/run';
import { BarDialog } from './bar-dialog';

async function open(kind: 'button' | 'axis' | 'aim', span: Span) {
  const closed: Span[] = [];
  TestBed.configureTestingModule({
    providers: [
      { provide: MAT_DIALOG_DATA, useValue: { control: 'hop', kind, span } },
      { provide: MatDialogRef, useValue: { close: (s: Span) => closed.push(s) } },
    ],
  });
  const loader = TestbedHarnessEnvironment.loader(TestBed.createComponent(BarDialog));
  const boxes = await loader.getAllHarnesses(MatInputHarness);
  const set = await loader.getHarness(MatButtonHarness.with({ text: 'Set' }));
  const errors = async (): Promise<string[]> =>
    (
      await Promise.all((await loader.getAllHarnesses(MatFormFieldHarness)).map((f) => f.getTextErrors()))
    ).flat();
  return { boxes, set, errors, closed };
}

describe('a bar by its numbers', () => {
  it('begins as it is, and is set as it was written', async () => {
    const { boxes, set, closed } = await open('axis', { from: 5, length: 3, value: -1 });
    expect(await Promise.all(boxes.map((b) => b.getValue()))).toEqual(['5', '3', '-1']);
    await boxes[1]!.setValue('12');
    await boxes[2]!.setValue('−0.5');
    await set.click();
    expect(closed).toEqual([{ from: 5, length: 12, value: -0.5 }]);
  });

  it.each([
    [0, '-1', 'whole tick'],
    [0, '1.5', 'whole tick'],
    [1, '0', 'at least 1'],
    [2, 'fast', 'a number'],
    [2, '0', 'other than rest'],
  ])('says in field %d that %s is not what it can be', async (field, text, says) => {
    const { boxes, set, errors, closed } = await open('axis', { from: 5, length: 3, value: 1 });
    await boxes[field]!.setValue(text);
    await set.click();
    expect((await errors()).join()).toContain(says);
    expect(closed).toEqual([]);
  });

  it('of a button has no value to write', async () => {
    const { boxes } = await open('button', { from: 0, length: 1, value: 1 });
    expect(boxes).toHaveLength(2);
  });
});
