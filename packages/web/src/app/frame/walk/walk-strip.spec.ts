import { ChangeDetectionStrategy, Component, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { MatIconTestingModule } from '@angular/material/icon/testing';
import { provideRouter, Router } from '@angular/router';
import { Workspace } from '../../data/workspace';
import { Walk } from '../../shared/document/walk';
import { WalkStrip } from './walk-strip';

@Component({ selector: 'gm-nothing', template: '', changeDetection: ChangeDetectionStrategy.OnPush })
class Nothing {}

async function walking() {
  const finding = { fingerprint: 'OUT2/kite/Drift' };
  const workspace = {
    id: signal<string | undefined>(undefined),
    atOpening: signal<ReadonlySet<string> | undefined>(undefined),
    findings: signal<{ fingerprint: string }[]>([]),
    findingsFresh: signal(true),
  };
  TestBed.configureTestingModule({
    imports: [MatIconTestingModule],
    providers: [
      provideRouter([{ path: '**', component: Nothing }]),
      { provide: Workspace, useValue: workspace },
    ],
  });
  const walk = TestBed.inject(Walk);
  walk.start();
  const fixture = TestBed.createComponent(WalkStrip);
  const go = async (address: string): Promise<void> => {
    await TestBed.inject(Router).navigateByUrl(address);
    TestBed.tick();
  };
  const settle = async (): Promise<string> => {
    TestBed.tick();
    await fixture.whenStable();
    return (fixture.nativeElement as HTMLElement).textContent;
  };
  return { walk, workspace, finding, go, settle, fixture };
}

describe('the strip of the first walk', () => {
  beforeEach(() => localStorage.clear());

  it('goes on by what is seen of the moveset and the address, from opening it to undoing', async () => {
    const { walk, workspace, finding, go, settle } = await walking();
    await go('/moveset/courier/model');
    workspace.id.set('courier');
    expect(await settle()).toContain('Open Signal kite');
    workspace.id.set('signal-kite');
    await go('/moveset/signal-kite/model');
    expect(await settle()).toContain('press Play');
    walk.did('play');
    walk.did('why');
    expect(await settle()).toContain('break something');
    workspace.atOpening.set(new Set());
    workspace.findings.set([finding]);
    expect(await settle()).toContain('counts what is wrong');
    await go('/moveset/signal-kite/findings');
    expect(await settle()).toContain('take it back');
    workspace.findings.set([]);
    expect(await settle()).toContain('whole round');
    expect(walk.done()).toBe(6);
  });

  it('does not take findings that were there from the beginning for something broken', async () => {
    const { walk, workspace, finding, go, settle } = await walking();
    workspace.id.set('signal-kite');
    workspace.findings.set([finding]);
    workspace.atOpening.set(new Set([finding.fingerprint]));
    await go('/moveset/signal-kite/model');
    walk.did('open');
    walk.did('play');
    walk.did('why');
    expect(await settle()).toContain('break something');
  });

  it('waits with the end until findings are up to date', async () => {
    const { walk, workspace, go, settle } = await walking();
    workspace.id.set('signal-kite');
    workspace.atOpening.set(new Set());
    await go('/moveset/signal-kite/model');
    workspace.findingsFresh.set(false);
    for (const step of ['play', 'why', 'break', 'see'] as const) {
      await settle();
      walk.did(step);
    }
    expect(await settle()).toContain('take it back');
    workspace.findingsFresh.set(true);
    expect(await settle()).toContain('whole round');
  });

  it('is left by its button', async () => {
    const { walk, settle, fixture } = await walking();
    await settle();
    (fixture.nativeElement as HTMLElement).querySelector('button')!.click();
    expect(walk.done()).toBeUndefined();
  });
});
