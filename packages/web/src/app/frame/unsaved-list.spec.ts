import { signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import tape from '../../../../../examples/culvert-slide.yaml' with { loader: 'text' };
import { Analysis } from '../data/analysis';
import { Documents } from '../data/documents';
import type { SaveState } from '../data/open-document';
import { Notifications } from '../shared/ui/notifications';
import { UnsavedList } from './unsaved-list';

const opened = (kind: 'moveset' | 'course' | 'tape', id: string, saveState: SaveState, text = '') => ({
  kind,
  id,
  name: signal(id),
  saveState: signal(saveState),
  reason: signal(saveState === 'waiting' ? 'The server is away.' : undefined),
  text: signal(text),
});

async function listed(
  unsaved: ReturnType<typeof opened>[],
  { but, keepsNothing = false }: { but?: string; keepsNothing?: boolean } = {},
) {
  const said: string[] = [];
  const replaced = signal(0);
  TestBed.configureTestingModule({
    providers: [
      provideRouter([]),
      {
        provide: Documents,
        useValue: { unsaved: signal(unsaved), keepsNothing: signal(keepsNothing) },
      },
      { provide: Notifications, useValue: { say: (sentence: string) => said.push(sentence) } },
      { provide: Analysis, useValue: { replaced } },
    ],
  });
  const fixture = TestBed.createComponent(UnsavedList);
  fixture.componentRef.setInput('but', but);
  await fixture.whenStable();
  const page = fixture.nativeElement as HTMLElement;
  return {
    said,
    replaced,
    fixture,
    words: page.textContent.replace(/\s+/g, ' ').trim(),
    links: [...page.querySelectorAll('a')].map((a) => a.getAttribute('href')),
  };
}

describe('the list of what is not saved', () => {
  afterEach(() => TestBed.resetTestingModule());

  it('is empty while all is saved or on its way', async () => {
    expect((await listed([])).words).toBe('');
    TestBed.resetTestingModule();
    expect((await listed([opened('moveset', 'courier', 'saving')])).words).toBe('');
  });

  it('names each document and leads to it: a tape into the view of its moveset', async () => {
    const { words, links } = await listed([
      opened('moveset', 'courier', 'waiting'),
      opened('course', 'mill-yard', 'conflict'),
      opened('tape', 'over-the-weir', 'refused', tape),
    ]);
    for (const name of ['courier', 'mill-yard', 'over-the-weir']) expect(words).toContain(name);
    expect(links).toHaveLength(3);
    expect(links[0]).toContain('courier');
    expect(links[1]).toContain('mill-yard');
    expect(links[2]).toMatch(/courier.*tape=over-the-weir/);
  });

  it('beside a document counts the others only, and leads to the first of them', async () => {
    const { words, links } = await listed(
      [
        opened('moveset', 'courier', 'waiting'),
        opened('course', 'mill-yard', 'waiting'),
        opened('course', 'tide-mill', 'refused'),
      ],
      { but: 'moveset/courier' },
    );
    expect(words).toBe('2 not saved');
    expect(links).toEqual([expect.stringContaining('mill-yard')]);
  });

  it('asks to keep the page open where the browser stores nothing', async () => {
    const asks = 'Keep this page open: this browser stores nothing.';
    expect((await listed([], { keepsNothing: true })).words).toBe('');
    TestBed.resetTestingModule();
    const { words } = await listed([opened('moveset', 'courier', 'waiting')], { keepsNothing: true });
    expect(words).toContain(asks);
  });

  it('says that the analysis was started again, each time', async () => {
    const { said, replaced, fixture } = await listed([]);
    expect(said).toEqual([]);
    for (const times of [1, 2]) {
      replaced.set(times);
      await fixture.whenStable();
      expect(said).toHaveLength(times);
    }
    expect(said[0]).toBe('The analysis stopped unexpectedly and was started again.');
  });
});
