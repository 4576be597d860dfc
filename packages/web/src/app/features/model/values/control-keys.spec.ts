import { TestbedHarnessEnvironment } from '@angular/cdk/testing/testbed';
import { TestBed } from '@angular/core/testing';
import { MatButtonHarness } from '@angular/material/button/testing';
import { MatChipHarness } from '@angular/material/chips/testing';
import { MatIconTestingModule } from '@angular/material/icon/testing';
import { readMoveset } from '@glenmark/core/machine';
import type { Change } from '@glenmark/core/model';
import courier from '../../../../../../../examples/courier.yaml' with { loader: 'text' };
import { Workspace } from '../../../data/workspace';
import { ControlKeys } from './control-keys';
import { controlRows } from './controls';

function keysOf(control: string) {
  const changes: Change[][] = [];
  TestBed.configureTestingModule({
    imports: [MatIconTestingModule],
    providers: [
      { provide: Workspace, useValue: { apply: (_: string, change: Change[]) => changes.push(change) } },
    ],
  });
  const fixture = TestBed.createComponent(ControlKeys);
  const row = controlRows(readMoveset(courier).machine!).find((c) => c.name === control)!;
  fixture.componentRef.setInput('control', row);
  document.body.append(fixture.nativeElement as HTMLElement);
  return { fixture, changes, loader: TestbedHarnessEnvironment.loader(fixture) };
}

describe('the keys of a control', () => {
  afterEach(() => document.body.replaceChildren());

  it('stand as caps, one list for each end of an axis', async () => {
    const { loader } = keysOf('move');
    const chips = await loader.getAllHarnesses(MatChipHarness);
    expect(await Promise.all(chips.map((c) => c.getText()))).toEqual(['A', '←', 'D', '→']);
  });

  it('are bound by pressing one, once', async () => {
    const { loader, changes, fixture } = keysOf('hop');
    const bind = await loader.getHarness(MatButtonHarness.with({ text: 'Bind' }));
    const press = async (code: string, key = code): Promise<void> => {
      await bind.click();
      const host = await bind.host();
      expect(await host.text()).toContain('press the key');
      const element = (fixture.nativeElement as HTMLElement).querySelector('button[aria-label^="Bind"]')!;
      element.dispatchEvent(new KeyboardEvent('keydown', { code, key, bubbles: true, cancelable: true }));
      expect(await host.text()).toContain('Bind');
    };
    await press('KeyJ');
    expect(changes).toEqual([[{ path: ['controls', 'hop', 'button'], value: ['Space', 'KeyJ'] }]]);
    // One that is there already, and Escape, bind nothing.
    await press('Space', ' ');
    await press('Escape');
    expect(changes).toHaveLength(1);
  });

  it('are unbound by what removes their cap', async () => {
    const { loader, changes } = keysOf('tuck');
    const [first] = await loader.getAllHarnesses(MatChipHarness);
    await (await first!.getRemoveButton()).click();
    expect(changes).toEqual([[{ path: ['controls', 'tuck', 'button'], value: ['ArrowDown'] }]]);
  });
});
