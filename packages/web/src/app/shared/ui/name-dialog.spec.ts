import type { HarnessLoader } from '@angular/cdk/testing';
import { TestbedHarnessEnvironment } from '@angular/cdk/testing/testbed';
import { TestBed } from '@angular/core/testing';
import { MatButtonHarness } from '@angular/material/button/testing';
import { MAT_DIALOG_DATA, MatDialogRef } from '@angular/material/dialog';
import { MatFormFieldHarness } from '@angular/material/form-field/testing';
import { MatInputHarness } from '@angular/material/input/testing';
import fc from 'fast-check';
import { NameDialog } from './name-dialog';

async function open(taken: string[]) {
  const closed: (string | undefined)[] = [];
  TestBed.resetTestingModule();
  TestBed.configureTestingModule({
    providers: [
      { provide: MAT_DIALOG_DATA, useValue: { title: 'New state', label: 'Name', action: 'Add', taken } },
      { provide: MatDialogRef, useValue: { close: (name?: string) => closed.push(name) } },
    ],
  });
  const loader: HarnessLoader = TestbedHarnessEnvironment.loader(TestBed.createComponent(NameDialog));
  const field = await loader.getHarness(MatFormFieldHarness);
  const box = await loader.getHarness(MatInputHarness);
  const add = await loader.getHarness(MatButtonHarness.with({ text: 'Add' }));
  return { field, box, add, closed };
}

describe('the dialog that asks for a name', () => {
  it('gives a good name without what is around it, and no other', async () => {
    await fc.assert(
      fc.asyncProperty(fc.stringMatching(/^ ?[A-Za-z_][A-Za-z0-9_]{0,8} ?$/), async (name) => {
        const { box, add, closed } = await open(['Trot']);
        await box.setValue(name);
        await add.click();
        expect(closed).toEqual(name.trim() === 'Trot' ? [] : [name.trim()]);
      }),
      { numRuns: 12, endOnFailure: true },
    );
  });

  it('says at once what is wrong, and stays', async () => {
    const { field, box, add, closed } = await open(['Trot']);
    expect(await field.hasErrors()).toBe(false);
    await box.setValue('Trot');
    expect(await field.getTextErrors()).toEqual(['There is a Trot already.']);
    await box.setValue('2 hops');
    expect(await field.getTextErrors()).toEqual([
      'Letters, digits and underscores, not starting with a digit.',
    ]);
    await add.click();
    expect(closed).toEqual([]);
  });

  it('says so too when nothing was written and the button is pressed', async () => {
    const { field, add, closed } = await open([]);
    await add.click();
    expect(await field.hasErrors()).toBe(true);
    expect(closed).toEqual([]);
  });
});
