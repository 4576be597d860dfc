import { TestbedHarnessEnvironment } from '@angular/cdk/testing/testbed';
import { signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { MatButtonHarness } from '@angular/material/button/testing';
import { MatCheckboxHarness } from '@angular/material/checkbox/testing';
import { MatRadioButtonHarness } from '@angular/material/radio/testing';
import { MatSelectHarness } from '@angular/material/select/testing';
import { MatTableHarness } from '@angular/material/table/testing';
import { provideRouter } from '@angular/router';
import type { Scouting, ScoutingRequest, Shared, WorkerState } from '@glenmark/contract';
import { NO_COVERAGE } from '@glenmark/core/findings';
import { of } from 'rxjs';
import { Api } from '../../data/api';
import { Library } from '../../data/library';
import { Scoutings } from '../../data/scoutings';
import { Workspace } from '../../data/workspace';
import { ScoutingPanel } from './scouting-panel';

const QUAY: WorkerState = { name: 'quay:1', threads: 2, busy: 1, perSecond: 71_234.4 };

const SHARED: Shared = {
  parts: 2,
  turn: 0,
  startedAt: '2026-11-01T08:00:00.000Z',
  courseRevisions: [1],
  leg: 1,
  legs: 5,
  shards: [
    { course: 'mill-yard', part: 0, situations: 5200, found: 2 },
    { course: 'mill-yard', part: 1, situations: 4100, found: 0 },
  ],
  workers: [
    { ...QUAY, shards: [1], reports: false },
    { name: 'weir:9', threads: 1, busy: 0, perSecond: 0, shards: [], reports: false },
  ],
};

const scouting = (more: Partial<Scouting>): Scouting => ({
  id: 'courier-1',
  moveset: 'courier',
  courses: ['mill-yard'],
  situations: 20_000,
  seed: 1,
  revision: 3,
  state: 'running',
  begun: 1,
  seconds: 2,
  done: 5000,
  ticks: 8000,
  course: '',
  coverage: NO_COVERAGE,
  findings: [],
  notes: [],
  problem: null,
  createdAt: '2026-11-01T08:00:00.000Z',
  ...more,
});

/** The panel of the courier's scouting, with what it asked for. */
async function panel({
  workers,
  current,
  saveState = 'saved',
}: {
  /** Workers that are there; without them the server searches by itself. */
  workers?: WorkerState[];
  current?: Scouting;
  saveState?: string;
} = {}) {
  const asked = {
    started: [] as ScoutingRequest[],
    here: [] as [ScoutingRequest, string[]][],
    resumed: 0,
    stopped: 0,
  };
  TestBed.configureTestingModule({
    providers: [
      provideRouter([]),
      {
        provide: Api,
        useValue: { workers: () => of({ shared: workers !== undefined, workers: workers ?? [] }) },
      },
      {
        provide: Library,
        useValue: {
          courses: signal([
            { id: 'mill-yard', name: 'Mill yard', text: 'the yard' },
            { id: 'tide-mill', name: 'Tide mill', text: 'the mill' },
          ]),
        },
      },
      {
        provide: Workspace,
        useValue: {
          id: signal('courier'),
          revision: signal(3),
          machine: signal({}),
          saveState: signal(saveState),
          tapes: signal([
            { moveset: 'courier', course: { id: 'tide-mill' } },
            { moveset: 'marram', course: { id: 'mill-yard' } },
          ]),
          byTapes: signal(undefined),
          findings: signal([]),
        },
      },
      {
        provide: Scoutings,
        useValue: {
          current: signal(current),
          underWay: signal(current?.state === 'running'),
          connected: signal(true),
          problem: signal(undefined),
          start: (request: ScoutingRequest) => asked.started.push(request),
          startHere: (request: ScoutingRequest, texts: string[]) => asked.here.push([request, texts]),
          resume: () => asked.resumed++,
          stop: () => asked.stopped++,
        },
      },
    ],
  });
  const fixture = TestBed.createComponent(ScoutingPanel);
  await fixture.whenStable();
  // Who is there is asked for a moment later.
  await new Promise((later) => setTimeout(later));
  await fixture.whenStable();
  const loader = TestbedHarnessEnvironment.loader(fixture);
  const page = fixture.nativeElement as HTMLElement;
  const words = (): string => page.textContent.replace(/\s+/g, ' ');
  const selects = async (): Promise<MatSelectHarness[]> => loader.getAllHarnesses(MatSelectHarness);
  const click = async (text: string): Promise<void> =>
    (await loader.getHarness(MatButtonHarness.with({ text }))).click();
  return { fixture, loader, asked, words, selects, click };
}

describe('the panel of scouting', () => {
  afterEach(() => TestBed.resetTestingModule());

  it('asks a server that searches by itself for no parts, on the courses of the moveset’s own tapes', async () => {
    const { asked, selects, click, words } = await panel();
    const [budget, ...more] = await selects();
    expect(more).toEqual([]);
    await budget!.open();
    const budgets = await Promise.all((await budget!.getOptions()).map((option) => option.getText()));
    expect(budgets.at(-1)).toBe('10,000,000');
    await budget!.clickOptions({ text: '20,000' });
    await click('Start scouting');
    expect(asked.started).toEqual([
      { moveset: 'courier', courses: ['tide-mill'], situations: 20_000, seed: 1 },
    ]);
    expect(words()).not.toContain('worker');
  });

  it('asks for parts and for longer searches where workers share it, and says when nobody is there', async () => {
    const { asked, selects, click, words, loader } = await panel({ workers: [] });
    expect(words()).toContain('No worker is there: a scouting waits until one comes.');
    const [budget, parts] = await selects();
    await budget!.open();
    await budget!.clickOptions({ text: '100,000,000' });
    await parts!.open();
    await parts!.clickOptions({ text: '8' });
    for (const label of ['Mill yard', 'all over the course, not only its spawns'])
      await (await loader.getHarness(MatCheckboxHarness.with({ label }))).check();
    await click('Start scouting');
    expect(asked.started).toEqual([
      {
        moveset: 'courier',
        courses: ['tide-mill', 'mill-yard'],
        situations: 100_000_000,
        seed: 1,
        grid: 3,
        parts: 8,
      },
    ]);
  });

  it('starts on the server what is saved only, and in the page what is not, without parts', async () => {
    const { asked, loader, selects, click, words } = await panel({ workers: [QUAY], saveState: 'saving' });
    expect(words()).toContain('One worker is there, for 2 parts at a time.');
    const start = await loader.getHarness(MatButtonHarness.with({ text: 'Start scouting' }));
    expect(await start.isDisabled()).toBe(true);
    await (await loader.getHarness(MatRadioButtonHarness.with({ label: /in this page/ }))).check();
    expect(await start.isDisabled()).toBe(false);
    expect(await selects()).toHaveLength(1);
    await click('Start scouting');
    expect(asked).toMatchObject({
      started: [],
      here: [[{ moveset: 'courier', courses: ['tide-mill'], situations: 100_000, seed: 1 }, ['the mill']]],
    });
  });

  it('shows who is at what, how fast each and all of them are, and what came of each part', async () => {
    const { loader, words, click, asked } = await panel({
      workers: [QUAY],
      current: scouting({ shared: SHARED }),
    });
    const table = async (label: string) =>
      (
        await loader.getHarness(MatTableHarness.with({ selector: `[aria-label="${label}"]` }))
      ).getCellTextByIndex();
    expect(await table('Workers')).toEqual([
      ['quay:1', '2', '71,234'],
      ['weir:9', 'nothing', '0'],
    ]);
    expect(await table('Parts')).toEqual([
      ['1', '5,200', '2'],
      ['2', '4,100', '0'],
    ]);
    for (const said of ['scouting', 'by workers', 'round 2 of 5, about 6 s left', '5,000 situations', 'all'])
      expect(words()).toContain(said);
    await click('Stop');
    expect(asked.stopped).toBe(1);
  });

  it('says that nobody is there any more while it runs', async () => {
    const { words } = await panel({
      workers: [],
      current: scouting({ shared: { ...SHARED, workers: [] } }),
    });
    expect(words()).toContain('What was searched is kept; it goes on when one comes.');
  });

  it('says why one failed, of which revision it is, and begins it again', async () => {
    const { words, click, asked, fixture } = await panel({
      current: scouting({
        state: 'failed',
        revision: 2,
        problem: 'Scouting failed: the moveset does not load.',
      }),
    });
    const alert = (fixture.nativeElement as HTMLElement).querySelector('[role="alert"]')!;
    expect(alert.textContent).toBe('Scouting failed: the moveset does not load.');
    expect(words()).toContain('of revision 2; witnesses are played again at each edit');
    await click('Begin it again');
    expect(asked.resumed).toBe(1);
  });
});
