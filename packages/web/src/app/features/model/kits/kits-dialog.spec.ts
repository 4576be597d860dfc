import { TestbedHarnessEnvironment } from '@angular/cdk/testing/testbed';
import { signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { MatButtonHarness } from '@angular/material/button/testing';
import { MAT_DIALOG_DATA, MatDialogRef } from '@angular/material/dialog';
import { MatInputHarness } from '@angular/material/input/testing';
import { MatSelectHarness } from '@angular/material/select/testing';
import courier from '../../../../../../../examples/courier.yaml' with { loader: 'text' };
import { readMoveset } from '@glenmark/core/machine';
import { type Change, edit } from '@glenmark/core/model';
import { Workspace } from '../../../data/workspace';
import { KITS } from './kits';
import { KitsDialog } from './kits-dialog';

async function open(text = courier) {
  const { machine } = readMoveset(text);
  const applied: string[] = [];
  const closed: string[] = [];
  const workspace = {
    machine: signal(machine),
    compiled: signal(readMoveset(text)),
    preview: (changes: Change[]) => readMoveset(edit(text, changes)),
    apply: (_: string, changes: Change[]) => (applied.push(edit(text, changes)), []),
  };
  TestBed.configureTestingModule({
    providers: [
      { provide: MAT_DIALOG_DATA, useValue: { lane: 0 } },
      { provide: MatDialogRef, useValue: { close: (name: string) => closed.push(name) } },
      { provide: Workspace, useValue: workspace },
    ],
  });
  const fixture = TestBed.createComponent(KitsDialog);
  const element = fixture.nativeElement as HTMLElement;
  const loader = TestbedHarnessEnvironment.loader(fixture);
  await fixture.whenStable();
  const choose = async (kit: string) => {
    const options = [...element.querySelectorAll<HTMLElement>('[role="option"]')];
    options.find((option) => option.textContent.startsWith(kit))!.click();
    await fixture.whenStable();
  };
  return {
    loader,
    choose,
    applied,
    closed,
    wrong: () => element.querySelector('.bad')!.textContent.trim(),
    take: await loader.getHarness(MatButtonHarness.with({ text: 'Add kit' })),
  };
}

describe('the dialog of kits', () => {
  it('adds each kit as it is offered, and what comes of it loads', async () => {
    const { choose, take, applied, closed, wrong } = await open();
    for (const kit of KITS) {
      await choose(kit.name);
      expect(wrong()).toBe('');
      await take.click();
      expect(closed.at(-1)).toBe(kit.name);
      expect(readMoveset(applied.at(-1)!).machine, kit.name).toBeDefined();
    }
    expect(new Set(applied).size).toBe(KITS.length);
  }, 120_000);

  it('takes what the moveset has for a part, when a person says so', async () => {
    const { loader, choose, take, applied } = await open();
    await choose('Dash');
    const part = await loader.getHarness(MatSelectHarness.with({ selector: '[aria-label^="button"]' }));
    await part.open();
    await part.clickOptions({ text: 'existing: gust' });
    await take.click();
    expect(readMoveset(applied[0]!).machine!.controls.map((c) => c.name)).toEqual(
      readMoveset(courier).machine!.controls.map((c) => c.name),
    );
    expect(applied[0]).toMatch(/pressed\(gust\) and ready/);
  }, 30_000);

  it('refuses a name that is none, and one that is given twice, and adds nothing', async () => {
    const { loader, choose, take, applied, wrong } = await open();
    await choose('Dash');
    const [name] = await loader.getAllHarnesses(MatInputHarness);
    await name!.setValue('2 words');
    expect(wrong()).toContain('does not start with a digit');
    await take.click();
    expect(applied).toEqual([]);
    const [, second] = await loader.getAllHarnesses(MatInputHarness);
    await name!.setValue('Same');
    await second!.setValue('Same');
    expect(wrong()).toBe('Two parts of the kit would both be named Same.');
  }, 30_000);
});
