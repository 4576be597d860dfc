import { Directive, inject, input } from '@angular/core';
import type { Crossing, Machine, StateAlone } from '@glenmark/core/machine';
import { type CrossingFile, errorsOf, type MovesetFile } from '@glenmark/core/model';
import { Workspace } from '../../data/workspace';
import { isTyping } from '../../shared/ui/typing';
import type { CellPlace } from './crossings-grid';
import { removeCrossing } from '../../shared/document/edits';
import { copiedCrossing, copiedCrossingText, copiedState, pasteState } from './lane-clipboard';
import { Notifications } from '../../shared/ui/notifications';

/** Copies, cuts and pastes the crossing of the chosen cell, also between movesets. */
@Directive({
  selector: '[gmCellClipboard]',
  host: { '(copy)': 'copy($event)', '(cut)': 'cut($event)', '(document:paste)': 'paste($event)' },
})
export class CellClipboard {
  private readonly workspace = inject(Workspace);
  private readonly notifications = inject(Notifications);
  readonly lane = input.required<number>();
  readonly cell = input<CellPlace | undefined>();

  protected copy(event: ClipboardEvent): void {
    const found = this.found();
    if (found === undefined) return;
    event.preventDefault();
    event.clipboardData?.setData('text/plain', copiedCrossingText(found.written));
  }

  protected cut(event: ClipboardEvent): void {
    const found = this.found();
    if (found === undefined) return;
    this.copy(event);
    this.workspace.apply($localize`cut ${found.name}`, removeCrossing(found.crossing));
  }

  protected paste(event: ClipboardEvent): void {
    if (isTyping(event)) return;
    const cell = this.cell();
    const { file, machine } = this.workspace.compiled();
    const text = event.clipboardData?.getData('text/plain') ?? '';
    const state = copiedState(text);
    if (state !== undefined && file !== undefined && machine !== undefined) {
      event.preventDefault();
      return this.pasteState(machine, file, state);
    }
    const copied = copiedCrossing(text);
    if (cell === undefined || file === undefined || machine === undefined || copied === undefined) return;
    event.preventDefault();
    const path = [...machine.lanes[this.lane()]!.path, 'crossings'];
    const list = file.lanes[this.lane()]!.crossings ?? [];
    const value = { ...copied, ...cell };
    const [wrong] = this.workspace.apply($localize`paste ${cell.from} → ${cell.to}`, [
      list.length === 0 ? { path, value: [value] } : { path: [...path, list.length], value, insert: true },
    ]);
    if (wrong !== undefined) this.notifications.say($localize`Not pasted: ${wrong.message}.`);
  }

  private pasteState(machine: Machine, file: MovesetFile, copied: StateAlone): void {
    const { name, changes, leftOut } = pasteState(machine, file, this.lane(), copied);
    const [wrong] = errorsOf(this.workspace.apply($localize`paste ${name}`, changes));
    const sentence =
      wrong !== undefined
        ? $localize`Not pasted: ${wrong.message}.`
        : leftOut.length > 0
          ? $localize`${name} is here. Left out: its ways to ${leftOut.join(', ')}, which this lane does not have.`
          : $localize`${name} is here, with its ways out.`;
    this.notifications.say(sentence);
  }

  /** The first crossing of the cell, as the machine and as the file have it. */
  private found(): { crossing: Crossing; written: CrossingFile; name: string } | undefined {
    const cell = this.cell();
    const { file, machine } = this.workspace.compiled();
    if (cell === undefined || file === undefined || machine === undefined) return undefined;
    const crossing = crossingAt(machine, file, this.lane(), cell);
    return crossing && { ...crossing, name: `${cell.from} → ${cell.to}` };
  }
}

function crossingAt(
  machine: Machine,
  file: MovesetFile,
  lane: number,
  { from, to }: CellPlace,
): { crossing: Crossing; written: CrossingFile } | undefined {
  const name = (s: number): string => machine.states[s]!.name;
  const crossing = machine.lanes[lane]!.crossings.find(
    (c) => name(c.to) === to && (from === '*' ? c.from.length === 0 : c.from.some((s) => name(s) === from)),
  );
  const written = crossing && file.lanes[lane]!.crossings?.[crossing.index];
  return written === undefined ? undefined : { crossing: crossing!, written };
}
