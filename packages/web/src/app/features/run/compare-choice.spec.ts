import { TestbedHarnessEnvironment } from '@angular/cdk/testing/testbed';
import { signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { MatButtonHarness } from '@angular/material/button/testing';
import { MatInputHarness } from '@angular/material/input/testing';
import { MatSelectHarness } from '@angular/material/select/testing';
import { of, throwError } from 'rxjs';
import courier from '../../../../../../examples/courier.yaml' with { loader: 'text' };
import { readMoveset } from '@glenmark/core/machine';
import { Api } from '../../data/api';
import { Revisions } from '../../data/revisions';
import { Workspace } from '../../data/workspace';
import { dialRows } from '../../shared/document/dials';
import { CompareChoice, isLog, type Other } from './compare-choice';

const compiled = readMoveset(courier);
const machine = compiled.machine!;
const dials = dialRows(machine, compiled.file!).filter((d) => !d.derived);
const OWN = { moveset: courier, course: 'the yard', tape: 'the slide' };

/** The choice of the courier's slide, with all that it said is compared with; one earlier revision cannot be read. */
async function choosing() {
  TestBed.configureTestingModule({
    providers: [
      {
        provide: Workspace,
        useValue: {
          id: signal('courier'),
          compiled: signal(compiled),
          machine: signal(machine),
          tapes: signal([
            { moveset: 'courier', tape: { id: 'slide', name: 'Slide', text: 'the slide' } },
            {
              moveset: 'courier',
              tape: { id: 'ferry', name: 'Ferry', text: 'the ferry' },
              course: { text: 'the mill' },
            },
            { moveset: 'marram', tape: { id: 'kite', name: 'Kite', text: 'the kite' } },
          ]),
        },
      },
      {
        provide: Revisions,
        useValue: {
          earlier: signal([
            { number: 4, message: 'longer slide' },
            { number: 3, message: 'lost' },
          ]),
        },
      },
      {
        provide: Api,
        useValue: {
          readRevision: (_kind: string, _id: string, number: number) =>
            number === 4 ? of({ text: 'as it was' }) : throwError(() => new Error('gone')),
        },
      },
    ],
  });
  const fixture = TestBed.createComponent(CompareChoice);
  fixture.componentRef.setInput('own', OWN);
  fixture.componentRef.setInput('tapeId', 'slide');
  const chosen: (Other | undefined)[] = [];
  fixture.componentInstance.other.subscribe((other) => chosen.push(other));
  await fixture.whenStable();
  const loader = TestbedHarnessEnvironment.loader(fixture);
  const choose = async (label: string, text: string | RegExp): Promise<void> => {
    const select = await loader.getHarness(MatSelectHarness.with({ selector: `[aria-label="${label}"]` }));
    await select.open();
    await select.clickOptions({ text });
  };
  const page = fixture.nativeElement as HTMLElement;
  return {
    loader,
    choose,
    page,
    fixture,
    last: () => chosen.at(-1),
    wrong: () => page.querySelector('.bad')!.textContent,
    chosen,
  };
}

describe('what a run is compared with', () => {
  afterEach(() => TestBed.resetTestingModule());

  it('is all tick rates at first, or one other than its own', async () => {
    const { choose, chosen, last } = await choosing();
    expect(chosen).toEqual(['rates']);
    await choose('Compare with', 'one other tick rate, drawn over');
    await choose('Ticks per second', '144');
    expect(last()).toEqual({ ...OWN, label: 'at 144', rate: 144 });
  });

  it('is another tape of the same moveset, on its own course', async () => {
    const { choose, loader, last } = await choosing();
    const select = await loader.getHarness(MatSelectHarness);
    await select.open();
    const names = await Promise.all((await select.getOptions()).map((option) => option.getText()));
    expect(names.slice(-2)).toEqual(['a log of the game', 'Ferry']);
    await choose('Compare with', 'Ferry');
    expect(last()).toEqual({ moveset: courier, course: 'the mill', tape: 'the ferry', label: 'Ferry' });
  });

  it('is another way to step, which the moveset then says', async () => {
    const { choose, last } = await choosing();
    await choose('Compare with', 'another way the engine steps');
    await choose('In a tick the body moves', /^trapezoid/);
    const other = last() as { moveset: string; label: string };
    expect(other.label).toBe('trapezoid');
    expect(readMoveset(other.moveset).machine!.integration).toBe('trapezoid');
  });

  it('is other dials, as they are typed; one that does not load is told, and nothing is compared', async () => {
    const { choose, last, loader, wrong } = await choosing();
    await choose('Compare with', 'other dials');
    const valueOf = (moveset: string, name: string) => {
      const read = readMoveset(moveset);
      return dialRows(read.machine!, read.file!).find((d) => d.name === name)!.text;
    };
    const [first, second] = dials;
    // As it is until somebody types something else.
    expect(valueOf((last() as { moveset: string }).moveset, first!.name)).toBe(first!.text);
    await (await loader.getHarness(MatButtonHarness.with({ text: 'Add another dial' }))).click();
    const boxes = await loader.getAllHarnesses(MatInputHarness);
    expect(boxes).toHaveLength(2);
    expect(await boxes[1]!.getValue()).toBe(second!.text);
    const type = async (text: string): Promise<void> => {
      await boxes[1]!.setValue(text);
      await (await boxes[1]!.host()).dispatchEvent('change');
    };
    await type('nonsense');
    expect([last(), wrong()]).toEqual([undefined, expect.stringMatching(/nonsense.*\.$/)]);
    await type(second!.text);
    expect(wrong()).toBe('');
    expect((last() as { label: string }).label).toBe('turned');
  });

  it('is an earlier revision; one that cannot be read is told', async () => {
    const { choose, last, wrong } = await choosing();
    await choose('Compare with', 'an earlier revision');
    expect(last()).toEqual({ ...OWN, moveset: 'as it was', label: 'r4' });
    await choose('Revision', '3 · lost');
    expect([last(), wrong()]).toEqual([undefined, 'This revision could not be loaded.']);
    await choose('Revision', '4 · longer slide');
    expect(wrong()).toBe('');
  });

  it('is a log of the game, once a file is chosen that is not too long', async () => {
    const { choose, last, page, fixture, wrong } = await choosing();
    await choose('Compare with', 'a log of the game');
    expect(last()).toBeUndefined();
    const give = async (name: string, size: number, text: string): Promise<void> => {
      const file = { name, size, text: () => Promise.resolve(text) };
      const box = page.querySelector<HTMLInputElement>('input[type="file"]')!;
      Object.defineProperty(box, 'files', { value: [file], configurable: true });
      box.dispatchEvent(new Event('change'));
      await new Promise((later) => setTimeout(later));
      await fixture.whenStable();
    };
    await give('long.csv', 20_000_001, '');
    expect([last(), wrong()]).toEqual([undefined, 'long.csv has 20000001 bytes, more than a log may have.']);
    await give('walk.csv', 11, 'tick,x\n0,1\n');
    expect(isLog(last())).toBe(true);
    expect(last()).toEqual({ log: { name: 'walk.csv', text: 'tick,x\n0,1\n' } });
  });
});
