import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { MatDialog } from '@angular/material/dialog';
import { type Acts, Shortcuts, shortcutOf } from './shortcuts';

@Component({
  selector: 'gm-view-of-test',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: '<input /><button type="button">{{ name() }}</button>',
})
class View {
  static acts: Acts = {};
  readonly name = input('');
  constructor() {
    inject(Shortcuts).on(View.acts);
  }
}

/** A page with views that say what their shortcuts do, the later ones over the earlier. */
function page(...views: Acts[]) {
  const openDialogs: unknown[] = [];
  TestBed.configureTestingModule({
    imports: [View],
    providers: [{ provide: MatDialog, useValue: { openDialogs } }],
  });
  const fixtures = views.map((acts) => {
    View.acts = acts;
    return TestBed.createComponent(View);
  });
  for (const fixture of fixtures) document.body.append(fixture.nativeElement as HTMLElement);
  const press = (init: KeyboardEventInit, target: EventTarget = document.body): boolean => {
    const event = new KeyboardEvent('keydown', { bubbles: true, cancelable: true, ...init });
    target.dispatchEvent(event);
    return event.defaultPrevented;
  };
  return { fixtures, press, openDialogs, shortcuts: TestBed.inject(Shortcuts) };
}

describe('the shortcuts of the views that are open', () => {
  afterEach(() => document.body.replaceChildren());

  it('do what the latest view says, and what the one before says when that does nothing', () => {
    const done: string[] = [];
    let isBusy = false;
    const { press } = page(
      { mark: () => done.push('first') },
      { mark: () => (isBusy ? false : done.push('second')) },
    );
    expect(press({ key: 'm' })).toBe(true);
    isBusy = true;
    expect(press({ key: 'm' })).toBe(true);
    expect(done).toEqual(['second', 'first']);
  });

  it('end with their view', () => {
    const done: string[] = [];
    const { press, fixtures, shortcuts } = page({ mark: () => done.push('mark') });
    expect(shortcuts.actOf('mark')).toBeDefined();
    fixtures[0]!.destroy();
    expect(press({ key: 'm' })).toBe(false);
    expect(shortcuts.actOf('mark')).toBeUndefined();
    expect(done).toEqual([]);
  });

  it('leave letters to fields, but for those that work while one writes', () => {
    const done: string[] = [];
    const { press, fixtures } = page({ mark: () => done.push('mark'), find: () => done.push('find') });
    const field = (fixtures[0]!.nativeElement as HTMLElement).querySelector('input')!;
    expect(press({ key: 'm' }, field)).toBe(false);
    expect(press({ key: 'k', ctrlKey: true }, field)).toBe(true);
    expect(done).toEqual(['find']);
  });

  it('leave Space to a button that has the keyboard, and every key to a dialog', () => {
    const done: string[] = [];
    const { press, fixtures, openDialogs } = page({ play: () => done.push('play') });
    const button = (fixtures[0]!.nativeElement as HTMLElement).querySelector('button')!;
    expect(press({ key: ' ' }, button)).toBe(false);
    openDialogs.push({});
    expect(press({ key: ' ' })).toBe(false);
    openDialogs.pop();
    expect(press({ key: ' ' })).toBe(true);
    expect(done).toEqual(['play']);
  });

  it('are told apart by where they are pressed', () => {
    const enter = new KeyboardEvent('keydown', { key: 'Enter' });
    expect(shortcutOf(enter, 'grid')).toBe('gridOpen');
    expect(shortcutOf(enter, 'bar')).toBe('barNumbers');
    expect(shortcutOf(enter, 'run')).toBeUndefined();
  });
});
