import { TestBed } from '@angular/core/testing';
import courier from '../../../../../../examples/courier.yaml' with { loader: 'text' };
import { readMoveset } from '@glenmark/core/machine';
import { Workspace } from '../../data/workspace';
import { ColumnWidths } from './column-widths';
import { CrossingsGrid } from './crossings-grid';
import { buildGrid } from './grid-data';

/** The grid of the first lane of a moveset. */
async function shown(moveset: string) {
  TestBed.configureTestingModule({
    providers: [ColumnWidths, { provide: Workspace, useValue: { id: () => 'courier' } }],
  });
  const fixture = TestBed.createComponent(CrossingsGrid);
  fixture.componentRef.setInput('grid', buildGrid(readMoveset(moveset).machine!, 0, []));
  await fixture.whenStable();
  return fixture;
}

/** The grid of the courier's legs, and what is written into its first cell by keys. */
async function typing() {
  const fixture = await shown(courier);
  const written: string[] = [];
  fixture.componentInstance.write.subscribe((text) => written.push(text));
  const cell = (fixture.nativeElement as HTMLElement).querySelector<HTMLElement>('[role="gridcell"]')!;
  const press = (keys: string[], more: KeyboardEventInit = {}) => {
    for (const key of keys)
      cell.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true, ...more }));
  };
  return { written, cell, press };
}

describe('a guard that is typed in the grid', () => {
  it('has every character, also those that begin none, until the line above has the focus', async () => {
    const { written, cell, press } = await typing();
    press([...'not vy > -1']);
    expect(written.join('')).toBe('not vy > -1');
    cell.dispatchEvent(new FocusEvent('focusout', { bubbles: true }));
    press([' ', '>']);
    expect(written.join('')).toBe('not vy > -1');
  });

  it('is begun by a letter, and by nothing that means something else', async () => {
    const { written, press } = await typing();
    press([' ', '?', 'Tab', 'Escape']);
    press(['n'], { ctrlKey: true });
    expect(written).toEqual([]);
    press(['n']);
    press(['c'], { ctrlKey: true });
    expect(written).toEqual(['n']);
  });
});

describe('a row that is pressed', () => {
  it('has every other row beside it at once, for a hand may drag it before the next frame', async () => {
    const more = Array.from({ length: 40 }, (_, i) => `      S${i}: { stance: upright }\n`).join('');
    const { nativeElement } = await shown(courier.replace(/^ {4}states:\n/m, `$&${more}`));
    const grid = nativeElement as HTMLElement;
    const handles = (): NodeListOf<HTMLElement> => grid.querySelectorAll('[title="Drag to move it"]');
    expect(handles().length).toBeLessThan(40);
    handles()[0]!.dispatchEvent(new Event('pointerdown', { bubbles: true }));
    expect(handles().length).toBeGreaterThan(40);
  });
});
