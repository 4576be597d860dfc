import { TestbedHarnessEnvironment } from '@angular/cdk/testing/testbed';
import { ChangeDetectionStrategy, Component, CUSTOM_ELEMENTS_SCHEMA, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { MatIconButton } from '@angular/material/button';
import { MatButtonHarness } from '@angular/material/button/testing';
import { MatTabNavPanel, MatTabsModule } from '@angular/material/tabs';
import { MatTabNavBarHarness } from '@angular/material/tabs/testing';
import { MatTooltip } from '@angular/material/tooltip';
import { MatTooltipHarness } from '@angular/material/tooltip/testing';
import { provideRouter, Router, RouterLink, RouterLinkActive } from '@angular/router';
import { TapeDesk } from '../data/tape-desk';
import { Workspace } from '../data/workspace';
import { TopBar } from './top-bar';

@Component({ selector: 'gm-nothing', template: '', changeDetection: ChangeDetectionStrategy.OnPush })
class Nothing {}

/** A desk that notes its steps. */
const deskOf = (steps: string[], name: string) => ({
  id: signal(name),
  name: signal(name),
  revision: signal(3),
  saveState: signal('saved' as const),
  reason: signal(undefined),
  undoName: signal<string | undefined>('move a bar'),
  redoName: signal<string | undefined>(undefined),
  undo: () => steps.push(`undo ${name}`),
  redo: () => steps.push(`redo ${name}`),
});

async function barAt(address: string) {
  const steps: string[] = [];
  const moveset = {
    ...deskOf(steps, 'moveset'),
    findings: signal([]),
    findingsFresh: signal(true),
    expected: signal({ met: 3, of: 4 }),
  };
  TestBed.configureTestingModule({
    providers: [
      provideRouter([{ path: '**', component: Nothing }]),
      { provide: Workspace, useValue: moveset },
      { provide: TapeDesk, useValue: deskOf(steps, 'tape') },
    ],
  });
  TestBed.overrideComponent(TopBar, {
    set: {
      imports: [MatIconButton, MatTabsModule, MatTooltip, RouterLink, RouterLinkActive],
      schemas: [CUSTOM_ELEMENTS_SCHEMA],
    },
  });
  await TestBed.inject(Router).navigateByUrl(address);
  const fixture = TestBed.createComponent(TopBar);
  fixture.componentRef.setInput('panel', TestBed.createComponent(MatTabNavPanel).componentInstance);
  document.body.append(fixture.nativeElement as HTMLElement);
  const press = (target: Element, shiftKey = false): void => {
    target.dispatchEvent(new KeyboardEvent('keydown', { key: 'z', ctrlKey: true, shiftKey, bubbles: true }));
  };
  return { steps, press, moveset, loader: TestbedHarnessEnvironment.loader(fixture) };
}

const button = (label: string) => MatButtonHarness.with({ selector: `[aria-label="${label}"]` });

describe('the top bar', () => {
  afterEach(() => document.body.replaceChildren());

  it('undoes the moveset, and in Run the tape', async () => {
    for (const [view, desk] of [
      ['model', 'moveset'],
      ['findings', 'moveset'],
      ['run', 'tape'],
    ]) {
      TestBed.resetTestingModule();
      const { loader, steps } = await barAt(`/moveset/moveset/${view}`);
      await (await loader.getHarness(button('Undo'))).click();
      expect(steps).toEqual([`undo ${desk}`]);
    }
  });

  it('says what would be undone, and gives nothing to redo where nothing is', async () => {
    const { loader, moveset } = await barAt('/moveset/moveset/model');
    const redo = await loader.getHarness(button('Redo'));
    expect(await redo.isDisabled()).toBe(true);
    const hint = await loader.getHarness(MatTooltipHarness.with({ selector: '[aria-label="Undo"]' }));
    await hint.show();
    expect(await hint.getTooltipText()).toBe('Undo: move a bar (Ctrl Z)');
    moveset.redoName.set('add a state');
    expect(await redo.isDisabled()).toBe(false);
  });

  it('takes Ctrl Z, but for a field that somebody has written in and the text editor', async () => {
    const { press, steps } = await barAt('/moveset/moveset/model');
    press(document.body);
    press(document.body, true);
    expect(steps).toEqual(['undo moveset', 'redo moveset']);
    const field = document.createElement('input');
    const editor = Object.assign(document.createElement('div'), { className: 'cm-editor' });
    document.body.append(field, editor);
    press(field);
    field.value = 'written';
    press(field);
    press(editor);
    expect(steps).toEqual(['undo moveset', 'redo moveset', 'undo moveset']);
  });

  it('steps nothing where no moveset is open', async () => {
    const { press, steps, loader } = await barAt('/');
    press(document.body);
    expect(steps).toEqual([]);
    expect(await loader.getAllHarnesses(button('Undo'))).toHaveLength(0);
  });

  it('has a tab for each view, and that of the address is on', async () => {
    const { loader } = await barAt('/moveset/moveset/findings');
    const tabs = await loader.getHarness(MatTabNavBarHarness);
    const links = await tabs.getLinks();
    expect(await Promise.all(links.map((l) => l.getLabel()))).toEqual([
      'Model',
      'Run',
      'Tune',
      'Findings',
      'History',
    ]);
    expect(await (await tabs.getActiveLink()).getLabel()).toBe('Findings');
  });
});
