import { TestBed } from '@angular/core/testing';
import type { Problem, StoredDocument } from '@glenmark/contract';
import type { Finding } from '@glenmark/core/findings';
import { delay, NEVER, of, throwError } from 'rxjs';
import { Analysis } from './analysis';
import { Api, ApiError } from './api';
import { Changes } from './changes';
import { Library } from './library';
import { UnsentEdits } from './unsent-edits';
import { Workspace } from './workspace';

const TEXT = `glenmark: 1
kind: moveset
name: Small
body: { stances: { upright: { shape: box, width: 1 m, height: 2 m } } }
lanes:
  - name: legs
    initial: A
    states: { A: {}, B: {} }
    crossings:
      - { from: A, to: B, when: grounded }
      - { from: B, to: A, when: airborne }
`;
const GUARD = ['lanes', 0, 'crossings', 0, 'when'];

const stored = (revision: number, text = TEXT): StoredDocument => ({
  kind: 'moveset',
  id: 'small',
  name: 'Small',
  revision,
  updatedAt: '2026-01-01T00:00:00Z',
  text,
  hash: `hash${revision}`.padEnd(12, '0'),
  message: '',
});
const failure = (status: number): ApiError => new ApiError({ status, detail: `status ${status}` } as Problem);

/** A browser that has no edits of earlier pages. */
const NOTHING_KEPT = {
  failed: () => false,
  keep: () => Promise.resolve(),
  forget: () => Promise.resolve(),
  takeUp: () => Promise.resolve([]),
};

/** A workspace with a server that answers as it is told to. */
async function setUp(
  save: (base: { revision: number }, text: string) => ReturnType<Api['save']> = (base, text) =>
    of(stored(base.revision + 1, text)),
  { tapes = of<unknown[]>([]), delay: lag = 0 } = {},
) {
  const saved: { base: number; text: string }[] = [];
  let server = stored(1);
  const api = {
    read: () => of(server),
    save: (base: { id: string; revision: number }, { text }: { text: string }) => {
      saved.push({ base: base.revision, text });
      return save(base, text);
    },
  };
  const analysed: string[] = [];
  const analysis = {
    expected: () => of({ met: 1, of: 2 }),
    findings: (text: string) => {
      analysed.push(text);
      const findings = [{ fingerprint: String(analysed.length) } as Finding];
      const answer = of({ findings, byTapes: undefined, undecided: [] });
      return lag === 0 ? answer : answer.pipe(delay(lag));
    },
  };
  TestBed.configureTestingModule({
    providers: [
      { provide: Api, useValue: api },
      { provide: Analysis, useValue: analysis },
      { provide: Library, useValue: { tapesFor: () => tapes } },
      { provide: Changes, useValue: { heard: NEVER } },
      { provide: UnsentEdits, useValue: NOTHING_KEPT },
    ],
  });
  const workspace = TestBed.inject(Workspace);
  workspace.open('small');
  await vi.advanceTimersByTimeAsync(0);
  TestBed.tick();
  return { workspace, saved, analysed, setServer: (document: StoredDocument) => (server = document) };
}

const settle = async (ms: number): Promise<void> => {
  TestBed.tick();
  await vi.advanceTimersByTimeAsync(ms);
  TestBed.tick();
};

describe('the workspace', () => {
  beforeEach(() => vi.useFakeTimers());
  afterEach(() => vi.useRealTimers());

  it('compares with what was found at opening with the tapes, not with an answer that was asked for before they came', async () => {
    // Asked at 30 ms, answered at 75 ms, between the tapes at 60 ms and the next question at 90 ms.
    const { workspace, analysed } = await setUp(undefined, {
      tapes: of<unknown[]>([]).pipe(delay(60)),
      delay: 45,
    });
    for (let t = 0; t < 80; t += 5) await settle(5);
    expect(analysed).toHaveLength(1);
    expect(workspace.atOpening()).toBeUndefined();
    for (let t = 0; t < 80; t += 5) await settle(5);
    expect(analysed).toHaveLength(2);
    expect([...workspace.atOpening()!]).toEqual(['2']);
  });

  it('refuses a change that would not load, and keeps everything as it was', async () => {
    const { workspace, saved } = await setUp();
    const wrong = workspace.apply('break', [{ path: GUARD, value: 'groundd' }]);
    expect(wrong[0]!.message).toContain("did you mean 'grounded'");
    expect(workspace.text()).toBe(TEXT);
    expect(workspace.undoName()).toBeUndefined();
    await settle(2000);
    expect(saved).toEqual([]);
  });

  it('saves once after a burst of changes, with the newest text', async () => {
    const { workspace, saved } = await setUp();
    for (const guard of ['airborne', 'rising', 'falling'])
      expect(workspace.apply(guard, [{ path: GUARD, value: guard }])).toEqual([]);
    expect(workspace.saveState()).toBe('saving');
    await settle(2000);
    expect(saved).toHaveLength(1);
    expect(saved[0]!.text).toContain('when: falling');
    expect([workspace.saveState(), workspace.revision()]).toEqual(['saved', 2]);
  });

  it('a step that goes on is one with the step before it, and undone with it', async () => {
    const { workspace } = await setUp();
    for (const guard of ['airborne', 'rising'])
      workspace.apply('turn', [{ path: GUARD, value: guard }], { goesOn: true });
    workspace.apply('other', [{ path: GUARD, value: 'falling' }], { goesOn: true });
    workspace.undo();
    expect(workspace.text()).toContain('when: rising');
    workspace.undo();
    expect(workspace.text()).toBe(TEXT);
  });

  it('tells what was found first, once the tapes are there, and how many expectations are met', async () => {
    const { workspace } = await setUp();
    await settle(1000);
    const first = workspace.findings()[0]!.fingerprint;
    expect([...workspace.atOpening()!]).toEqual([first]);
    expect(workspace.expected()).toEqual({ met: 1, of: 2 });
    workspace.apply('one', [{ path: GUARD, value: 'falling' }]);
    await settle(1000);
    expect(workspace.findings()[0]!.fingerprint).not.toBe(first);
    expect([...workspace.atOpening()!]).toEqual([first]);
  });

  it('undoes and does again step by step, and a new change forgets what was undone', async () => {
    const { workspace } = await setUp();
    workspace.apply('one', [{ path: GUARD, value: 'airborne' }]);
    workspace.apply('two', [{ path: GUARD, value: 'rising' }]);
    expect(workspace.undoName()).toBe('two');
    workspace.undo();
    expect(workspace.text()).toContain('when: airborne');
    expect([workspace.undoName(), workspace.redoName()]).toEqual(['one', 'two']);
    workspace.redo();
    expect(workspace.text()).toContain('when: rising');
    workspace.undo();
    workspace.undo();
    expect(workspace.text()).toBe(TEXT);
    workspace.apply('three', [{ path: GUARD, value: 'falling' }]);
    expect(workspace.redoName()).toBeUndefined();
  });

  it('keeps trying while the server does not answer, and says so', async () => {
    let up = false;
    const { workspace, saved } = await setUp((base, text) =>
      up ? of(stored(base.revision + 1, text)) : throwError(() => failure(0)),
    );
    workspace.apply('one', [{ path: GUARD, value: 'airborne' }]);
    await settle(3000);
    expect(workspace.saveState()).toBe('waiting');
    up = true;
    await settle(3000);
    expect(workspace.saveState()).toBe('saved');
    expect(saved[saved.length - 1]!.text).toContain('when: airborne');
  });

  const conflicted = async () => {
    const theirs = stored(5, TEXT.replace('when: grounded', 'when: rising'));
    let first = true;
    const set = await setUp((base, text) => {
      if (!first) return of(stored(base.revision + 1, text));
      first = false;
      return throwError(() => failure(412));
    });
    set.workspace.apply('mine', [{ path: GUARD, value: 'falling' }]);
    set.setServer(theirs);
    await settle(1000);
    expect([set.workspace.saveState(), set.workspace.theirs()?.revision]).toEqual(['conflict', 5]);
    return set;
  };

  it('meets a conflict by asking, and can keep mine on top of theirs', async () => {
    const { workspace, saved } = await conflicted();
    workspace.resolve('mine');
    await settle(1000);
    expect(saved[saved.length - 1]).toMatchObject({ base: 5 });
    expect(saved[saved.length - 1]!.text).toContain('when: falling');
    expect([workspace.saveState(), workspace.revision()]).toEqual(['saved', 6]);
  });

  it('or take theirs, and undo brings mine back', async () => {
    const { workspace } = await conflicted();
    workspace.resolve('theirs');
    expect(workspace.text()).toContain('when: rising');
    workspace.undo();
    expect(workspace.text()).toContain('when: falling');
    await settle(1000);
    expect(workspace.revision()).toBe(6);
  });

  it('looks for findings after each change, and shows that the old ones are old meanwhile', async () => {
    const { workspace, analysed } = await setUp();
    await settle(100);
    expect(workspace.findingsFresh()).toBe(true);
    workspace.apply('one', [{ path: GUARD, value: 'airborne' }]);
    TestBed.tick();
    expect(workspace.findingsFresh()).toBe(false);
    await settle(100);
    expect(workspace.findingsFresh()).toBe(true);
    expect(analysed[analysed.length - 1]).toContain('when: airborne');
  });

  it('says what stands in the way of opening', async () => {
    const { workspace } = await setUp();
    TestBed.inject(Api).read = () => throwError(() => failure(404));
    workspace.open('other');
    await settle(0);
    expect(workspace.problem()).toBe('status 404');
    TestBed.inject(Api).read = () => NEVER;
    workspace.open('third');
    expect(workspace.problem()).toBeUndefined();
  });
});
