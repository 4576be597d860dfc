import { TestbedHarnessEnvironment } from '@angular/cdk/testing/testbed';
import { TestBed } from '@angular/core/testing';
import { MatButtonHarness } from '@angular/material/button/testing';
import { MAT_DIALOG_DATA, MatDialogRef } from '@angular/material/dialog';
import { MatFormFieldHarness } from '@angular/material/form-field/testing';
import { MatInputHarness } from '@angular/material/input/testing';
import { MatSelectHarness } from '@angular/material/select/testing';
import quay from '../../../../../../examples/lower-quay.yaml' with { loader: 'text' };
import yard from '../../../../../../examples/mill-yard.yaml' with { loader: 'text' };
import { readCourse } from '@glenmark/core/world';
import { type NewTape, NewTapeDialog } from './new-tape-dialog';

const COURSES = [
  { id: 'mill-yard', name: 'Mill yard', text: yard },
  { id: 'lower-quay', name: 'Lower quay', text: quay },
];
const spawnsOf = (text: string): string[] => readCourse(text).course!.spawns.map((s) => s.name);

async function open(courses = COURSES, taken: string[] = []) {
  const closed: NewTape[] = [];
  TestBed.configureTestingModule({
    providers: [
      { provide: MAT_DIALOG_DATA, useValue: { courses, taken } },
      { provide: MatDialogRef, useValue: { close: (tape: NewTape) => closed.push(tape) } },
    ],
  });
  const fixture = TestBed.createComponent(NewTapeDialog);
  const loader = TestbedHarnessEnvironment.loader(fixture);
  const select = (label: string) =>
    loader.getHarness(MatSelectHarness.with({ selector: `[aria-label="${label}"]` }));
  const errors = async (): Promise<string[]> =>
    (
      await Promise.all((await loader.getAllHarnesses(MatFormFieldHarness)).map((f) => f.getTextErrors()))
    ).flat();
  return {
    closed,
    errors,
    name: await loader.getHarness(MatInputHarness),
    course: await select('Course'),
    spawn: await select('Spawn'),
    create: await loader.getHarness(MatButtonHarness.with({ text: 'Create' })),
  };
}

describe('the dialog of a new tape', () => {
  it('gives its name, the first course and its first spawn', async () => {
    const { name, create, closed } = await open();
    await name.setValue('  Over the crate ');
    await create.click();
    expect(closed).toEqual([{ name: 'Over the crate', course: 'mill-yard', spawn: spawnsOf(yard)[0] }]);
  });

  it('offers the spawns of the course that is chosen, the first of them chosen', async () => {
    const { name, course, spawn, create, closed } = await open();
    await spawn.open();
    expect(await Promise.all((await spawn.getOptions()).map((o) => o.getText()))).toEqual(spawnsOf(yard));
    await spawn.clickOptions({ text: spawnsOf(yard)[1]! });
    await course.clickOptions({ text: 'Lower quay' });
    expect(await spawn.getValueText()).toBe(spawnsOf(quay)[0]);
    await name.setValue('Round');
    await create.click();
    expect(closed).toEqual([{ name: 'Round', course: 'lower-quay', spawn: spawnsOf(quay)[0] }]);
  });

  it.each([
    ['', 'A tape needs a name.'],
    ['   ', 'A tape needs a name.'],
    ['Over the Crate', 'There is a tape of that name already.'],
  ])('does not take the name "%s"', async (text, says) => {
    const { name, create, errors, closed } = await open(COURSES, ['over-the-crate']);
    await name.setValue(text);
    await create.click();
    expect(await errors()).toEqual([says]);
    expect(closed).toEqual([]);
  });

  it('asks for a course where there is none', async () => {
    const { name, create, course, closed } = await open([]);
    await name.setValue('Round');
    await create.click();
    expect(await course.isValid()).toBe(false);
    expect(closed).toEqual([]);
  });
});
