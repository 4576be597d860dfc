import { ChangeDetectionStrategy, Component, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import courier from '../../../../../../examples/courier.yaml' with { loader: 'text' };
import { readMoveset } from '@glenmark/core/machine';
import { type Change, type CrossingFile, edit, errorsOf } from '@glenmark/core/model';
import { Workspace } from '../../data/workspace';
import { Notifications } from '../../shared/ui/notifications';
import { CellClipboard } from './cell-clipboard';
import type { CellPlace } from './crossings-grid';
import { copiedStateText } from './lane-clipboard';

@Component({
  selector: 'gm-cell',
  imports: [CellClipboard],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: '<p gmCellClipboard [lane]="0" [cell]="cell()"></p><input />',
})
class Cell {
  readonly cell = signal<CellPlace | undefined>(undefined);
}

/** The courier with a cell of its first lane chosen, and what the clipboard does to it. */
async function chosen(cell: CellPlace | undefined) {
  let text = courier;
  const steps: string[] = [];
  const said: string[] = [];
  TestBed.configureTestingModule({
    providers: [
      { provide: Notifications, useValue: { say: (sentence: string) => said.push(sentence) } },
      {
        provide: Workspace,
        useValue: {
          compiled: () => readMoveset(text),
          apply(name: string, changes: readonly Change[]) {
            const after = edit(text, changes);
            const wrong = errorsOf(readMoveset(after).diagnostics);
            if (wrong.length > 0) return wrong;
            steps.push(name);
            text = after;
            return [];
          },
        },
      },
    ],
  });
  const fixture = TestBed.createComponent(Cell);
  fixture.componentInstance.cell.set(cell);
  await fixture.whenStable();
  const page = fixture.nativeElement as HTMLElement;
  const send = (type: 'copy' | 'cut' | 'paste', data = '', at = 'p') => {
    let held = data;
    const event = new Event(type, { bubbles: true, cancelable: true });
    const clipboardData = { getData: () => held, setData: (_: string, given: string) => (held = given) };
    page.querySelector(at)!.dispatchEvent(Object.assign(event, { clipboardData }));
    return { held, isTaken: event.defaultPrevented };
  };
  const crossings = (): CrossingFile[] => readMoveset(text).file!.lanes[0]!.crossings ?? [];
  document.body.append(page);
  return { send, steps, said, crossings, text: () => text };
}

const first = readMoveset(courier).file!.lanes[0]!.crossings!.find(
  ({ from }) => typeof from === 'string' && from !== '*',
)!;
const PLACE: CellPlace = { from: first.from as string, to: first.to };

describe('the clipboard of a chosen cell', () => {
  afterEach(() => {
    TestBed.resetTestingModule();
    document.body.replaceChildren();
  });

  it('has nothing to copy without a cell, nor from an empty one', async () => {
    for (const place of [undefined, { from: PLACE.from, to: PLACE.from }]) {
      const { send, steps } = await chosen(place);
      expect([send('copy'), send('cut'), steps]).toEqual([
        { held: '', isTaken: false },
        { held: '', isTaken: false },
        [],
      ]);
      TestBed.resetTestingModule();
    }
  });

  it('takes a crossing out of its cell, and puts it into another one', async () => {
    const { send, steps, crossings } = await chosen(PLACE);
    const before = crossings();
    const { held, isTaken } = send('copy');
    expect([isTaken, held.startsWith('crossings:'), steps]).toEqual([true, true, []]);
    expect(send('cut').held).toBe(held);
    expect(steps).toEqual([`cut ${PLACE.from} → ${PLACE.to}`]);
    expect(crossings()).toHaveLength(before.length - 1);
    expect(send('paste', held).isTaken).toBe(true);
    expect(steps.at(-1)).toBe(`paste ${PLACE.from} → ${PLACE.to}`);
    // It is at the end of the lane then, as it was written.
    expect(crossings().at(-1)).toEqual(before.find((c) => c.from === PLACE.from && c.to === PLACE.to));
    expect(crossings()).toHaveLength(before.length);
  });

  it('puts a state with its ways out into the lane, whichever cell is chosen', async () => {
    const { file, machine } = readMoveset(courier);
    const index = machine!.lanes[0]!.states.find((s) => machine!.states[s]!.members.length === 0)!;
    const { send, said, text } = await chosen(undefined);
    expect(send('paste', copiedStateText(machine!, file!, index)!).isTaken).toBe(true);
    expect(said).toEqual([expect.stringMatching(/^\w.* is here, with its ways out\.$/)]);
    expect(readMoveset(text()).machine!.states).toHaveLength(machine!.states.length + 1);
  });

  it('says what is wrong with what cannot be pasted, and changes nothing', async () => {
    const { send, said, steps, text } = await chosen(PLACE);
    const guard = 'crossings:\n  - { from: A, to: B, when: held(nothing) }';
    expect(send('paste', guard).isTaken).toBe(true);
    expect(said).toEqual([expect.stringMatching(/^Not pasted: .*nothing.*\.$/)]);
    expect([steps, text()]).toEqual([[], courier]);
  });

  it('leaves every other text to whoever wants it, and what is pasted into a field', async () => {
    const { send, steps, said } = await chosen(PLACE);
    const { held } = send('copy');
    expect(send('paste', 'a sentence: with a colon').isTaken).toBe(false);
    expect(send('paste', held, 'input').isTaken).toBe(false);
    expect([steps, said]).toEqual([[], []]);
  });
});
